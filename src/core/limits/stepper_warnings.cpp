#include "core/limits/stepper_warnings.hpp"

#include "core/form/curve.hpp"

#include "core/limits/stepper_band.hpp"
#include "core/motor/stepper.hpp"
#include "core/motor/stepper_formulas.hpp"
#include "core/quantity/format.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {
namespace {

using Found = std::optional<Warning>;

/// The stepper whose currents are known; nothing for other motors.
const StepperMotor* stepper(const LimitContext& c) {
  const auto* motor = dynamic_cast<const StepperMotor*>(c.model.motor.get());
  return motor != nullptr && motor->electric() && motor->keeps_current() ? motor : nullptr;
}

std::string told(const LimitContext& c, double value, Kind kind) {
  return format(value, kind, c.units).text();
}

Found sized_on_holding(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr || !(c.model.surroundings.bus > 0.0)) return std::nullopt;
  const double factor = c.rules.term("pullout_factor"), peak = std::abs(c.demand.peak_torque);
  if (!motor->has_model() && motor->tables.empty()) return std::nullopt;
  const double there = motor->pull_out_torque(std::abs(c.demand.max_speed),
                                              c.model.supply_at(c.model.surroundings.bus).voltage);
  if (peak * factor > motor->holding() || peak * factor <= there) return std::nullopt;
  return warning("Holding torque is no torque at speed",
                 "The holding torque of " + told(c, motor->holding(), Kind::torque) +
                     " would do for the peak, but at top speed the pull-out torque is " +
                     told(c, there, Kind::torque) + ".",
                 "motor.holding_torque");
}

/// Its current flows whatever it drives, so no rms tells: the pull-out torque at top speed does.
Found far_too_big(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr || !(c.model.surroundings.bus > 0.0) || (!motor->has_model() && motor->tables.empty()))
    return std::nullopt;
  const double least = motor->pull_out_torque(std::abs(c.demand.max_speed),
                                              c.model.supply_at(c.model.surroundings.bus_low).voltage);
  const double share = std::abs(c.demand.peak_torque) / least;
  constexpr double little = 0.15; // with the usual factor of 1.5 some four times too large
  if (!(least > 0.0) || share > little) return std::nullopt;
  return warning("The stepper is far too big",
                 "It never gives more than " + percent(share) +
                     " of its pull-out torque. A big one costs, heats at rest and shakes a light load more.",
                 "motor.part_number");
}

Found start_in_resonance(const LimitContext& c) {
  const auto band = resonance_of(c.model, c.demand);
  const Term start = c.axis["drive"].term_if("start_speed");
  if (stepper(c) == nullptr || !band || std::isnan(start) || start < band->low || start > band->high)
    return std::nullopt;
  return warning("Started inside the resonance",
                 "The first pulses come at " + told(c, start, Kind::angular_speed) +
                     ", the resonance lies from " + told(c, band->low, Kind::angular_speed) + " to " +
                     told(c, band->high, Kind::angular_speed) + ": start below or above it.",
                 "drive.start_speed");
}

/// Friction holds the rotor back by an angle; microsteps smaller than that do not move it.
Found steps_below_friction(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr || motor->microsteps <= 1.0) return std::nullopt;
  const double friction =
      std::max(0.0, std::abs(c.demand.holding.breakaway) - std::abs(c.demand.holding.torque));
  const double hangs = load_angle(friction, motor->holding(), motor->teeth);
  const double step = 2.0 * std::numbers::pi / (motor->steps() * motor->microsteps);
  if (step >= hangs) return std::nullopt;
  return warning("Microsteps smaller than what friction swallows",
                 "A microstep is " + told(c, step, Kind::angle) +
                     ", friction lets the rotor hang behind by " + told(c, hangs, Kind::angle) +
                     ": single microsteps move nothing. They smooth, they do not resolve.",
                 "drive.microsteps");
}

/// Two schools of the trade: ten to fifteen times R·I, and 32·√L[mH] at most.
Found voltage_outside_schools(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr || !motor->has_model() || !(c.model.surroundings.bus > 0.0) ||
      std::isnan(motor->rated_current) || motor->system.phases != 2.0)
    return std::nullopt;
  const double rated = motor->resistance * motor->rated_current;
  const double by_inductance = school_inductance(motor->inductance);
  const double bus = c.model.surroundings.bus;
  if (bus < 4.0 * rated)
    return warning("Supply voltage low for a chopper",
                   told(c, bus, Kind::voltage) + " is less than four times the " +
                       told(c, rated, Kind::voltage) +
                       " of the winding: the current is fed by voltage and rises slowly. Usual are ten to "
                       "fifteen times, " +
                       told(c, 10.0 * rated, Kind::voltage) + " to " + told(c, 15.0 * rated, Kind::voltage) +
                       " (common practice).",
                   "surroundings.bus");
  if (bus <= std::max(15.0 * rated, by_inductance)) return std::nullopt;
  return warning("Supply voltage above what is usual for this winding",
                 "By its resistance " + told(c, 10.0 * rated, Kind::voltage) + " to " +
                     told(c, 15.0 * rated, Kind::voltage) + " are usual, by its inductance at most " +
                     told(c, by_inductance, Kind::voltage) +
                     " (32·√L in mH; common practice): ripple and iron heat grow. The torque at speed is "
                     "worth it or not.",
                 "surroundings.bus");
}

