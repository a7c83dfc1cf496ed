#include "core/brake/brake.hpp"
#include "core/match/search.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

std::vector<PartChoice> searched(const Axis& axis, std::string_view slot, const Library& library, bool wanted,
                                 unsigned threads) {
  std::vector<PartChoice> all;
  if (wanted) all = choices_for(axis, slot, library.of(slot), threads);
  if (all.empty()) all.push_back(choice_now(axis, slot));
  return all;
}

struct SlotList {
  std::string_view slot;
  std::vector<PartChoice> MatchSpace::*choices;
  std::uint32_t Combination::*place;
};
constexpr std::array slot_lists{SlotList{"motor", &MatchSpace::motors, &Combination::motor},
                                SlotList{"gearhead", &MatchSpace::heads, &Combination::head},
                                SlotList{"drive", &MatchSpace::drives, &Combination::drive},
                                SlotList{"brake", &MatchSpace::brakes, &Combination::brake},
                                SlotList{"coupling", &MatchSpace::couplings, &Combination::coupling}};

const SlotList& list_of(std::string_view slot) {
  return *std::find_if(slot_lists.begin(), slot_lists.end(),
                       [&](const SlotList& one) { return one.slot == slot; });
}

} // namespace

const std::vector<PartChoice>& choices_of(const MatchSpace& space, std::string_view slot) {
  return space.*list_of(slot).choices;
}
std::vector<PartChoice>& choices_of(MatchSpace& space, std::string_view slot) {
  return space.*list_of(slot).choices;
}
std::uint32_t Combination::*place_in(std::string_view slot) { return list_of(slot).place; }

std::vector<std::string_view> searched_slots(const MatchSpace& space) {
  std::vector<std::string_view> all;
  for (const SlotList& one : slot_lists)
    if ((space.*one.choices).size() > 1) all.push_back(one.slot);
  return all;
}

MatchSpace match_space(const Axis& axis, const Library& library, AlsoSearched also, unsigned threads) {
  const auto choices = [&](std::string_view slot, bool wanted) {
    return searched(axis, slot, library, wanted, threads);
  };
  MatchSpace space{choices("motor", true), choices("gearhead", true), choices("drive", true),
                   choices("brake", also.brake), choices("coupling", also.coupling)};
  if (space.brakes.size() > 1) return space;
  // where its sheet does not tell, the motor's price alone is what is known
  for (PartChoice& motor : space.motors)
    if (const double brake = own_brake_price(axis["brake"], motor.section); !std::isnan(brake))
      motor.price += brake;
  return space;
}

std::string name_of(const MatchSpace& space, const Combination& parts) {
  const auto named = [](const PartChoice& part, const char* none) {
    return part.none() ? std::string(none) : part.name();
  };
  std::string name = space.motors[parts.motor].name() + " · " + named(space.heads[parts.head], "direct") +
                     " · " + space.drives[parts.drive].name();
  if (space.brakes.size() > 1) name += " · " + named(space.brakes[parts.brake], "no brake");
  if (space.couplings.size() > 1) name += " · " + named(space.couplings[parts.coupling], "no coupling");
  return name;
}

Axis with_parts(Axis axis, const MatchSpace& space, const Combination& parts) {
  const auto put = [&](std::string_view slot, const std::vector<PartChoice>& choices, std::uint32_t place) {
    const auto unknown = axis[slot].unknown; // members of the file that belong to a later version
    axis[slot] = choices[place].section;
    axis[slot].unknown = unknown;
  };
  put("motor", space.motors, parts.motor);
  put("gearhead", space.heads, parts.head);
  put("drive", space.drives, parts.drive);
  put("brake", space.brakes, parts.brake);
  put("coupling", space.couplings, parts.coupling);
  return axis;
}

} // namespace fulmox
