#include "core/plan/supply_parts.hpp"

#include "core/plan/buses.hpp"

namespace fulmox {
namespace {

/// What a bus form asks of its supply, as a part: without the name of the bus, and with what the trade tells.
SectionSpec part_form(std::string_view id, std::string_view title, std::vector<FieldSpec> of_supply) {
  return {id, title, with_trade_fields(std::move(of_supply))};
}

const SectionSpec& regulated_part() {
  static const SectionSpec spec =
      part_form("regulated_supply", "Regulated supply", regulated_supply_fields());
  return spec;
}

const SectionSpec& transformer_part() {
  static const SectionSpec spec = part_form("transformer", "Transformer", transformer_fields());
  return spec;
}

/// Between fields of a regulated supply, each of which is right alone.
std::vector<Problem> contradictions(const Section& part) {
  std::vector<Problem> all;
  const auto at = [&](std::string_view field, std::string_view what, std::string_view remedy) {
    all.push_back({"bus_supply." + std::string(field), std::string(what), std::string(remedy)});
  };
  if (auto wrong = overload_fault(part)) at(wrong->field, wrong->what, wrong->remedy);
  const double power = part.term_if("power"), peak = part.term_if("peak");
  if (part.term_if("limit") * part.term_if("volts") < power)
    at("limit", "at its voltage it is less than the continuous power.", "Look both up again.");
  if (peak < power) at("peak", "it is below the continuous power.", "Look both up again.");
  return all;
}

} // namespace

const SlotSpec& bus_supply_slot() {
  static const SlotSpec slot{
      "bus_supply", "Supply of a bus", [] {
        return std::vector<SlotKind>{
            {.form = &regulated_part(),
             .summary = &part_summary,
             .prominent = {"volts", "limit", "overload", "power", "peak"},
             .library = "regulated_supplies.csv",
             .columns = {"volts", "power", "peak", "peak_time", "limit", "overload", "price"},
             .name = "Regulated supply",
             .check = &contradictions},
            {.form = &transformer_part(),
             .summary = &part_summary,
             .prominent = {"volts", "amps", "regulation", "phases"},
             .library = "transformers.csv",
             .columns = {"volts", "amps", "regulation", "phases", "mass", "price"},
             .name = "Transformer"}};
      }};
  return slot;
}

Section with_supply_form(const Section& bus, const SectionSpec& form) {
  Section out(form);
  out.path = bus.path;
  for (std::size_t i = 0; i < bus.size(); ++i)
    if (const std::string_view field = bus.field(i).id; stays_with_bus(field) && out.has(field))
      out.put(field, bus.entry(i));
  return out;
}

Section with_supply_part(const Section& bus, const Section& part) {
  Section out =
      with_supply_form(bus, part.is("transformer") ? transformer_bus_section() : regulated_bus_section());
  for (std::size_t i = 0; i < part.size(); ++i)
    if (const std::string_view field = part.field(i).id; out.has(field) && !part.entry(i).blank())
      out.put(field, part.entry(i));
  return out;
}

} // namespace fulmox
