#include "core/drive/stepper_drive.hpp"
#include "core/limits/limit.hpp"
#include "core/limits/stepper_band.hpp"
#include "core/limits/worst_share.hpp"
#include "core/motor/stepper.hpp"
#include "core/motor/stepper_formulas.hpp"
#include "core/quantity/format.hpp"
#include "core/rotation/rotation.hpp"

#include <array>
#include <cmath>
#include <typeinfo>

namespace fulmox {
namespace {

/// On a drive that cannot run it nothing about it counts: drive.match stands for all.
const StepperMotor* any_stepper(const LimitContext& c) {
  const Motor& any = *c.model.motor;
  if (typeid(any) != typeid(StepperMotor)) return nullptr; // a final class: quicker than a cast, asked often
  const auto* motor = static_cast<const StepperMotor*>(&any);
  if (!c.model.drive->chosen) return motor;
  return motor->refuses(c.model.drive->feed()).empty() ? motor : nullptr;
}

/// The stepper whose current is kept; nothing for other motors, and for those that follow the load angle.
const StepperMotor* stepper(const LimitContext& c) {
  const auto* motor = any_stepper(c);
  return motor != nullptr && motor->keeps_current() ? motor : nullptr;
}

/// What is left at the shaft at that moment, with its chain where the model tells it.
Term pull_out_there(const LimitContext& c, const StepperMotor& motor, const Instant& now,
                    const MotorSupply& supply, double bus) {
  const double torque = motor.peak_torque(now.speed, supply, now.braking());
  if (!motor.tells_by_voltage(supply, false) || !(supply.voltage > 0.0)) return {torque, ""};
  const Term volts = c.model.drive->record_motor_volts({bus, ""}, "voltage", c.recorder);
  const Term speed{std::abs(now.speed), now.speed < 0.0 ? "" : now.input.speed.ref};
  const Term by_voltage = motor.record_by_voltage(speed, volts, supply, c.recorder);
  return torque < by_voltage * (1.0 - 1e-9) ? Term{torque, ""}
                                            : Term{std::max(0.0, by_voltage.value), by_voltage.ref};
}

Limit judge_pull_out(const LimitContext& c, const StepperMotor& motor, double bus, std::string_view step,
                     const char* prefix, std::string_view rule) {
  const MotorSupply supply = c.model.supply_at(bus);
  const StepperMotor::AtSupply gives(motor, supply);
  const Moment moment = worst_share(c, {[&](const Stretch& s, double speed) {
                                          // at rest the standing current counts: a limit of its own
                                          return s.direction == 0.0 ? std::numeric_limits<double>::infinity()
                                                                    : gives.least_peak(speed, speed);
                                        },
                                        [&](const Stretch& s, double slowest, double fastest) {
                                          return s.direction == 0.0 ? std::numeric_limits<double>::infinity()
                                                                    : gives.least_peak(slowest, fastest);
                                        },
                                        [&] { return motor.peak_corners(supply); }});
  Instant now;
  Term capacity;
  {
    const Recorder::Scope scope(c.recorder, prefix);
    now = c.model.at(moment.piece, moment.tau, c.recorder);
    const Term there = pull_out_there(c, motor, now, supply, bus);
    capacity =
        c.recorder.apply(book::beyond_factor, "available", {there, c.rules.term(motor.reserve_rule())});
  }
  Limit limit = compare_at(c, step, moment, now.torque, capacity, Kind::torque, rule);
  limit.input = "motor.holding_torque";
  return limit;
}

std::optional<Limit> pull_out(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr) return std::nullopt;
  if (!motor->electric())
    return missing("The stepper's holding torque and rated current are missing.", "motor.holding_torque");
  if (!motor->has_model() && motor->tables.empty())
    return missing("The pull-out torque needs resistance and inductance, or a measured curve.",
                   "motor.inductance");
  if (std::isnan(c.model.surroundings.bus)) return missing("The bus voltage is missing.", "surroundings.bus");
  return judge_pull_out(
      c, *motor, c.model.surroundings.bus, "stepper.pullout", "at_limit.stepper.pullout.",
      motor->tables.empty()
          ? "Pull-out torque by the model of the phase current, with the factor of the house "
            "rules: the curve itself is where it falls out of step."
          : "Measured pull-out curve, brought to this voltage and current, with the factor of "
            "the house rules.");
}

std::optional<Limit> pull_out_low(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr || !motor->electric() || (!motor->has_model() && motor->tables.empty()) ||
      std::isnan(c.model.surroundings.bus_low))
    return std::nullopt;
  return judge_pull_out(c, *motor, c.model.surroundings.bus_low, "stepper.pullout_low",
                        "at_limit.stepper.pullout_low.",
                        "As pull-out, with the supply at its lowest voltage.");
}

