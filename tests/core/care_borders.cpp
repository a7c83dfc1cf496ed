#include "core/borders.hpp"

#include "core/limits/standing.hpp"
#include "core/motor/servo.hpp"
#include "core/quantity/constants.hpp"
#include "core/stops/formulas.hpp"
#include "support/axes.hpp"

#include <cmath>
#include <string>

namespace fulmox::testing {

std::string text(double value, const char* unit) {
  char digits[64];
  std::snprintf(digits, sizeof digits, "%.12g %s", value, unit);
  return digits;
}

namespace {

using Change = std::function<void(Axis&)>;

Change typed(std::string_view slot, std::string field, std::string words) {
  return [=](Axis& axis) { axis[slot].type(field, words); };
}

/// A coupling rated so many times what the peak asks, or what the motor gives for ever.
Change coupling_for_peak(double times) {
  return [=](Axis& axis) {
    axis["motor"].type("continuous_curve", "0 rpm: 0.2 N.m; 20000 rpm: 0.2 N.m");

    const Evaluation e = evaluated(axis);
    const double crossing = e.model->load->peaks.output.value;
    axis["coupling"].type("rated_torque",
                          text(times * crossing * house_rules().term("coupling_service"), "N.m"));
  };
}
Change coupling_for_motor(double times) {
  return [=](Axis& axis) {
    axis["motor"].type("continuous_curve", "0 rpm: 0.2 N.m; 20000 rpm: 0.2 N.m");
    axis["coupling"].type("rated_torque", text(times * 0.2, "N.m"));
  };
}

Change supply_peak(double share) {
  return [=](Axis& axis) {
    axis["surroundings"].type("supply_peak", text(share * evaluated(axis).demand.peak_bus_current, "A"));
  };
}
Change supply_mean(double share) {
  return [=](Axis& axis) {
    axis["surroundings"].type("supply_current", text(share * evaluated(axis).demand.mean_bus_current, "A"));
  };
}

/// The brake closes once in a cycle of this length.
Change closing_every(double seconds) {
  return [=](Axis& axis) {
    const double rest = seconds - evaluated(axis).model->load->cycle.duration;
    bool first = true;
    for (Section& segment : axis.cycle) {
      if (segment.spec().id != "dwell") continue;
      segment.type("held_by", first ? "brake" : "motor");
      if (first) segment.type("time", text(segment.term("time") + rest, "s"));
      first = false;
    }
  };
}

/// An ambient temperature in which the case gets this warm.
Change case_at(double celsius) {
  return [=](Axis& axis) {
    for (int i = 0; i < 20; ++i) {
      const double off = celsius + constants::zero_celsius - evaluated(axis).demand.heat.body;
      axis["surroundings"].type("ambient", text(axis["surroundings"].term("ambient") + off, "K"));
    }
  };
}

/// A head, turning this share of the cycle.
Change geared(double share, const char* continuous = "") {
  return [=](Axis& axis) {
    axis["gearhead"].type("ratio", "3");
    axis["gearhead"].type("nominal_torque", "20 N.m");
    axis["gearhead"].type("continuous_torque", continuous);
    double moving = 0.0;
    const Evaluation e = evaluated(axis);
    for (const MotionPiece& piece : e.model->load->cycle.pieces)
      moving += piece.rest() ? 0.0 : piece.duration;
    for (Section& segment : axis.cycle)
      if (segment.spec().id == "dwell") segment.type("time", text(0.5 * moving * (1.0 / share - 1.0), "s"));
  };
}

/// A move that lasts so many seconds, with a pause of the same length.
Change long_run(double seconds) {
  return [=](Axis& axis) {
    geared(0.5)(axis);
    while (axis.cycle.size() > 2) axis.cycle.pop_back();
    axis.cycle[0].type("time", text(seconds, "s"));
    axis.cycle[1].type("time", text(seconds, "s"));
  };
}

/// So many times the capacitance that takes up what a stop from top speed returns.
Change capacitance(double times) {
  return [=](Axis& axis) {
    const Evaluation e = evaluated(axis);
    const double most = most_motor_torque(*e.model), pull = std::abs(e.demand.holding.free);
    const double moving = 0.5 * e.demand.total_inertia * e.demand.max_speed * e.demand.max_speed;
    // what falls does so over the way of the stop
    const double back = moving + pull * moving / (most - pull);
    const double trip = axis["drive"].term("overvoltage"), bus = e.model->surroundings.bus_high;
    axis["drive"].type("capacitance", text(1e6 * times * 2.0 * back / (trip * trip - bus * bus), "uF"));
  };
}
Change resistor(double times) {
  return [=](Axis& axis) {
    const Evaluation e = evaluated(axis);
    axis["drive"].type("brake_power", text(times * most_motor_torque(*e.model) * e.demand.max_speed, "W"));
  };
}

/// A ripple of this share of the rated current.
Change rippling(double share) {
  return [=](Axis& axis) {
    const Evaluation e = evaluated(axis);
    const auto& motor = dynamic_cast<const ServoMotor&>(*e.model->motor);
    axis["drive"].type(
        "switching",
        text(e.model->surroundings.bus_high / (4.0 * motor.inductance * share * motor.rated_current), "Hz"));
  };
}

Change both(const Change& a, const Change& b) {
  return [=](Axis& axis) {
    a(axis);
    b(axis);
  };
}

} // namespace

std::vector<Border> care_borders() {
  const Change estimated = [](Axis& axis) {
    axis["motor"].type("winding_time", "");
    axis["motor"].type("case_time", "");
    axis["motor"].type("r_winding_case", "");
    axis["motor"].type("r_case_ambient", "");
  };
  const auto hoist = [](const char* angle) {
    return [angle](Axis& axis) {
      choose_mechanism(axis, *find_mechanism("drum"));
      axis["brake"].type("fitted", "no");
      axis["load"].type("angle", angle);
    };
  };
  return {{"gravity_ignored", typed("load", "angle", "0 deg"), typed("load", "angle", "1 deg")},
          {"gravity_ignored", hoist("0 deg"), hoist("90 deg")},
          {"gravity_ignored", typed("load", "angle", "0 deg"),
           both(typed("load", "angle", "0 deg"), typed("brake", "fitted", "no"))},
          {"coupling_on_rated", coupling_for_peak(0.999), coupling_for_peak(1.001)},
          {"coupling_on_rated", coupling_for_motor(1.001), coupling_for_motor(0.999)},
          {"supply_on_one_phase", supply_peak(0.999), supply_peak(1.001)},
          {"supply_on_one_phase", supply_peak(0.301), supply_peak(0.299)},
          {"supply_on_one_phase", supply_mean(0.301), supply_mean(1.001)},
          {"brake_wear", closing_every(7.19), closing_every(7.21)},
          {"hot_case", case_at(65.1), case_at(64.9)},
          {"heat_estimated", estimated, [](Axis&) {}},
          {"gear_without_continuous", geared(0.601), geared(0.599)},
          {"gear_without_continuous", geared(0.7), geared(0.7, "16 N.m")},
          {"gear_without_continuous", long_run(1201.0), long_run(1199.0)},
          {"stop_overvoltage", capacitance(0.999), capacitance(1.001)},
          {"stop_overvoltage", resistor(0.999), resistor(1.001)},
          {"current_ripple", rippling(0.201), rippling(0.199)},
          {"drive_derated",
           both(typed("surroundings", "ambient", "40 degC"), typed("drive", "rated_ambient", "39.9 degC")),
           both(typed("surroundings", "ambient", "40 degC"), typed("drive", "rated_ambient", "40 degC"))},
          {"drive_derated",
           both(typed("drive", "rated_altitude", "1000 m"), typed("surroundings", "altitude", "1001 m")),
           both(typed("drive", "rated_altitude", "1000 m"), typed("surroundings", "altitude", "1000 m"))}};
}

} // namespace fulmox::testing
