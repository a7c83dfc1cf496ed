#include "core/requirements/duty.hpp"

namespace fulmox {
namespace {

struct Named {
  std::string_view id, word, help;
};
constexpr std::array<Named, place_count> named{
    {{"explosive", "Explosive gas or dust",
      "Only rated parts may be there, of any kind: IEC 60079, licensed people."},
     {"clean", "Clean room", "No dust from the machine."},
     {"vacuum", "Vacuum", "No air cools, grease boils off."},
     {"washing", "Washed down", "Water, steam, cleaning agents."},
     {"vibration", "Strong vibration", "Or shocks."},
     {"sparks", "Sparks do harm", "Radio noise counts too."}}};

FieldSpec yes_or_no(const Named& place) {
  return one_of(place.id, place.word, {{"no", "no"}, {"yes", "yes"}}, place.help);
}

} // namespace

std::string_view id_of(Place place) { return named[static_cast<std::size_t>(place)].id; }
std::string_view word_of(Place place) { return named[static_cast<std::size_t>(place)].word; }

const SectionSpec& duty_section() {
  static const SectionSpec spec = [] {
    std::vector<FieldSpec> fields{
        usually("hours", "Work a day", "", Kind::time, {0.0, 86400.0, true}, "8 h",
                "How long the machine runs its cycle on a day of work."),
        usually("days", "Days a year", "", Kind::number, {0.0, 366.0, true}, "250", ""),
        usually("years", "Years of use", "", Kind::number, {0.0, 100.0, true}, "10", ""),
        usually("energy_price", "Price of a kWh", "", Kind::number, range::not_negative, "0.25",
                "In the money of your lists.")};
    for (const Named& place : named) fields.push_back(yes_or_no(place));
    return SectionSpec{"duty", "Duty and place", std::move(fields)};
  }();
  return spec;
}

Duty Duty::from(const Section& section) {
  Duty duty;
  duty.hours = section.term("hours") / 3600.0 * section.term("days");
  duty.years = section.term("years");
  duty.energy_price = section.term("energy_price");
  for (std::size_t i = 0; i < place_count; ++i) duty.is_there[i] = section.text(named[i].id) == "yes";
  return duty;
}

} // namespace fulmox
