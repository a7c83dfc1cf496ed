#include "core/borders.hpp"
#include "core/motor/servo.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <functional>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

std::function<void(Axis&)> typing(std::string_view slot, std::string field, std::string text) {
  return [=](Axis& axis) { axis[slot].type(field, text); };
}

/// The times of the dwells such that they make up this share of the cycle.
std::function<void(Axis&)> resting(double share) {
  return [=](Axis& axis) {
    double moving = 0.0;
    const Evaluation before = evaluated(axis);
    for (const MotionPiece& piece : before.model->load->cycle.pieces)
      moving += piece.rest() ? 0.0 : piece.duration;
    const double each = moving * share / (1.0 - share) / 2.0;
    for (Section& segment : axis.cycle)
      if (segment.spec().id == "dwell") segment.type("time", std::to_string(each) + " s");
  };
}

/// Marks this many quantities of load and mechanism as guesses, all others as measured.
std::function<void(Axis&)> guessing(double share) {
  return [=](Axis& axis) {
    std::vector<std::pair<Section*, std::size_t>> typed;
    for (Section* section : {&axis["load"], &axis["mechanism"]})
      for (std::size_t i = 0; i < section->size(); ++i)
        if (!section->entry(i).blank() && section->field(i).type == FieldType::quantity)
          typed.emplace_back(section, i);
    for (std::size_t n = 0; n < typed.size(); ++n) {
      auto& [section, i] = typed[n];
      Entry entry = section->entry(i);
      entry.origin = static_cast<double>(n) < share * static_cast<double>(typed.size()) ? Origin::guess
                                                                                        : Origin::measured;
      section->put(section->field(i).id, entry);
    }
  };
}

/// A motor whose continuous and peak torque are this many times what the axis takes.
std::function<void(Axis&)> motor_of_size(double times) {
  return [=](Axis& axis) {
    const Evaluation before = evaluated(axis);
    Section& motor = axis["motor"];
    const auto level = [&](std::string_view result) {
      const std::string torque = std::to_string(times * value(before, result)) + " N.m";
      return "0 rpm: " + torque + "; 20000 rpm: " + torque;
    };
    motor.type("continuous_curve", level("demand.rms_torque"));
    motor.type("peak_curve", level("demand.peak_torque"));
  };
}

/// A rotor that the load outweighs this many times.
std::function<void(Axis&)> inertia_ratio_of(double ratio) {
  return [=](Axis& axis) {
    const double load = evaluated(axis).demand.load_inertia;
    axis["motor"].type("inertia", std::to_string(1e6 * load / ratio) + " kg.mm2");
    axis["brake"].type("inertia", "0 kg.cm2");
  };
}

/// Weakening, and a drive that trips at this many times the EMF of top speed.
std::function<void(Axis&)> tripping_at(double times) {
  return [=](Axis& axis) {
    const Evaluation before = evaluated(axis);
    const double emf = dynamic_cast<const ServoMotor&>(*before.model->motor).ke * before.demand.max_speed;
    axis["drive"].type("weakening", "yes");
    axis["drive"].type("overvoltage", std::to_string(times * emf) + " V");
  };
}

/// A motor whose peak torque is this many times what breaking away takes.
std::function<void(Axis&)> breaking_away_with(double times) {
  return [=](Axis& axis) {
    axis["load"].type("static_friction", "0.4");
    const std::string torque = std::to_string(times * evaluated(axis).demand.holding.breakaway) + " N.m";
    axis["motor"].type("peak_curve", "0 rpm: " + torque + "; 9000 rpm: " + torque);
  };
}

/// Kt this many times what Ke says: Kt(rms) = √(3/2)·Ke(line-line peak).
std::function<void(Axis&)> kt_times(double factor) {
  return [=](Axis& axis) {
    const double kt =
        std::sqrt(1.5) * dynamic_cast<const ServoMotor&>(*evaluated(axis).model->motor).ke_given;
    axis["motor"].type("kt_per", "rms");
    axis["motor"].type("kt", std::to_string(factor * kt) + " N.m/A");
  };
}

void no_brake(Axis& axis) { axis["brake"].type("fitted", "no"); }

