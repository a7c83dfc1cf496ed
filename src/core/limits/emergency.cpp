#include "core/limits/emergency.hpp"

#include "core/limits/standing.hpp"
#include "core/stops/formulas.hpp"

#include <cmath>

namespace fulmox {

Term returned_by_stop(const AxisModel& model, const Demand& demand, Recorder& recorder) {
  if (!model.motor->chosen || !model.motor->electric() || demand.max_speed == 0.0) return unknown_term;
  const Term most = most_motor_torque(model);
  if (!(most > 0.0) && demand.holding.free != 0.0) return unknown_term;
  return recorder.apply(book::stop_return, "stop.returned",
                        {demand.total_inertia, demand.max_speed, most, {std::abs(demand.holding.free), ""}});
}

} // namespace fulmox
