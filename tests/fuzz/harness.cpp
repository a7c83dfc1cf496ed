#include "fuzz/harness.hpp"

#include "core/evaluation/evaluation.hpp"
#include "core/library/part_library.hpp"
#include "core/load/piece_csv.hpp"
#include "core/motion/profile.hpp"
#include "core/project/document.hpp"
#include "core/quantity/parse.hpp"
#include "core/report/worksheet.hpp"
#include "core/rules/house_rules.hpp"

#include <array>
#include <cmath>
#include <cstdio>
#include <cstdlib>

namespace fulmox::fuzz {
namespace {

const MotionKinds linear = motion_of(new_axis(""));

void told(const Problem& problem) {
  require(!problem.what.empty(), "a refusal says why");
  require(problem.text().size() < 20'000, "a refusal is short");
}

void machine(std::string_view input) {
  const auto document = from_json(input);
  if (!document) return told(document.problem());
  const std::string text = to_json(*document);
  const auto again = from_json(text);
  require(static_cast<bool>(again), "what is written can be read", text);
  require(to_json(*again) == text, "what is written reads back the same", text);
  constexpr std::size_t quick = 60; // long cycles are another matter, measured elsewhere
  for (const Axis& axis : document->axes) {
    if (axis.cycle.size() > quick || document->axes.size() > 4) continue;
    const auto result = evaluate(axis, document->house_rules);
    if (!result) told(result.problem());
  }
}

void parts(std::string_view input) {
  const PartsRead read = read_parts(input, Axis(new_axis(""))["motor"].spec(), "fuzz.csv");
  for (const Problem& problem : read.problems) told(problem);
}

void points(std::string_view input, const CsvPair& columns) {
  const auto text = points_from_csv(input, columns);
  if (!text) return told(text.problem());
  const FieldSpec field =
      fulmox::points("points", "Points", "", columns.first, columns.second, range::any, "");
  const Entry entry = make_entry(field, *text);
  require(make_entry(field, entry.text) == entry, "points read back the same");
  if (entry.faulty() || entry.curve.size() > 2000) return;
  const auto fitted = fit_profile(entry.curve, 0.0, true);
  if (!fitted) told(fitted.problem());
}

void profile(std::string_view input) { points(input, profile_columns(linear)); }
void process(std::string_view input) { points(input, process_columns(linear)); }

void pieces(std::string_view input) {
  const auto read = pieces_from_csv(input);
  if (!read) told(read.problem());
}

void rules(std::string_view input) {
  const auto read = house_rules_from_json(input);
  if (!read) return told(read.problem());
  (void)faults(*read);
}

/// The first byte chooses the kind, the text up to the first line end is what stood in the field before.
void quantity(std::string_view input) {
  if (input.size() < 2) return;
  const auto kind =
      static_cast<Kind>(static_cast<unsigned char>(input.front()) % static_cast<unsigned>(Kind::count_));
  const auto cut = input.find('\n');
  const std::string_view last = cut == input.npos ? "" : input.substr(1, cut - 1);
  const std::string_view text = cut == input.npos ? input.substr(1) : input.substr(cut + 1);
  const FieldSpec field = optional("x", "X", "x", kind, range::any, "");
  const Entry entry = make_entry(field, text, usual_unit(field, make_entry(field, last)));
  if (entry.faulty()) return told(entry.fault);
  if (entry.blank()) return;
  require(std::isfinite(entry.value), "a value is a number");
  const Entry again = make_entry(field, entry.text);
  require(!again.faulty() && again.value == entry.value && again.tolerance == entry.tolerance,
          "a text keeps its meaning", entry.text);
  require(usual_unit(field, again) == usual_unit(field, entry), "a text keeps its unit", entry.text);
}

} // namespace

std::span<const Harness> harnesses() {
  static constexpr std::array all{Harness{"machine", machine},  Harness{"parts", parts},
                                  Harness{"profile", profile},  Harness{"process", process},
                                  Harness{"pieces", pieces},    Harness{"rules", rules},
                                  Harness{"quantity", quantity}};
  return all;
}

void require(bool kept, const char* promise, std::string_view detail) {
  if (kept) return;
  std::fprintf(stderr, "broken promise: %s\n%.*s\n", promise,
               static_cast<int>(std::min<std::size_t>(detail.size(), 2000)), detail.data());
  std::abort();
}

} // namespace fulmox::fuzz
