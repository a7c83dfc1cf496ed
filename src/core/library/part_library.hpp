#pragma once
#include "core/library/part_reader.hpp"
#include "core/project/axis.hpp"

#include <functional>
#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// The slots whose parts a library may hold: those of an axis, then those of the machine.
std::vector<const SlotSpec*> part_slots();
/// The slots of an axis whose parts are chosen from a library.
std::vector<const SlotSpec*> axis_part_slots();
/// One of part_slots(); nullptr when there is none.
const SlotSpec* find_part_slot(std::string_view id);

/// The parts of every slot that is chosen from a library.
class Library {
public:
  /// Of all kinds of a slot ("motor"); none when no library has any.
  [[nodiscard]] const Parts& of(std::string_view slot) const;
  /// nullptr when there is no such part.
  [[nodiscard]] const Section* find(std::string_view slot, std::string_view part_number) const;
  void add(std::string_view slot, Parts parts);

private:
  std::map<std::string, Parts, std::less<>> parts_;
};

/// What is wrong in a part by itself: its fields, and between them. What the user sets is not of the part.
std::vector<Problem> part_faults(std::string_view slot, const Section& part);

/// Puts a part into an axis: every field of the section becomes the part's, its origin "data sheet".
void choose_part(Axis& axis, std::string_view slot, const Section& part);

} // namespace fulmox
