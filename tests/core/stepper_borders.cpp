#include "core/borders.hpp"

#include "core/limits/stepper_band.hpp"
#include "core/motor/stepper.hpp"
#include "core/motor/stepper_formulas.hpp"
#include "support/axes.hpp"

#include <cmath>
#include <numbers>
#include <string>

namespace fulmox::testing {
namespace {

using Change = std::function<void(Axis&)>;

void put_stepper(Axis& axis, const char* motor = "HS23-56-28") {
  axis["surroundings"].type("bus", "48 V");
  choose_part(axis, "motor", *library().find("motor", motor));
  choose_part(axis, "drive", *library().find("drive", "SS50-045"));
  axis["drive"].type("microsteps", "16");
  axis["drive"].type("standing_current", "50 %");
}

const StepperMotor& motor_of(const Evaluation& e) {
  return dynamic_cast<const StepperMotor&>(*e.model->motor);
}

/// With the stepper, then changed by what the evaluation of that tells.
Change stepper_with(const std::function<void(Axis&, const Evaluation&)>& change,
                    const char* motor = "HS23-56-28") {
  return [=](Axis& axis) {
    put_stepper(axis, motor);
    change(axis, evaluated(axis));
  };
}

Change typed(std::string_view slot, std::string field, std::string words) {
  return [=](Axis& axis) {
    put_stepper(axis);
    axis[slot].type(field, words);
  };
}

/// The holding torque is this many times what the peak asks with its factor.
Change holding(double times) {
  return stepper_with([=](Axis& axis, const Evaluation& e) {
    axis["motor"].type("holding_torque", text(times * 1.5 * std::abs(value(e, "demand.peak_torque")), "N.m"));
  });
}

/// So heavy a load that its peak is this share of the least pull-out torque.
Change stepper_used(double share) {
  const auto load = [=](Axis& axis, const Evaluation&) {
    for (Section& segment : axis.cycle)
      if (segment.spec().id == "move") segment.type("time", "1.5 s");
    double low = 0.01, high = 100.0;
    for (int i = 0; i < 60; ++i) {
      axis["load"].type("moved_mass", text(0.5 * (low + high), "kg"));
      const Evaluation e = evaluated(axis);
      const double least = motor_of(e).pull_out_torque(
          e.demand.max_speed, e.model->drive->motor_volts(e.model->surroundings.bus_low));
      (e.demand.peak_torque / least > share ? high : low) = 0.5 * (low + high);
    }
  };
  return stepper_with(load, "HS34-68-45");
}

Change starting(double share_of_upper_edge) {
  return stepper_with([=](Axis& axis, const Evaluation& e) {
    axis["drive"].type("start_speed",
                       text(share_of_upper_edge * resonance_of(*e.model, e.demand)->high, "rad/s"));
  });
}

/// Sixteen microsteps are this many times the angle friction lets the rotor hang behind.
Change microstep_over_friction(double times) {
  return stepper_with([=](Axis& axis, const Evaluation& e) {
    const double friction = std::abs(value(e, "breakaway.torque")) - std::abs(value(e, "hold.torque"));
    const double angle = std::numbers::pi / 2.0 / 16.0 / times;
    axis["motor"].type("holding_torque", text(friction / std::sin(angle), "N.m"));
    axis["motor"].type("pullout_curve", "");
    axis["motor"].type("pullout_curve_2", "");
  });
}

Change bus_over_winding(double times) {
  return stepper_with([=](Axis& axis, const Evaluation& e) {
    axis["surroundings"].type("bus", text(times * motor_of(e).resistance * motor_of(e).rated_current, "V"));
  });
}

Change bus_over_schools(double times) {
  return stepper_with([=](Axis& axis, const Evaluation& e) {
    const StepperMotor& motor = motor_of(e);
    const double most =
        std::max(15.0 * motor.resistance * motor.rated_current, 32.0 * std::sqrt(motor.inductance * 1e3));
    axis["surroundings"].type("bus", text(times * most, "V"));
  });
}

Change resting_at_full_current(double share) {
  return [=](Axis& axis) {
    put_stepper(axis);
    axis["drive"].type("standing_current", "");
    const Evaluation e = evaluated(axis);
    double moving = 0.0;
    for (const MotionPiece& piece : e.model->load->cycle.pieces)
      moving += piece.rest() ? 0.0 : piece.duration;
    for (Section& segment : axis.cycle)
      if (segment.spec().id == "dwell") segment.type("time", text(moving * share / (1.0 - share) / 2.0, "s"));
  };
}

Change curve_over_hold(double times) {
  return stepper_with([=](Axis& axis, const Evaluation& e) {
    axis["motor"].type("pullout_curve",
                       "60 rpm: " + text(times * motor_of(e).holding_rated, "N.m") + "; 900 rpm: 0.1 N.m");
    axis["motor"].type("pullout_curve_2", "");
  });
}

Change eight_leads(const char* rated_for) {
  return [=](Axis& axis) {
    put_stepper(axis, "HS23-56-20W");
    axis["motor"].type("rated_for", rated_for);
  };
}

Change setting(const char* as) {
  return [=](Axis& axis) {
    put_stepper(axis);
    axis["drive"].type("current_setting", "3 A");
    axis["drive"].type("current_as", as);
  };
}

/// Curves at 24 and 48 V; at 600 rpm the one of 48 V has 0.5 N·m.
Change two_curves(std::string at_low) {
  return [=](Axis& axis) {
    put_stepper(axis);
    axis["motor"].type("pullout_volts", "24 V");
    axis["motor"].type("pullout_curve", "60 rpm: 1 N.m; 600 rpm: " + at_low);
    axis["motor"].type("pullout_volts_2", "48 V");
    axis["motor"].type("pullout_curve_2", "60 rpm: 1.1 N.m; 600 rpm: 0.5 N.m; 900 rpm: 0.3 N.m");
  };
}

} // namespace

std::vector<Border> stepper_borders() {
  return {{"stepper_too_big", stepper_used(0.149), stepper_used(0.151)},
          {"stepper_on_holding", holding(1.001), holding(0.999)},
          {"stepper_start_resonance", starting(0.999), starting(1.001)},
          {"stepper_small_steps", microstep_over_friction(0.999), microstep_over_friction(1.001)},
          {"stepper_voltage", bus_over_winding(3.99), bus_over_winding(4.01)},
          {"stepper_voltage", bus_over_schools(1.001), bus_over_schools(0.999)},
          {"stepper_hot", resting_at_full_current(0.301), resting_at_full_current(0.299)},
          {"stepper_hot", typed("drive", "standing_current", "100 %"),
           typed("drive", "standing_current", "99.9 %")},
          {"stepper_lost", typed("drive", "microsteps", "8"), [](Axis&) {}},
          {"stepper_convention", setting(""), setting("crest")},
          {"stepper_ratings", eight_leads(""), eight_leads("unipolar")},
          {"stepper_curve", curve_over_hold(1.051), curve_over_hold(1.049)},
          {"stepper_curves_cross", two_curves("0.527 N.m"), two_curves("0.523 N.m")}};
}

} // namespace fulmox::testing