Found hot_at_rest(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr || motor->standing < 1.0 || !c.axis["drive"].has("standing_current"))
    return std::nullopt;
  double rest = 0.0;
  for (const MotionPiece& piece : c.model.load->cycle.pieces) rest += piece.rest() ? piece.duration : 0.0;
  const double share = rest / c.model.load->cycle.duration;
  if (share < 0.3) return std::nullopt;
  return warning("Full current at rest",
                 "It stands " + percent(share) +
                     " of the cycle and takes the full current there: greatest heat for no motion. Half the "
                     "current keeps half the hold and a quarter of the heat. Motors burn skin.",
                 "drive.standing_current");
}

Found lost_unnoticed(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr || motor->tells_lost) return std::nullopt;
  return warning(
      "Lost steps go unnoticed",
      "An open-loop stepper that falls out of step goes on as if nothing had happened, or stands and "
      "buzzes. Where that can hurt or spoil, plan a reference switch, an encoder or another kind of motor.",
      "motor.part_number");
}

Found setting_without_convention(const LimitContext& c) {
  const Section& drive = c.axis["drive"];
  if (stepper(c) == nullptr || !drive.has("current_as") || drive.blank("current_setting") ||
      !drive.blank("current_as"))
    return std::nullopt;
  return warning("Current set without its convention",
                 "Crest or rms? A factor 1.41 in torque, 2 in heat. Crest is assumed: the least torque.",
                 "drive.current_as");
}

Found ratings_without_connection(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr || motor->leads < 6 || !c.axis["motor"].blank("rated_for")) return std::nullopt;
  return warning(
      "For which connection are the ratings?",
      "Sheets of motors with 6 or 8 leads often rate the half coils. Taken for another connection, "
      "current is off by 1.41, resistance by 2 and inductance by 4. The connection chosen is assumed.",
      "motor.rated_for");
}

Found curve_above_hold(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr) return std::nullopt;
  for (const PullOutTable& table : motor->tables)
    if (table.points.front()[1] > 1.05 * motor->holding_rated)
      return warning("Pull-out curve above the holding torque",
                     "Measured are " + told(c, table.points.front()[1], Kind::torque) +
                         ", the holding torque is " + told(c, motor->holding_rated, Kind::torque) +
                         " as connected: the curve belongs to another connection or current.",
                     "motor.pullout_curve");
  return std::nullopt;
}

/// More volts never give less torque: a curve of fewer volts that lies above is another motor's, or another
/// current's.
Found curves_cross(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr || motor->tables.size() < 2) return std::nullopt;
  const PullOutTable &low = motor->tables.front(), &high = motor->tables.back();
  for (const CurvePoint& point : low.points) {
    if (point[0] > high.points.back()[0]) break;
    const double other = value_on(high.points, point[0]);
    if (point[1] > 1.05 * other)
      return warning("Pull-out curves of two voltages cross",
                     "At " + told(c, point[0], Kind::angular_speed) + " " +
                         told(c, low.volts, Kind::voltage) + " give " + told(c, point[1], Kind::torque) +
                         ", " + told(c, high.volts, Kind::voltage) + " only " + told(c, other, Kind::torque) +
                         ": one of them was taken at another current or connection. Both are kept.",
                     "motor.pullout_curve_2");
  }
  return std::nullopt;
}

} // namespace

std::span<const WarningSpec> stepper_warnings() {
  static constexpr std::array list{WarningSpec{"stepper_on_holding", &sized_on_holding},
                                   WarningSpec{"stepper_too_big", &far_too_big},
                                   WarningSpec{"stepper_start_resonance", &start_in_resonance},
                                   WarningSpec{"stepper_small_steps", &steps_below_friction},
                                   WarningSpec{"stepper_voltage", &voltage_outside_schools},
                                   WarningSpec{"stepper_hot", &hot_at_rest},
                                   WarningSpec{"stepper_lost", &lost_unnoticed},
                                   WarningSpec{"stepper_convention", &setting_without_convention},
                                   WarningSpec{"stepper_ratings", &ratings_without_connection},
                                   WarningSpec{"stepper_curve", &curve_above_hold},
                                   WarningSpec{"stepper_curves_cross", &curves_cross}};
  return list;
}

} // namespace fulmox
