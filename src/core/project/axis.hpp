#pragma once
#include "core/project/section.hpp"

#include <array>
#include <map>
#include <string>
#include <vector>

namespace fulmox {

/// The givens of an axis besides its cycle, in the order of the work.
enum class Given : std::uint8_t {
  load,
  mechanism,
  surroundings,
  gearhead,
  motor,
  coupling,
  brake,
  drive,
  count_
};
inline constexpr std::size_t given_count = static_cast<std::size_t>(Given::count_);

/// One axis as the user describes it. A value.
struct Axis {
  std::string name;
  std::vector<Section> givens; ///< indexed by Given
  std::vector<Section> cycle;
  std::map<std::string, std::string> unknown;

  [[nodiscard]] const Section& operator[](Given given) const {
    return givens[static_cast<std::size_t>(given)];
  }
  [[nodiscard]] Section& operator[](Given given) { return givens[static_cast<std::size_t>(given)]; }
  bool operator==(const Axis&) const = default;
};

/// An axis with every preset typed, no moved mass, an empty cycle.
Axis new_axis(std::string name);

/// Gives the segments their paths again after they were added, removed or moved.
void number_segments(Axis& axis);

/// The section a path such as "motor" or "cycle[1]" names, or nullptr.
Section* find_section(Axis& axis, std::string_view path);
const Section* find_section(const Axis& axis, std::string_view path);

/// What a field of a section means to the user: "Mechanism, lead". "" when there is no such field. A place
/// inside the typed text may follow the field: "lead (column 3)".
std::string describe_path(const Section& section, std::string_view field);
/// The same for a path such as "mechanism.lead".
std::string describe_path(const Axis& axis, std::string_view path);

/// The faults in one section's typed values.
std::vector<Problem> faults(const Section& section);

/// Every fault in the typed values, with paths such as "load.moved_mass".
std::vector<Problem> faults(const Axis& axis);

} // namespace fulmox