Term full_hold(const LimitContext& c, const StepperMotor& motor) {
  return c.recorder.apply(book::holding_torque, "holding", {motor.k_torque, motor.crest});
}

/// Where it stands it is asked for most, and what the standing current holds.
std::optional<Limit> standing(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr || !motor->electric()) return std::nullopt; // told by pull-out
  const Moment moment = worst_share(
      c, {[&](const Stretch& s, double) {
            return s.direction == 0.0 ? motor->holding_standing() : std::numeric_limits<double>::infinity();
          },
          [&](const Stretch& s, double, double) {
            return s.direction == 0.0 ? motor->holding_standing() : std::numeric_limits<double>::infinity();
          }});
  if (moment.value == 0.0) return std::nullopt; // never asked for anything at rest
  Instant now;
  Term capacity;
  {
    const Recorder::Scope scope(c.recorder, "at_limit.stepper.standing.");
    now = c.model.at(moment.piece, moment.tau, c.recorder);
    const Term kept =
        c.recorder.apply(book::standing_torque, "standing", {full_hold(c, *motor), motor->standing});
    capacity = c.recorder.apply(book::beyond_factor, "available", {kept, c.rules.term("pullout_factor")});
  }
  return compare_at(c, "stepper.standing", moment, now.torque, capacity, Kind::torque,
                    "Holding torque at the current kept at rest, with the factor of the house rules. Without "
                    "current nothing is held.");
}

/// Rotor and everything rigidly behind it.
Term swinging_inertia(const LimitContext& c) {
  return c.recorder.apply(book::inertia_sum, "inertia", {c.demand.load_inertia, c.model.rotor});
}

std::optional<Limit> start(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  const Term asked = c.axis["drive"].term_if("start_speed");
  if (motor == nullptr || !motor->electric() || std::isnan(asked)) return std::nullopt;
  Term capacity;
  {
    const Recorder::Scope scope(c.recorder, "at_limit.stepper.start.");
    const Term back{std::abs(c.demand.holding.breakaway),
                    c.demand.holding.breakaway < 0.0 ? "" : c.demand.holding.breakaway.ref};
    capacity = c.recorder.apply(book::pull_in_speed, "pull_in",
                                {motor->teeth, full_hold(c, *motor), swinging_inertia(c), back});
  }

  return compare(
      c, "stepper.start", asked, capacity, Kind::angular_speed,
      motor->microsteps < 4.0
          ? "Started at once, finely microstepped; coarse steps start less, near the resonance not at all."
          : "Started at once, without damping.");
}

std::optional<Limit> resonance(const LimitContext& c) {
  const StepperMotor* motor = stepper(c);
  if (motor == nullptr || !motor->electric() || !motor->chosen) return std::nullopt;
  Term rate, centre;
  {
    const Recorder::Scope scope(c.recorder, "at_limit.stepper.resonance.");
    rate = c.recorder.apply(book::step_resonance, "f_res",
                            {motor->teeth, full_hold(c, *motor), swinging_inertia(c)});
    centre = c.recorder.apply(book::speed_of_steps, "speed", {rate, motor->steps_term()});
  }

  const BandStay stay = longest_in_band(c.model, c.course, resonance_band(centre));
  std::string rule;
  if (c.worded())
    rule = "Full steps at " + format(rate, Kind::frequency).text() + ", a quarter around " +
           format(centre, Kind::angular_speed).text() + "; " + format(stay.total, Kind::time).text() +
           " of the cycle in all. Microsteps weaken it, damping widens the way out.";
  Limit limit =
      compare(c, "stepper.resonance", {stay.longest, ""}, c.rules.term("resonance_time"), Kind::time, rule);
  if (stay.longest > 0.0) limit.moment = c.moment_at(stay.at);
  return limit;
}

