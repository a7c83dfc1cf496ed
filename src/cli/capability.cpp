#include "cli/capability.hpp"

#include "cli/limit_json.hpp"

#include "core/evaluation/bench_picture.hpp"
#include "core/evaluation/capability.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/parse.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <cmath>

namespace fulmox::cli {
namespace {

using Json = nlohmann::ordered_json;

std::string bound_told(double value, Kind kind) {
  return std::isfinite(value) ? format(value, kind, UnitSet::si, 4).text() : "no limit";
}

/// A value >= 0 of an option; 0 where it is not given.
Expected<double> typed(const std::string& text, Kind kind, const char* option) {
  if (text.empty()) return 0.0;
  const auto value = parse_quantity(text, kind, info(kind).si);
  if (!value) return Problem{option, value.problem().what, value.problem().remedy};
  if (!(value->value >= 0.0)) return Problem{option, "it must not be negative.", "Leave the sign off."};
  return value->value;
}

} // namespace

Expected<std::string> capability_report(const Document& document, const Axis& axis, const std::string& speed,
                                        bool json) {
  const auto evaluation = evaluate(axis, document.house_rules, document.units);
  if (!evaluation) return evaluation.problem();
  const MotionKinds kinds = capability_kinds(*evaluation);
  const auto one = typed(speed, kinds.speed, "--speed");
  if (!one) return one.problem();
  std::vector<Capability> points = capability_curve(*evaluation);
  if (points.empty())
    return Problem{"motor", "what it can give is not told.", "Choose a motor with a torque curve."};
  if (!speed.empty()) points = {capability_at(*evaluation, *one)};
  Json all = Json::array();
  std::string text =
      fmt::format("{:>14}{:>14}{:>16}{:>16}{:>16}\n", "load speed", "motor", "peak", "low bus", "lasting");
  for (const Capability& point : points) {
    all.push_back({{"speed", point.speed},
                   {"motor_speed", point.motor_speed},
                   {"peak", finite(point.peak)},
                   {"peak_low", finite(point.peak_low)},
                   {"lasting", finite(point.lasting)}});
    text +=
        fmt::format("{:>14}{:>14}{:>16}{:>16}{:>16}\n", bound_told(point.speed, kinds.speed),
                    bound_told(point.motor_speed, Kind::angular_speed), bound_told(point.peak, kinds.effort),
                    bound_told(point.peak_low, kinds.effort), bound_told(point.lasting, kinds.effort));
  }
  if (!json) return text;
  return Json{{"speed_unit", info(kinds.speed).si}, {"effort_unit", info(kinds.effort).si}, {"points", all}}
             .dump(2) +
         "\n";
}

Expected<std::string> bench_report(const Document&, const Axis& axis, const std::string& torque, bool json) {
  const auto load = typed(torque, Kind::torque, "--torque");
  if (!load) return load.problem();
  Recorder silent(false);
  const auto model = AxisModel::build(axis, silent);
  if (!model) return model.problem();
  const BenchPicture picture = bench_picture(*model, *load);
  if (picture.points.empty())
    return picture.ends ? Expected<std::string>(
                              Problem{"--torque", "the motor cannot make it even at rest.", "Give less."})
                        : Problem{"motor", "its current, its top speed or the bus voltage is not known.",
                                  "Give the torque constant, the maximum speed and the bus."};
  Json all = Json::array();
  std::string text = fmt::format("{:>14}{:>16}{:>12}\n", "speed", "supply current", "efficiency");
  for (const BenchPoint& point : picture.points) {
    all.push_back(
        {{"speed", point.speed}, {"supply_current", point.supply_current}, {"efficiency", point.efficiency}});
    text += fmt::format("{:>14}{:>16}{:>11.1f}%\n", bound_told(point.speed, Kind::angular_speed),
                        bound_told(point.supply_current, Kind::current), 100.0 * point.efficiency);
  }
  if (picture.ends) text += "beyond the last speed the torque cannot be made\n";
  if (!json) return text;
  return Json{{"torque", *load}, {"ends", picture.ends}, {"points", all}}.dump(2) + "\n";
}

} // namespace fulmox::cli
