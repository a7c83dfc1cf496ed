#include "cli/constants.hpp"

#include "core/motor/readings.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/parse.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <cmath>

namespace fulmox::cli {

Expected<std::string> constants_report(const std::string& given, const std::string& pole_pairs, bool json) {
  const auto equals = given.find('=');
  const std::string id = given.substr(0, equals);
  const ConstantReading* known = find_reading(id);
  if (equals == std::string::npos || known == nullptr) {
    std::string all;
    for (const ConstantReading& reading : constant_readings())
      all += (all.empty() ? "" : ", ") + std::string(reading.id);
    return Problem{given, "no such reading of a constant is known.",
                   "Write like kt_rms=0.5; known are " + all + "."};
  }
  const auto value = parse_quantity(given.substr(equals + 1), kind_of(*known), info(kind_of(*known)).si);
  if (!value) return value.problem();
  if (!(value->value > 0.0)) return Problem{id, "a motor constant is greater than 0.", "Check the number."};
  double pairs = std::nan("");
  if (!pole_pairs.empty()) {
    const auto number = parse_quantity(pole_pairs, Kind::number);
    if (!number) return number.problem();
    if (!(number->value >= 1.0) || number->value != std::round(number->value))
      return Problem{"--pole-pairs", "pole pairs are a whole number from 1.", "Half the number of poles."};
    pairs = number->value;
  }
  const double k = k_from(*known, value->value, pairs);
  if (std::isnan(k)) return Problem{id, "a flux linkage needs the pole pairs.", "Give --pole-pairs."};
  nlohmann::ordered_json all = nlohmann::ordered_json::array();
  std::string text = fmt::format("{:<22}{:<42}{:>14}  {}\n", "reading", "", "value",
                                 "taken for it, torque per ampere is off by");
  for (const ConstantReading& reading : constant_readings()) {
    if (reading.flat != known->flat && reading.family == known->family) continue; // another shape of wave
    const double worth = value_of(reading, k, pairs);
    const double off = mistaken(*known, reading);
    all.push_back(
        {{"id", reading.id},
         {"label", fmt::format("{} {}", reading.symbol, reading.label)},
         {"value", std::isfinite(worth) ? nlohmann::ordered_json(worth) : nlohmann::ordered_json()},
         {"unit", info(kind_of(reading)).si},
         {"mistaken", std::isfinite(off) ? nlohmann::ordered_json(off) : nlohmann::ordered_json()}});
    text += fmt::format("{:<22}{:<42}{:>14}  {}\n", reading.id,
                        fmt::format("{} {}", reading.symbol, reading.label),
                        format(worth, kind_of(reading), UnitSet::si, 4).text(),
                        std::isfinite(off) && &reading != known ? fmt::format("×{:.3f}", off) : "");
  }
  return json ? all.dump(2) + "\n" : text;
}

} // namespace fulmox::cli
