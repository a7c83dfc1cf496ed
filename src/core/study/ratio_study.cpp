#include "core/study/ratio_study.hpp"

#include <boost/math/tools/minima.hpp>

#include <cmath>
#include <limits>

namespace fulmox {

double inertia_match_ratio(double load_inertia, double rotor_inertia) {
  return std::sqrt(load_inertia / rotor_inertia);
}

Expected<RatioSweep> sweep_ratio(const Axis& given, double low, double high, int steps,
                                 const Wanted& wanted) {
  Axis axis = given;
  Section& gear = axis["gearhead"];
  const Entry typed = gear.entry("ratio");
  RatioSweep sweep;
  sweep.present = typed.value;
  sweep.top_speed = axis["motor"].term("max_speed");
  const Entry rotor = axis["motor"].entry("inertia");
  const auto with_ratio = [&](double ratio) {
    gear.put("ratio", with_value(typed, ratio));
    return quick(axis);
  };
  const auto now = with_ratio(sweep.present);
  if (!now) return now.problem();
  for (int i = 0; i <= steps; ++i) {
    if (!wanted()) return given_up();
    RatioPoint point;
    point.ratio = low * std::pow(high / low, static_cast<double>(i) / steps);
    const auto loaded = with_ratio(point.ratio);
    axis["motor"].put("inertia", with_value(rotor, 0.0));
    const auto bare = with_ratio(point.ratio);
    axis["motor"].put("inertia", rotor);
    if (!loaded || !bare) continue;
    point.with_motor = *loaded;
    point.bare = *bare;
    sweep.points.push_back(point);
  }
  const double none = std::numeric_limits<double>::quiet_NaN();
  sweep.inertia_match = sweep.least_rms = sweep.least_peak = none;
  if (!(rotor.value > 0.0) || sweep.points.empty()) return sweep;
  // what belongs to the gearhead's input stays there whatever the ratio
  const double own = gear.term_or("inertia", 0.0);
  const double at_output = (now->load_inertia - own) * sweep.present * sweep.present;
  sweep.inertia_match = inertia_match_ratio(at_output, now->load_inertia / now->inertia_ratio + own);
  // the best of the sweep brackets the least; between its neighbours the curve has one bottom
  const auto least = [&](double QuickNumbers::*what) {
    std::size_t best = 0;
    for (std::size_t i = 1; i < sweep.points.size(); ++i)
      if (sweep.points[i].with_motor.*what < sweep.points[best].with_motor.*what) best = i;
    const double from = sweep.points[best == 0 ? 0 : best - 1].ratio;
    const double to = sweep.points[std::min(best + 1, sweep.points.size() - 1)].ratio;
    const auto cost = [&](double power) {
      const auto numbers = with_ratio(std::exp(power));
      return numbers ? (*numbers).*what : std::numeric_limits<double>::max();
    };
    return std::exp(boost::math::tools::brent_find_minima(cost, std::log(from), std::log(to), 12).first);
  };
  sweep.least_rms = least(&QuickNumbers::rms_torque);
  sweep.least_peak = least(&QuickNumbers::peak_torque);
  return sweep;
}

} // namespace fulmox
