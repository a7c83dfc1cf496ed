#include "core/study/ratio_study.hpp"

#include "core/demand/demand.hpp"

#include <boost/math/tools/minima.hpp>

#include <cmath>
#include <limits>

namespace fulmox {

double inertia_match_ratio(double load_inertia, double rotor_inertia) {
  return std::sqrt(load_inertia / rotor_inertia);
}

Expected<RatioSweep> sweep_ratio(const Axis& axis, double low, double high, int steps, const Wanted& wanted) {
  Recorder silent(false);
  auto built = AxisModel::build(axis, silent);
  if (!built) return built.problem();
  AxisModel model = std::move(*built);
  RatioSweep sweep;
  sweep.present = model.gear.ratio;
  sweep.top_speed = model.motor->max_speed;
  const Term rotor = model.rotor;
  const auto with_ratio = [&](double ratio) {
    model.gear.set_ratio(ratio);
    return quick(model);
  };
  const QuickNumbers now = with_ratio(sweep.present);
  for (int i = 0; i <= steps; ++i) {
    if (!wanted()) return given_up();
    RatioPoint point;
    point.ratio = low * std::pow(high / low, static_cast<double>(i) / steps);
    point.with_motor = with_ratio(point.ratio);
    model.rotor.value = model.brake.inertia; // no motor on the shaft
    point.bare = quick(model);
    model.rotor = rotor;
    sweep.points.push_back(point);
  }
  const double none = std::numeric_limits<double>::quiet_NaN();
  sweep.inertia_match = sweep.least_rms = sweep.least_peak = none;
  if (!(model.motor->inertia > 0.0)) return sweep;
  // what belongs to the gearhead's input stays there whatever the ratio
  const double own = model.gear.input_inertia.value;
  const double at_output = (now.load_inertia - own) * sweep.present * sweep.present;
  sweep.inertia_match = inertia_match_ratio(at_output, now.load_inertia / now.inertia_ratio + own);
  // the best of the sweep brackets the least; between its neighbours the curve has one bottom
  const auto least = [&](double QuickNumbers::*what) {
    std::size_t best = 0;
    for (std::size_t i = 1; i < sweep.points.size(); ++i)
      if (sweep.points[i].with_motor.*what < sweep.points[best].with_motor.*what) best = i;
    const double from = sweep.points[best == 0 ? 0 : best - 1].ratio;
    const double to = sweep.points[std::min(best + 1, sweep.points.size() - 1)].ratio;
    const auto cost = [&](double power) { return with_ratio(std::exp(power)).*what; };
    return std::exp(boost::math::tools::brent_find_minima(cost, std::log(from), std::log(to), 12).first);
  };
  sweep.least_rms = least(&QuickNumbers::rms_torque);
  sweep.least_peak = least(&QuickNumbers::peak_torque);
  return sweep;
}

} // namespace fulmox
