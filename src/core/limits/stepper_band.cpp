#include "core/limits/stepper_band.hpp"

#include "core/motor/stepper.hpp"
#include "core/motor/stepper_formulas.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

/// Where a stretch passes an edge of the band, rising, and its end.
Series::Places edges_of(const Stretch& stretch, const SpeedBand& band) {
  Series::Places all;
  const double sense = stretch.direction < 0.0 ? -1.0 : 1.0;
  for (const double edge : {band.low, band.high}) {
    if (stretch.speed.size() < 2 || edge > stretch.speed.bound()) continue;
    Series miss = stretch.speed;
    miss += -sense * edge;
    for (const double u : miss.crossings())
      if (all.size() + 1 < all.capacity()) all.push_back(u);
  }
  all.push_back(1.0);
  std::sort(all.begin(), all.end());
  return all;
}

} // namespace

std::optional<SpeedBand> resonance_of(const AxisModel& model, const Demand& demand) {
  const auto* motor = dynamic_cast<const StepperMotor*>(model.motor.get());
  if (motor == nullptr || !motor->keeps_current() || !motor->electric() || !motor->chosen)
    return std::nullopt;
  const double rate = step_resonance(motor->teeth, motor->holding(), demand.load_inertia + model.rotor);
  return resonance_band(speed_of_steps(rate, motor->steps()));
}

BandStay longest_in_band(const AxisModel& model, const Course& course, const SpeedBand& band) {
  BandStay stay;
  double run = 0.0;
  const auto once = [&](bool again) {
    for (const Stretch& stretch : course.stretches) {
      double from = -1.0;
      for (const double to : edges_of(stretch, band)) {
        const double speed = std::abs(stretch.speed(0.5 * (from + to)));
        const double length = 0.5 * (to - from) * stretch.length();
        from = to;
        if (speed < band.low || speed > band.high) {
          if (again) return; // the stay over the end has ended
          run = 0.0;
          continue;
        }
        run += length;
        if (!again) stay.total += length;
        if (run > stay.longest)
          stay = {run, model.load->cycle.pieces[stretch.piece].start + stretch.tau(to), stay.total};
      }
    }
  };
  once(false);
  if (run > 0.0 && run < stay.total) once(true);
  return stay;
}

} // namespace fulmox
