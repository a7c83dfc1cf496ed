#include "cli/safety.hpp"

#include "cli/limit_json.hpp"

#include "core/evaluation/corners.hpp"
#include "core/evaluation/forgotten.hpp"
#include "core/evaluation/heat_picture.hpp"
#include "core/quantity/format.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <cmath>

namespace fulmox::cli {
namespace {

using Json = nlohmann::ordered_json;

std::string share(double used) {
  if (std::isnan(used)) return "";
  return std::isfinite(used) && used < 1e4 ? fmt::format("{:.0f} %", 100.0 * used) : "beyond";
}

std::string ends(const LimitCorner& limit) {
  std::string out;
  for (const CornerInput& input : limit.at)
    out += (out.empty() ? "" : ", ") + input.path + " " + input.where();
  return out;
}

} // namespace

Expected<std::string> corners_report(const Document& document, const Axis& axis, bool json) {
  const auto found = corners(axis, document.house_rules);
  if (!found) return found.problem();
  if (json) {
    Json limits = Json::array();
    for (const LimitCorner& limit : found->limits) {
      Json at = Json::array();
      for (const CornerInput& input : limit.at) at.push_back({{"input", input.path}, {"end", input.end}});
      limits.push_back({{"limit", limit.id},
                        {"used", finite(limit.nominal)},
                        {"worst", finite(limit.worst)},
                        {"state", word(limit.now)},
                        {"worst_state", word(limit.state)},
                        {"mainly", limit.mainly},
                        {"at", at}});
    }
    return Json{{"spreads", found->spreads},
                {"tried", found->tried},
                {"lost", found->lost},
                {"limits", limits}}
               .dump(2) +
           "\n";
  }
  if (found->spreads.empty())
    return std::string("No input carries a spread. Type one, like \"0.2 N.m/A ±10%\".\n");
  std::string out =
      fmt::format("{:<28}{:>9}{:>9}  {:<10}{}\n", "limit", "as typed", "worst", "state", "where");
  for (const LimitCorner& limit : found->limits)
    out += fmt::format("{:<28}{:>9}{:>9}  {:<10}{}\n", limit.label, share(limit.nominal), share(limit.worst),
                       word(limit.state), ends(limit));
  out += fmt::format("{} spreads, {} combinations judged.\n", found->spreads.size(), found->tried);
  if (found->lost > 0) out += fmt::format("{} combinations cannot be worked out.\n", found->lost);
  return out;
}

Expected<std::string> forgotten_report(const Document& document, const Axis& axis, bool json) {
  const auto evaluation = evaluate(axis, document.house_rules, document.units);
  if (!evaluation) return evaluation.problem();
  const auto open = often_forgotten(axis, *evaluation);
  if (json) {
    Json all = Json::array();
    for (const Forgotten& item : open)
      all.push_back({{"id", item.id}, {"title", item.title}, {"why", item.why}, {"input", item.input}});
    return all.dump(2) + "\n";
  }
  std::string out;
  for (const Forgotten& item : open) out += fmt::format("- {}: {} ({})\n", item.title, item.why, item.input);
  return out.empty() ? std::string("Nothing of what is often forgotten is open.\n") : out;
}

Expected<std::string> heat_report(const Document& document, const Axis& axis, bool json) {
  const auto evaluation = evaluate(axis, document.house_rules, document.units);
  if (!evaluation) return evaluation.problem();
  const MotorHeat& heat = evaluation->demand.heat;
  if (heat.gap) return Problem{std::string(heat.gap->input), std::string(heat.gap->reason), "Type it."};
  const HeatPicture picture = heat_picture(*evaluation);
  const auto points = [](const std::vector<HeatPoint>& course) {
    Json all = Json::array();
    for (const HeatPoint& p : course) all.push_back({p.time, p.at.worst_phase, p.at.others, p.at.body});
    return all;
  };
  if (json) {
    Json duty = Json::array();
    for (const DutyPoint& d : picture.duty) duty.push_back({{"share", d.share}, {"factor", d.factor}});
    return Json{{"estimated", heat.estimated},
                {"limit", picture.limit},
                {"hottest", finite(heat.hottest)},
                {"case", finite(heat.body)},
                {"cycle", points(picture.cycle)},
                {"from_cold", points(picture.from_cold)},
                {"duty_10_min", duty}}
               .dump(2) +
           "\n";
  }
  const auto degrees = [](double kelvin) { return format(kelvin, Kind::temperature).text(); };
  std::string out = heat.estimated ? "Estimated from the rated point and the mass.\n" : "";
  if (!heat.steady.runs_away)
    out += fmt::format("Steady cycle: winding {} at most, case {}; limit {}.\n", degrees(heat.hottest),
                       degrees(heat.body), degrees(picture.limit));
  else
    out += "The winding runs away: no steady state.\n";
  out += fmt::format("{:>12}{:>12}{:>12}\n", "from cold", "winding", "case");
  for (const HeatPoint& p : picture.marks)
    out += fmt::format("{:>12}{:>12}{:>12}\n", format(p.time, Kind::time).text(), degrees(p.at.worst_phase),
                       degrees(p.at.body));
  out += "Intermittent duty, 10 min a period: current allowed over the continuous one\n";
  for (const DutyPoint& d : picture.duty)
    out += fmt::format("{:>11.0f} %{:>12.2f}\n", 100.0 * d.share, d.factor);
  return out;
}

} // namespace fulmox::cli
