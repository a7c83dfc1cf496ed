#include "core/demand/demand.hpp"

#include "core/drive/formulas.hpp"
#include "core/motor/constants.hpp"
#include "core/quantity/format.hpp"
#include "core/rotation/rotation.hpp"
#include "core/support/intern.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace fulmox {

namespace {

/// Integral of the squared torque over one stretch as a step: by the two ends where torque runs straight and
/// the chains behind them are wanted, else by its values at the nodes of the quadrature.
Term record_square(const AxisModel& model, const Stretch& stretch, const std::string& prefix, bool chains,
                   Recorder& recorder) {
  const Recorder::Scope scope(recorder, prefix);
  const double length = stretch.length();
  const auto torque = [&](double tau, const char* at) {
    const Recorder::Scope inner(recorder, at);
    return model.at(stretch.piece, tau, recorder).torque;
  };
  if (chains && runs_straight(model, stretch)) {
    const Term start = torque(stretch.from, "start.");
    const Term end = stretch.torque.size() == 1 ? start : torque(stretch.to, "end.");
    return recorder.apply(book::square_integral, "square", {start, end, {length, ""}});
  }
  std::vector<Term> terms{{length, ""}};
  for (const GaussPoint& node : gauss_rule(stretch.nodes)) terms.push_back({stretch.torque(node.at), ""});
  if (chains) { // one node shows the chain
    const std::size_t middle = stretch.nodes / 2;
    terms[1 + middle] = torque(stretch.tau(gauss_rule(stretch.nodes)[middle].at), "node.");
  }
  return recorder.apply(book::square_quadrature, "square", std::span<const Term>(terms));
}

Term record_rms(const AxisModel& model, const Course& course, const CycleIntegrals& integrals,
                Recorder& recorder) {
  // a long cycle keeps its integrals but not the chain behind every one of them: nobody reads a thousand
  constexpr std::size_t readable = 24, most = 120;
  const auto& stretches = course.stretches;
  if (!recorder.on() || stretches.size() > most) {
    const Term rms = recorder.apply(book::rms_torque, "demand.rms_torque",
                                    {{model.load->cycle.duration, ""}, {integrals.torque_squared, ""}});
    if (recorder.on())
      recorder.note("The squared torque was summed over " + std::to_string(stretches.size()) +
                    " stretches of the cycle.");
    return rms;
  }
  std::vector<Term> terms{{model.load->cycle.duration, ""}};
  for (std::size_t i = 0; i < stretches.size(); ++i) {
    if (stretches[i].braked) continue;
    terms.push_back(record_square(model, stretches[i], "rms." + std::to_string(i + 1) + ".",
                                  stretches.size() <= readable, recorder));
  }
  return recorder.apply(book::rms_torque, "demand.rms_torque", std::span<const Term>(terms));
}

/// The moment again, its chain recorded under the prefix; without what the motor takes.
Instant recorded(const AxisModel& model, const Moment& moment, const char* prefix, Recorder& recorder) {
  const Recorder::Scope scope(recorder, prefix);
  return model.mechanics_at(moment.piece, moment.tau, recorder);
}

Term peak_recorded(const AxisModel& model, const Moment& moment, Recorder& recorder) {
  const Instant now = recorded(model, moment, "peak.", recorder);
  const Term peak = recorder.apply(book::peak_value, "demand.peak_torque", {now.torque});
  if (recorder.on())
    recorder.note("At " + format(moment.time, Kind::time).text() + " of the cycle, in segment " +
                  std::to_string(model.load->cycle.pieces[moment.piece].segment + 1) + ".");
  return peak;
}

/// Everything between motor and load, seen by the motor: each inertia divided by the square of all ratios
/// between it and the motor.
void record_inertia(const AxisModel& model, Demand& demand, Recorder& recorder) {
  const auto through = [&](const Term& inertia, const Term& ratio, const std::string& id) {
    return recorder.apply(book::reflected_inertia, intern(id), {inertia, ratio});
  };
  std::vector<Term> load;
  const auto add = [&](std::string_view id, std::string_view label, const Term& own, const Term& at_motor) {
    if (own == 0.0 && id != "gearhead" && id != "coupling") return;
    demand.inertia.push_back({id, label, own, at_motor});
    load.push_back(at_motor);
  };
  // ratio from the motor to each stage's output, worked out once
  std::vector<Term> ratios{model.gear.ratio};
  for (const Stage& stage : model.load->stages) {
    Term total = ratios.back();
    if (stage.ratio != 1.0)
      total = total == 1.0
                  ? stage.ratio
                  : recorder.apply(book::ratio_product, intern("ratio." + std::to_string(ratios.size())),
                                   {total, stage.ratio});
    ratios.push_back(total);
  }
  for (const InertiaPiece& piece : model.load->mechanism->inertia(model.load->reach, recorder))
    add(piece.id, piece.label, piece.at_own_shaft,
        through(piece.at_input, ratios.back(), "inertia.at_motor." + std::string(piece.id)));
  for (std::size_t k = model.load->stages.size(); k-- > 0;) {
    const Stage& stage = model.load->stages[k];
    const std::string id = "stage" + std::to_string(k + 1);
    const std::string_view out = intern(id + ".output"), in = intern(id + ".input");
    const std::string_view name = intern(std::string(stage.title) + " " + std::to_string(k + 1));
    add(out, intern(std::string(name) + ", load"), stage.output_inertia,
        through(stage.output_inertia, ratios[k + 1], "inertia.at_motor." + std::string(out)));
    add(in, intern(std::string(name) + ", motor"), stage.input_inertia,
        through(stage.input_inertia, ratios[k], "inertia.at_motor." + std::string(in)));
  }
  add("coupling", "Coupling", model.load->coupling.inertia,
      through(model.load->coupling.inertia, model.gear.ratio, "inertia.at_motor.coupling"));
  if (model.gear.fitted) add("gearhead", "Gearhead", model.gear.input_inertia, model.gear.input_inertia);
  if (model.brake.fitted)
    demand.inertia.push_back({"brake", "Brake", model.brake.inertia, model.brake.inertia});
  demand.inertia.push_back({"rotor", "Rotor", model.motor->inertia, model.motor->inertia});
  demand.load_inertia = recorder.apply(book::inertia_sum, {"inertia.load", "Load inertia at the motor"},
                                       std::span<const Term>(load));
  demand.total_inertia =
      recorder.apply(book::inertia_sum, "demand.inertia", {demand.load_inertia, model.rotor});
  if (model.rotor > 0.0)
    demand.inertia_ratio =
        recorder.apply(book::inertia_ratio, "demand.ratio", {demand.load_inertia, model.rotor});
}

/// The current of a moment as a step, by the formula that holds there; its air-gap torque under `prefix`.
Term record_current(const AxisModel& model, const Instant& now, std::string_view id, Recorder& recorder,
                    const char* prefix) {
  const Motor& motor = *model.motor;
  const double rest = (now.torque > 0.0) - (now.torque < 0.0);
  const double against = now.input.direction != 0.0 ? now.input.direction : rest;
  Term air_gap = now.torque;
  if (const double drag = motor.drag(now.speed); drag > 0.0) {
    const Recorder::Scope scope(recorder, prefix);
    air_gap = recorder.apply(book::air_gap_for, "air_gap", {now.torque, {against, ""}, {drag, ""}});
  }
  if (!motor.speed_shapes_current() || now.input.direction == 0.0)
    return motor.record_current(air_gap, id, recorder);
  const Recorder::Scope scope(recorder, prefix);
  const bool brakes = air_gap * now.speed < 0.0;
  const Surroundings& s = model.surroundings;
  Term volts{0.0, ""};
  if (model.least_volts > 0.0)
    volts =
        model.drive->record_motor_volts(std::isnan(s.bus_low) ? s.bus : s.bus_low, "voltage_low", recorder);
  const Term along{brakes ? -std::abs(air_gap) : std::abs(air_gap), ""};
  return motor.record_current_at(along == air_gap ? air_gap : along, {std::abs(now.speed), ""}, volts, id,
                                 recorder);
}

/// Line current for a torque at the shaft.
double current_for(const AxisModel& model, double torque, double speed, double direction) {
  return model.current(model.motor->air_gap(torque, speed, direction), speed, direction);
}

/// Where the current is greatest.
Moment most_current(const AxisModel& model, const Course& course) {
  const Motor& motor = *model.motor;
  if (!motor.speed_shapes_current()) return greatest_magnitude(model, course, &Stretch::air_gap);
  return greatest_of(model, course,
                     {[&](const Stretch& s, double torque, double speed) {
                        return current_for(model, torque, speed, s.direction);
                      },
                      [&](const Stretch&, double torque, double, double fastest) {
                        return motor.current_at(motor.air_gap(torque, fastest, 1.0), fastest,
                                                model.least_volts);
                      }});
}

Term record_peak_power(const AxisModel& model, const Instant& now, Recorder& recorder) {
  const double current = current_for(model, now.torque, now.speed, now.input.direction);
  const double loss = model.drive->loss(current);
  const double iron = model.motor->drag(now.speed) * std::abs(now.speed);
  const double copper = model.motor->copper(current);
  return recorder.apply(book::peak_power, "supply.peak_power",
                        {{now.shaft_power, ""}, {copper, ""}, {iron, ""}, {loss, ""}});
}

/// With more torque and more speed bus power is not less.
Moment most_power(const AxisModel& model, const Course& course) {
  const auto power = [&](double torque, double speed, double direction) {
    return model.bus_power(torque, speed, current_for(model, torque, speed, direction));
  };
  return greatest_of(
      model, course,
      {[&](const Stretch& s, double torque, double speed) { return power(torque, speed, s.direction); },
       [&](const Stretch&, double torque, double, double fastest) { return power(torque, fastest, 1.0); }});
}

void record_electrical(const AxisModel& model, const Course& course, Demand& demand, Recorder& recorder) {
  const Term time{model.load->cycle.duration, ""};
  if (!model.motor->electric()) return;
  demand.peak_current_at = most_current(model, course);
  demand.peak_power_at = most_power(model, course);
  demand.rms_current =
      recorder.apply(book::rms_current, "drive.rms_current", {{demand.integrals.current_squared, ""}, time});
  demand.peak_current =
      record_current(model, recorded(model, demand.peak_current_at, "peak_current.", recorder),
                     "demand.peak_current", recorder, "peak_current.");
  demand.peak_power =
      record_peak_power(model, recorded(model, demand.peak_power_at, "peak_power.", recorder), recorder);
  demand.mean_power =
      recorder.apply(book::mean_power, "supply.mean_power", {{demand.integrals.bus_drawn, ""}, time});
  demand.bus_returned =
      recorder.apply(book::returned_energy, "supply.returned", {{demand.integrals.bus_returned, ""}});
  demand.net_power = recorder.apply(book::net_power, "supply.net_power",
                                    {{demand.integrals.bus_drawn, ""}, demand.bus_returned, time});
  const Surroundings& s = model.surroundings;
  demand.mean_bus_current = demand.peak_bus_current = s.bus;
  if (std::isnan(s.bus)) return;
  demand.mean_bus_current =
      recorder.apply(book::bus_current, "supply.mean_current", {demand.mean_power, s.bus});
  demand.peak_bus_current =
      recorder.apply(book::bus_current, "supply.peak_current", {demand.peak_power, s.bus_low});
}

} // namespace

