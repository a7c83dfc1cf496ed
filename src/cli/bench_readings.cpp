#include "cli/bench_readings.hpp"

#include "core/motor/bench_winding.hpp"
#include "core/motor/readings.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/parse.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>

namespace fulmox::cli {
namespace {

Expected<double> positive(const std::string& text, Kind kind, const char* option) {
  const auto parsed = parse_quantity(text, kind, kind == Kind::number ? std::string_view() : info(kind).si);
  if (!parsed) return Problem{option, parsed.problem().what, parsed.problem().remedy};
  if (!(parsed->value > 0.0)) return Problem{option, "this must be greater than 0.", "Check the number."};
  return parsed->value;
}

std::string_view word(WindingKind kind) {
  switch (kind) {
  case WindingKind::wye:
    return "wye";
  case WindingKind::delta:
    return "delta";
  case WindingKind::open_winding:
    return "delta with an open winding";
  default:
    return "not told";
  }
}

} // namespace

BenchCommands bench_readings_options(CLI::App& app, BenchReadings& r) {
  auto* spin = app.add_subcommand("spin", "The constant of a spun motor, measured between two leads");
  spin->add_option("--frequency", r.frequency, "Of the leads, like '200 Hz'")->required();
  spin->add_option("--volts", r.volts, "Between two leads, like '12 V'")->required();
  spin->add_option("--pole-pairs", r.pole_pairs, "Half the number of poles")->required();
  spin->add_option("--as", r.read_as, "rms, crest or peak-to-peak")
      ->check(CLI::IsMember({"rms", "crest", "peak-to-peak"}));
  spin->add_option("--shape", r.shape, "sine or flat")->check(CLI::IsMember({"sine", "flat"}));
  auto* winding =
      app.add_subcommand("winding", "Resistance and kind of a winding, measured between its leads");
  winding->add_option("--pairs", r.pairs, "Resistance of the three pairs of leads, like 0.82 0.83 0.82")
      ->expected(3)
      ->required();
  winding->add_option("--temperature", r.temperature, "Of the winding then; 20 °C without it");
  winding
      ->add_option("--heating", r.heating,
                   "First rises of the three windings with current through two leads, like 4 1 1")
      ->expected(3);
  for (auto* command : {spin, winding}) command->add_flag("--json", r.json, "Print JSON");
  return {spin, winding};
}

Expected<std::string> spin_report(const BenchReadings& r) {
  SpinTest test;
  const auto frequency = positive(r.frequency, Kind::frequency, "--frequency");
  if (!frequency) return frequency.problem();
  const auto volts = positive(r.volts, Kind::voltage, "--volts");
  if (!volts) return volts.problem();
  const auto pairs = positive(r.pole_pairs, Kind::number, "--pole-pairs");
  if (!pairs) return pairs.problem();
  if (*pairs != std::round(*pairs))
    return Problem{"--pole-pairs", "pole pairs are a whole number from 1.", "Half the number of poles."};
  test = {*frequency, *volts,
          r.read_as == "rms"     ? SpinTest::Volts::rms
          : r.read_as == "crest" ? SpinTest::Volts::crest
                                 : SpinTest::Volts::peak_to_peak,
          r.shape == "flat", *pairs};
  const SpunConstant spun = spun_constant(test);
  const double kt = value_of(*find_reading(test.flat ? "kt_dc_flat" : "kt_rms"),
                             test.flat ? 0.5 * spun.ke_line : spun.k, 1.0);
  if (r.json)
    return nlohmann::ordered_json{{"speed", spun.speed},
                                  {"ke_line_peak", spun.ke_line},
                                  {test.flat ? "kt_dc" : "kt_rms", kt},
                                  {"uncertainty", spun.uncertainty}}
               .dump(2) +
           "\n";
  return fmt::format(
      "speed               {}\nKe line-line peak   {}\nKt per {} ampere {} {}\nuncertain by        "
      "±{:.1f} % (meter 1 %, magnets ± 10 K)\n",
      format(spun.speed, Kind::angular_speed, UnitSet::si).text(),
      format(spun.ke_line, Kind::emf_constant, UnitSet::si, 4).text(), test.flat ? "DC" : "rms",
      test.flat ? "  " : " ", format(kt, Kind::torque_constant, UnitSet::si, 4).text(),
      100.0 * spun.uncertainty);
}

Expected<std::string> winding_report(const BenchReadings& r) {
  BenchWinding bench;
  for (std::size_t i = 0; i < 3; ++i) {
    const auto ohms = positive(r.pairs[i], Kind::resistance, "--pairs");
    if (!ohms) return ohms.problem();
    bench.pairs[i] = *ohms;
  }
  const auto temperature = positive(r.temperature, Kind::temperature, "--temperature");
  if (!temperature) return temperature.problem();
  if (*temperature < bench_coldest || *temperature > bench_hottest)
    return Problem{"--temperature", "a winding on the bench is between −40 and 200 °C.",
                   "Write its temperature with the unit, like '24 degC'."};
  bench.temperature = *temperature;
  if (!r.heating.empty()) {
    std::array<double, 3> rises{};
    for (std::size_t i = 0; i < 3; ++i) {
      const auto rise = parse_quantity(r.heating[i], Kind::number);
      if (!rise) return Problem{"--heating", rise.problem().what, rise.problem().remedy};
      rises[i] = rise->value;
    }
    if (*std::min_element(rises.begin(), rises.end()) < 0.0 ||
        !(*std::max_element(rises.begin(), rises.end()) > 0.0))
      return Problem{"--heating", "rises are not negative, and one of them is more than 0.",
                     "In any one unit, such as kelvin after one minute."};
    bench.heating = rises;
  }
  const ToldWinding told = told_winding(bench);
  if (r.json)
    return nlohmann::ordered_json{{"resistance_20", told.resistance},
                                  {"uncertainty", told.uncertainty},
                                  {"spread", told.spread},
                                  {"kind", word(told.kind)},
                                  {"why", told.why}}
               .dump(2) +
           "\n";
  return fmt::format("resistance at 20 °C  {} between two leads, ±{:.1f} %\nwinding              {}\n{}\n",
                     format(told.resistance, Kind::resistance, UnitSet::si, 4).text(),
                     100.0 * told.uncertainty, word(told.kind), told.why);
}

} // namespace fulmox::cli
