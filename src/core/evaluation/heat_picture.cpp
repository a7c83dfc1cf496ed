#include "core/evaluation/heat_picture.hpp"

#include <algorithm>
#include <array>

namespace fulmox {

HeatPicture heat_picture(const Evaluation& evaluation) {
  constexpr double hours = 4.0 * 3600.0, beyond = 2.0;
  constexpr std::size_t most_points = 600;
  const MotorHeat& heat = evaluation.demand.heat;
  HeatPicture out;
  out.limit = evaluation.model->motor->winding_limit;
  const double ambient = heat.network.ambient;
  double period = 0.0;
  for (const HeatSpan& s : heat.cycle) period += s.time;
  if (!heat.steady.runs_away)
    out.cycle = warming(heat.network, heat.cycle, heat.steady.start, period, most_points);
  const HeatState cold{ambient, ambient, ambient};
  // the winding warms in minutes, the case in hours
  constexpr double first_minutes = 900.0;
  auto all = warming(heat.network, heat.cycle, cold, first_minutes, most_points);
  for (const HeatPoint& p : warming(heat.network, heat.cycle, cold, std::max(hours, period), most_points))
    if (p.time > all.back().time) all.push_back(p);
  for (const HeatPoint& p : all) {
    out.from_cold.push_back(p);
    // what runs away leaves the picture
    if (p.at.worst_phase - ambient > beyond * (out.limit - ambient)) break;
  }
  for (const double minutes : {1.0, 5.0, 15.0, 60.0, 240.0}) {
    const auto passed = std::find_if(out.from_cold.begin(), out.from_cold.end(),
                                     [&](const HeatPoint& p) { return p.time >= 60.0 * minutes; });
    if (passed == out.from_cold.end()) break;
    out.marks.push_back(*passed);
  }
  constexpr double ten_minutes = 600.0;
  for (const double share : {0.15, 0.25, 0.4, 0.6})
    out.duty.push_back({share, intermittent_factor(heat.network, out.limit, share, ten_minutes)});
  return out;
}

} // namespace fulmox
