#include "cli/studies.hpp"

#include "cli/limit_json.hpp"

#include "core/quantity/format.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <cmath>

namespace fulmox::cli {
namespace {

using Json = nlohmann::ordered_json;

Json numbers_json(const QuickNumbers& n) {
  return {{"peak_torque", n.peak_torque},
          {"rms_torque", n.rms_torque},
          {"max_speed", n.max_speed},
          {"load_inertia", n.load_inertia},
          {"inertia_ratio", finite(n.inertia_ratio)},
          {"load_speed", n.load_speed},
          {"load_acceleration", n.load_acceleration},
          {"peak_jerk", finite(n.peak_jerk)}};
}

} // namespace

std::string laws_report(const std::vector<LawChoice>& choices, bool json) {
  if (json) {
    Json all = Json::array();
    for (const LawChoice& choice : choices) {
      Json one{{"law", choice.law},
               {"label", choice.label},
               {"present", choice.present},
               {"within_limits", choice.within},
               {"acceleration_share", choice.accel_share},
               {"deceleration_share", choice.decel_share}};
      one.update(numbers_json(choice.numbers));
      all.push_back(std::move(one));
    }
    return all.dump(2) + "\n";
  }
  std::string out = fmt::format("{:<28}{:>14}{:>14}{:>12}{:>14}\n", "law", "peak torque", "rms torque",
                                "speed", "jerk, SI");
  bool beyond = false;
  for (const LawChoice& choice : choices) {
    beyond = beyond || !choice.within;
    out += fmt::format("{:<28}{:>14}{:>14}{:>12}{:>14}\n", choice.label + (choice.within ? "" : " *"),
                       shown(choice.numbers.peak_torque, Kind::torque),
                       shown(choice.numbers.rms_torque, Kind::torque),
                       shown(choice.numbers.max_speed, Kind::angular_speed),
                       std::isfinite(choice.numbers.peak_jerk) ? significant(choice.numbers.peak_jerk) : "∞");
  }
  if (beyond) out += "* beyond the limits on speed and acceleration\n";
  return out;
}

std::string ratio_report(const RatioSweep& sweep, bool json) {
  if (json) {
    Json points = Json::array();
    for (const RatioPoint& point : sweep.points)
      points.push_back({{"ratio", point.ratio},
                        {"with_motor", numbers_json(point.with_motor)},
                        {"load_alone", numbers_json(point.bare)}});
    return Json{{"present", sweep.present},
                {"least_rms", finite(sweep.least_rms)},
                {"least_peak", finite(sweep.least_peak)},
                {"inertia_match", finite(sweep.inertia_match)},
                {"points", points}}
               .dump(2) +
           "\n";
  }
  std::string out = fmt::format("now {}, least rms {}, least peak {}, √(J_L/J_m) {}\n",
                                significant(sweep.present), significant(sweep.least_rms),
                                significant(sweep.least_peak), significant(sweep.inertia_match));
  out += fmt::format("{:>8}{:>14}{:>14}{:>12}{:>10}\n", "ratio", "peak torque", "rms torque", "speed",
                     "J_L/J_m");
  for (const RatioPoint& point : sweep.points)
    out += fmt::format(
        "{:>8}{:>14}{:>14}{:>12}{:>10}\n", significant(point.ratio),
        shown(point.with_motor.peak_torque, Kind::torque), shown(point.with_motor.rms_torque, Kind::torque),
        shown(point.with_motor.max_speed, Kind::angular_speed),
        std::isnan(point.with_motor.inertia_ratio) ? "" : significant(point.with_motor.inertia_ratio));
  return out;
}

std::string sensitivities_report(const std::vector<Influence>& influences, bool json) {
  if (json) {
    Json all = Json::array();
    for (const Influence& i : influences)
      all.push_back({{"input", i.path},
                     {"value", i.value},
                     {"unit", info(i.kind).si},
                     {"tolerance", i.tolerance},
                     {"tolerance_typed", i.tolerance_typed},
                     {"peak", finite(i.peak)},
                     {"rms", finite(i.rms)},
                     {"ratio", finite(i.ratio)},
                     {"swing", i.swing}});
    return all.dump(2) + "\n";
  }
  std::string out = fmt::format("{:<40}{:>16}{:>8}{:>8}{:>8}{:>10}\n", "input", "tolerance", "peak", "rms",
                                "ratio", "swing");
  for (const Influence& i : influences)
    out += fmt::format("{:<40}{:>16}{:>8.2f}{:>8.2f}{:>8.2f}{:>9.1f}%\n", i.path,
                       shown(i.tolerance, i.kind) + (i.tolerance_typed ? "" : "*"), i.peak, i.rms, i.ratio,
                       100.0 * i.swing);
  return out + "Slopes are % of change per % of input; * a tenth is assumed where no tolerance is typed.\n";
}

} // namespace fulmox::cli
