#pragma once
#include "core/library/part_library.hpp"
#include "core/quantity/kind.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// What is wrong or worth a question in the data sheet of a part.
struct PartRemark {
  enum class Grade : std::uint8_t {
    contradiction, ///< its numbers cannot all be right
    implausible,   ///< unusual for its size
    missing        ///< something cannot be judged without it
  } grade = Grade::missing;
  std::string field; ///< id of the field it is about
  std::string text;
};
std::string_view word(PartRemark::Grade grade);

/// Checks a part by itself: its fields and orders (peak not below rated …), numbers that do not follow from
/// its others (the second look of data sheets, on a plain axis), sizes that no part of its kind has, and what
/// a limit could not be judged without. Contradictions first.
std::vector<PartRemark> check_part(std::string_view slot, const Section& part, UnitSet units = UnitSet::si);

} // namespace fulmox