double load_inertia_at_motor(const AxisModel& model) {
  const Gearhead& gear = model.gear;
  return model.load->inertia / (gear.ratio * gear.ratio) + (gear.fitted ? gear.input_inertia.value : 0.0);
}

Demand work_out_demand(const AxisModel& model, const Course& course, const Rules& rules, Recorder& recorder) {
  Demand demand;
  demand.integrals = integrate(model, course, rules.term("gear_exponent"));
  const Term time{model.load->cycle.duration, ""};

  demand.peak_at = greatest_magnitude(model, course, &Stretch::torque);
  demand.top_speed_at = model.load->peaks.speed;
  demand.top_speed_at.value *= model.gear.fitted ? model.gear.ratio.value : 1.0;
  demand.peak_torque = peak_recorded(model, demand.peak_at, recorder);
  demand.rms_torque = record_rms(model, course, demand.integrals, recorder);
  demand.max_speed =
      recorder.apply(book::peak_speed, "demand.max_speed",
                     {recorded(model, demand.top_speed_at, "top_speed.", recorder).input.speed});
  demand.mean_speed =
      recorder.apply(book::mean_speed, "demand.mean_speed", {{demand.integrals.turns, ""}, time});
  demand.rms_speed =
      recorder.apply(book::rms_speed, "demand.rms_speed", {{demand.integrals.speed_squared, ""}, time});
  if (recorder.on()) {
    demand.holding = work_out_holding(model, recorder);
    record_inertia(model, demand, recorder);
  } else {
    demand.holding = holding_numbers(model);
    demand.load_inertia = {load_inertia_at_motor(model), ""};
    demand.total_inertia = {demand.load_inertia + model.rotor, ""};
    if (model.rotor > 0.0) demand.inertia_ratio = {demand.load_inertia / model.rotor, ""};
  }
  demand.driven =
      recorder.apply(book::energy_sum, {"energy.driven", "Energy driven"}, {{demand.integrals.driven, ""}});
  demand.returned = recorder.apply(book::energy_sum, {"energy.returned", "Energy returned"},
                                   {{demand.integrals.returned, ""}});
  record_electrical(model, course, demand, recorder);
  demand.heat = work_out_heat(model, course, recorder);
  demand.stops = work_out_stops(model, demand.total_inertia, demand.max_speed, demand.holding, recorder);
  return demand;
}

} // namespace fulmox
