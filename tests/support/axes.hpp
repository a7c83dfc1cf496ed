#pragma once
#include "core/evaluation/plots.hpp"
#include "core/library/part_library.hpp"
#include "core/project/document.hpp"

#include <filesystem>
#include <random>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox::testing {

/// How many rounds a random test takes: as many as said; a third under sanitizers, where each takes five
/// times as long.
constexpr int rounds(int all) {
#ifdef FULMOX_SANITIZED
  return (all + 2) / 3;
#else
  return all;
#endif
}

/// Of a long list every so manieth is looked at: three times as far apart under sanitizers.
constexpr std::size_t every(std::size_t so_many) {
#ifdef FULMOX_SANITIZED
  return 3 * so_many;
#else
  return so_many;
#endif
}

std::filesystem::path source_folder();
/// The shipped library and demo, read from the source tree.
const Library& library();
/// Its parts of one kind.
Parts parts_of_form(std::string_view slot, const SectionSpec& form);
Document demo();
/// Its first axis.
Axis picker();

/// A house-rules section with its presets.
Section house_rules();

void add_move(Axis& axis, const std::string& distance, const std::string& time, const std::string& accel,
              const std::string& decel);
void add_dwell(Axis& axis, const std::string& time);

/// A level 10 kg axis on a 10 mm screw, one move of 300 mm in 0.4 s by thirds, without motor.
Axis plain_axis();

/// Appends a segment of any kind with these values typed.
void add_segment(Axis& axis, std::string_view kind,
                 std::initializer_list<std::pair<std::string_view, std::string>> values);

/// Ids of all registered mechanisms.
std::vector<std::string_view> all_mechanisms();

/// An axis on another mechanism, its forms as new.
Axis axis_on(std::string_view mechanism);

/// Random screw axes of sensible size with a closed cycle; the same seed gives the same axes.
class RandomAxes {
public:
  explicit RandomAxes(unsigned seed) : engine_(seed) {}
  Axis next();
  /// A random axis on any mechanism, random laws and stages, back where it began.
  Axis next_on(std::string_view mechanism);
  double between(double low, double high);
  std::mt19937& engine() { return engine_; }

private:
  std::mt19937 engine_;
};

/// The evaluation of an axis that must work; fails the test with the problem otherwise.
Evaluation evaluated(const Axis& axis);
/// Its state at the moments a plot shows.
std::vector<Instant> samples_of(const Evaluation& evaluation);
/// A result's value.
double value(const Evaluation& evaluation, std::string_view id);
/// Checks that every number of two evaluations is alike, within a relative deviation.
void check_same(const Evaluation& a, const Evaluation& b, double within);
/// A limit by id; fails the test when it is not there.
const Limit& limit(const Evaluation& evaluation, std::string_view id);
bool warns(const Evaluation& evaluation, std::string_view id);

/// A folder that is removed again.
class TemporaryFolder {
public:
  TemporaryFolder();
  ~TemporaryFolder();
  TemporaryFolder(const TemporaryFolder&) = delete;
  TemporaryFolder& operator=(const TemporaryFolder&) = delete;
  [[nodiscard]] std::filesystem::path file(const std::string& name) const { return path_ / name; }

private:
  std::filesystem::path path_;
};

} // namespace fulmox::testing