std::optional<Limit> pulses(const LimitContext& c) {
  const StepperMotor* motor = any_stepper(c);
  if (motor == nullptr || !c.model.drive->chosen) return std::nullopt;
  const StepperSettings set = c.model.drive->stepper();
  const Term &controller = set.controller_rate, &drive = set.pulse_rate;
  if (std::isnan(controller) && std::isnan(drive))
    return missing("The controller's and the drive's pulse rates are not given.", "drive.controller_rate");
  const bool by_controller = std::isnan(drive) || controller < drive;
  const Term speed{std::abs(c.demand.max_speed), c.demand.max_speed < 0.0 ? "" : c.demand.max_speed.ref};
  const Term needed = c.recorder.apply(book::pulse_rate, "stepper.pulse_rate",
                                       {speed, motor->steps_term(), motor->microsteps});
  return compare_at(c, "stepper.pulses", c.demand.top_speed_at, needed, by_controller ? controller : drive,
                    Kind::frequency,
                    by_controller ? "What the controller can send." : "What the drive's input takes.");
}

std::optional<Limit> motor_current(const LimitContext& c) {
  const StepperMotor* motor = any_stepper(c);
  if (motor == nullptr || !motor->crest_is_set || std::isnan(motor->rated_current)) return std::nullopt;
  const Term capacity = motor->record_rated_crest("stepper.rated_crest", c.recorder);
  return fits_or_not(compare(c, "stepper.current", motor->crest, capacity, Kind::current,
                             "Crest set against the crest that heats like the rating of this connection."));
}

std::optional<Limit> drive_current(const LimitContext& c) {
  const StepperMotor* motor = any_stepper(c);
  if (motor == nullptr || !c.model.drive->chosen) return std::nullopt;
  if (!motor->electric()) return std::nullopt; // told by pull-out
  if (std::isnan(c.model.drive->peak_current))
    return missing("The drive's peak current is missing.", "drive.peak_current");
  Term set = motor->crest;
  if (motor->system.leads != 1.0)
    set = c.recorder.apply(book::scaled, "stepper.lead_current", {set, {motor->system.leads, ""}});
  return fits_or_not(compare(
      c, "drive.setting", set, c.model.drive->peak_current, Kind::current,
      motor->crest_is_set ? "Crest of the current set against the most that can be set."
                          : "Crest that heats like the motor's rating against the most that can be set."));
}

} // namespace

std::span<const LimitSpec> stepper_limits() {
  static constexpr std::array list{
      LimitSpec{"stepper.pullout", "Pull-out",
                "Torque at every moment against the pull-out torque at that speed.", &pull_out,
                LooksAt::motor, Follows::figures},
      LimitSpec{"stepper.pullout_low", "Pull-out, low supply",
                "The same with the supply at its lowest voltage.", &pull_out_low, LooksAt::motor,
                Follows::figures},
      LimitSpec{"stepper.standing", "Hold at rest", "Torque at rest against what the standing current holds.",
                &standing, LooksAt::motor, Follows::figures},
      LimitSpec{"stepper.start", "Start speed", "Speed commanded at once against the pull-in speed.", &start,
                LooksAt::motor, Follows::sums},
      LimitSpec{"stepper.resonance", "Time in resonance", "Longest stay within a quarter of the resonance.",
                &resonance, LooksAt::motor, Follows::figures},
      LimitSpec{"stepper.pulses", "Pulse rate", "Pulses a second at top speed against controller and drive.",
                &pulses, LooksAt::drive, Follows::sums},
      LimitSpec{"stepper.current", "Motor current set", "Current set against the motor's rating.",
                &motor_current, LooksAt::motor, Follows::sums},
      LimitSpec{"drive.setting", "Drive current set", "Current set against what the drive can be set to.",
                &drive_current, LooksAt::drive, Follows::sums}};
  return list;
}

} // namespace fulmox
