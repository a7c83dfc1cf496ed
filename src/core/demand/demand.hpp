#pragma once
#include "core/demand/heat.hpp"
#include "core/demand/holding.hpp"
#include "core/demand/integrals.hpp"
#include "core/demand/stops.hpp"
#include "core/rules/rules.hpp"

#include <span>

namespace fulmox {

/// √(ΣQ/t): Q = ∫T²dt of the spans, t > 0 the cycle with its dwells.
double rms_of(std::span<const double> time_then_integrals);
/// ∫T²dt over a span in which T runs straight from T1 to T2: t·(T1² + T1·T2 + T2²)/3.
double square_integral(double start, double end, double duration);
/// ∫T²dt over a span from its torques at its Gauss points.
double square_quadrature(std::span<const double> length_then_torques);

namespace book {
extern const Formula peak_value, peak_speed, rms_torque, rms_current, square_integral, square_quadrature,
    mean_speed, rms_speed, inertia_ratio, energy_sum, mean_power, net_power, peak_power, returned_energy;
}
std::span<const Formula* const> demand_formulas();

/// A share of the inertia seen by the motor.
struct InertiaShare {
  std::string_view id, label;
  Term own;      ///< at its own shaft
  Term at_motor; ///< kg·m²
};

/// What the cycle asks of the motor: numbers whose steps are in the recorder.
struct Demand {
  CycleIntegrals integrals;
  Moment peak_at, top_speed_at, peak_current_at, peak_power_at;
  Term peak_torque, rms_torque, max_speed, mean_speed, rms_speed;
  Holding holding;
  Term load_inertia, inertia_ratio, total_inertia;
  Term driven, returned;
  Term rms_current, peak_current;
  Term mean_power, peak_power, bus_returned; ///< the mean of what is drawn: what comes back counts as lost
  Term net_power;                            ///< W, mean with what comes back used again
  Term mean_bus_current;                     ///< A at the nominal bus; NaN without a bus voltage
  Term peak_bus_current;                     ///< A at the voltage the bus sags to; NaN without one
  std::vector<InertiaShare> inertia;
  MotorHeat heat;
  std::optional<Stops> stops; ///< with a brake
};

/// All but rotor and brake, seen by the motor. kg·m².
double load_inertia_at_motor(const AxisModel& model);

Demand work_out_demand(const AxisModel& model, const Course& course, const Rules& rules, Recorder& recorder);

} // namespace fulmox