std::vector<Border> borders() {
  return {
      {"vertical_without_brake", no_brake,
       [](Axis& axis) {
         no_brake(axis);
         axis["load"].type("angle", "0 deg");
       }},
      {"vertical_without_brake", no_brake,
       [](Axis& axis) { // a sliding screw this poor holds by itself
         no_brake(axis);
         axis["mechanism"].type("efficiency", "0.3");
         axis["mechanism"].type("back_efficiency", "-0.5");
       }},
      {"dwell_on_missing_brake",
       [](Axis& axis) {
         no_brake(axis);
         axis.cycle[1].type("held_by", "brake");
       },
       [](Axis& axis) {
         no_brake(axis);
         axis.cycle[1].type("held_by", "motor");
       }},
      {"friction_zero",
       [](Axis& axis) {
         for (const char* field : {"friction", "seal_drag", "viscous"}) axis["load"].type(field, "");
         axis["load"].type("friction", "0");
       },
       [](Axis& axis) { // any of the three is friction
         axis["load"].type("friction", "0");
         axis["load"].type("seal_drag", "1 N");
       }},
      {"efficiency_one", typing("mechanism", "efficiency", "1"), typing("mechanism", "efficiency", "0.99")},
      {"dwell_share", resting(0.81), resting(0.79)},
      {"everything_guessed", guessing(0.5), guessing(0.4)},
      {"kt_ke_disagree", kt_times(1.051), kt_times(1.049)},
      {"kt_ke_disagree", kt_times(0.949), kt_times(0.951)},
      {"convention_missing", typing("motor", "ke_as", ""),
       [](Axis& axis) { // nothing to take for another
         axis["motor"].type("ke", "");
         axis["motor"].type("ke_as", "");
       }},
      {"winding_kind_unknown", typing("motor", "winding_as", ""),
       [](Axis& axis) {
         axis["motor"].type("resistance", "");
         axis["motor"].type("winding_as", "");
       }},
      {"motor_too_big", motor_of_size(4.05), motor_of_size(3.95)},
      {"motor_too_big",
       [](Axis& axis) {
         inertia_ratio_of(4.0)(axis);
         motor_of_size(4.05)(axis);
       },
       [](Axis& axis) {
         inertia_ratio_of(4.0)(axis);
         motor_of_size(3.95)(axis);
       }},
      {"rotor_dominates", inertia_ratio_of(0.099), inertia_ratio_of(0.101)},
      {"coupling_neglected", typing("coupling", "inertia", ""), typing("coupling", "inertia", "0 kg.cm2")},
      {"open_cycle", [](Axis& axis) { axis.cycle[0].type("distance", "-149.9 mm"); }, [](Axis&) {}},
      {"stroke_beyond_screw", typing("mechanism", "length", "149 mm"),
       typing("mechanism", "length", "151 mm")},
      {"emf_overvoltage", tripping_at(0.99), tripping_at(1.01)},
      {"emf_overvoltage", tripping_at(0.99), typing("drive", "overvoltage", "1 V")},
      {"bus_below_drive", typing("surroundings", "bus_low", "19.9 V"),
       typing("surroundings", "bus_low", "20 V")},
      {"breakaway", breaking_away_with(0.999), breaking_away_with(1.001)},
      {"not_read", [](Axis& axis) { axis.cycle[0].unknown["process_force"] = R"("40 N")"; },
       [](Axis& axis) { axis.cycle[0].unknown["_process_force"] = R"("40 N")"; }},
      {"not_read", [](Axis& axis) { axis["mechanism"].unknown["raduis"] = R"("40 mm")"; },
       [](Axis& axis) { axis["mechanism"].unknown["radius"] = R"("40 mm")"; }}, // of a drum
  };
}

} // namespace

TEST_CASE("every warning begins where it says and not before") {
  std::set<std::string_view> seen;
  std::vector<Border> all = borders();
  for (std::vector<Border> more :
       {stepper_borders(), sheet_borders(), rotor_borders(), claim_borders(), care_borders()})
    all.insert(all.end(), more.begin(), more.end());
  for (const Border& border : all) {
    INFO(border.warning);
    seen.insert(border.warning);
    Axis axis = picker();
    border.speaks(axis);
    CHECK(warns(evaluated(axis), border.warning));
    axis = picker();
    border.silent(axis);
    CHECK_FALSE(warns(evaluated(axis), border.warning));
  }
  for (const WarningSpec& spec : warning_specs()) {
    INFO(spec.id);
    CHECK(seen.count(spec.id) == 1);
  }
}
