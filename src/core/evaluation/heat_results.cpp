#include "core/evaluation/heat_results.hpp"

#include "core/heat/formulas.hpp"

#include <cmath>

namespace fulmox {
namespace {

void add(std::vector<ResultValue>& results, std::string_view id, std::string_view label,
         std::string_view symbol, std::string_view help, Kind kind, const Term& value) {
  results.push_back({id, label, symbol, help, kind, value, value.ref, ResultGroup::heat});
}

/// Standing at the greatest current of motor and drive, from the hottest moment of the cycle.
void add_stall(const AxisModel& model, const MotorHeat& heat, Recorder& recorder,
               std::vector<ResultValue>& results) {
  const Motor& motor = *model.motor;
  const double amperes = std::fmin(motor.peak_current, model.drive->peak_current);
  if (motor.keeps_current() || !(amperes > 0.0) || heat.steady.runs_away) return;
  const double cold = motor.copper(amperes) * cold_share(motor);
  const Term loss =
      recorder.apply(book::crowded_loss, "heat.stall_loss", {{cold, ""}, {motor.phases().at_crest, ""}});
  const Term time = recorder.apply(book::adiabatic_time, {"heat.stall_time", "Stall at the greatest current"},
                                   {heat.winding_capacity, loss, motor.winding_limit, heat.hottest});
  add(results, "heat.stall_time", "Stall, hot to limit", "t_s",
      "Standing at the greatest current of motor and drive, from the hottest moment of the cycle until the "
      "winding "
      "reaches its limit. A second stall comes sooner: the case has to cool first.",
      Kind::time, time);
}

} // namespace

void add_heat_results(const AxisModel& model, const Demand& demand, Recorder& recorder,
                      std::vector<ResultValue>& results) {
  const MotorHeat& heat = demand.heat;
  if (heat.gap) return;
  const Term limit = model.motor->winding_limit, ambient = model.surroundings.ambient;
  if (!heat.steady.runs_away) {
    add(results, "heat.hottest", "Hottest winding", "T_w",
        "Hottest moment of the cycle, repeated until steady.", Kind::temperature, heat.hottest);
    add(results, "heat.case", "Hottest case", "T_c", "Of the motor in the steady cycle. Hot parts burn skin.",
        Kind::temperature, heat.body);
  }
  if (heat.steady.runs_away || heat.hottest > limit) {
    const HeatState cold{ambient, ambient, ambient};
    if (const auto time = time_to(heat.network, heat.cycle, cold, limit))
      add(results, "heat.time_to_limit", "Cold to limit", "t_lim",
          "From the ambient temperature, cycle after cycle, until the winding first reaches its limit.",
          Kind::time, recorder.apply(book::time_found, "heat.time_to_limit", {{*time, ""}}));
  }
  add_stall(model, heat, recorder, results);
}

} // namespace fulmox
