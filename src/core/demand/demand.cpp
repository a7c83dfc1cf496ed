#include "core/demand/demand.hpp"

#include "core/mechanism/rotation.hpp"
#include "core/quantity/format.hpp"
#include "core/support/intern.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace fulmox {

namespace {

/// Integral of the squared torque over one span as a step: by the two ends where torque runs straight and the
/// chains behind them are wanted, else by its values at the nodes of the quadrature.
Term record_square(const AxisModel& model, const Span& span, const SpanTorques& torques,
                   const std::string& prefix, bool chains, Recorder& recorder) {
  const double length = span.to - span.from;
  if (chains && span_is_straight(model, span)) {
    const auto torque = [&](double tau, const char* end) {
      const Recorder::Scope scope(recorder, prefix + end);
      return model.at(span.piece, tau, recorder).torque;
    };
    const Term start = torque(span.from, "start.");
    const Term end = torque(span.to, "end.");
    const Recorder::Scope scope(recorder, prefix);
    return recorder.apply(book::square_integral, "square", {start, end, {length, ""}});
  }
  std::vector<Term> terms{{length, ""}};
  for (std::size_t i = 0; i < torques.count; ++i) terms.push_back({torques.values[i], ""});
  if (chains) { // the middle node shows the chain
    const Recorder::Scope scope(recorder, prefix + "middle.");
    terms[1 + torques.count / 2] = model.at(span.piece, 0.5 * (span.from + span.to), recorder).torque;
  }
  const Recorder::Scope scope(recorder, prefix);
  return recorder.apply(book::square_quadrature, "square", std::span<const Term>(terms));
}

Term record_rms(const AxisModel& model, const std::vector<Span>& spans, const CycleIntegrals& integrals,
                Recorder& recorder) {
  // a long cycle keeps its integrals but not the chain behind every one of them: nobody reads a thousand
  constexpr std::size_t readable = 24, most = 120;
  if (!recorder.on() || spans.size() > most) {
    const Term rms = recorder.apply(book::rms_torque, "demand.rms_torque",
                                    {{model.cycle.duration, ""}, {integrals.torque_squared, ""}});
    recorder.note("The squared torque was summed over " + std::to_string(spans.size()) +
                  " stretches of the cycle.");
    return rms;
  }
  std::vector<Term> terms{{model.cycle.duration, ""}};
  for (std::size_t i = 0; i < spans.size(); ++i) {
    if (model.cycle.pieces[spans[i].piece].braked) continue;
    terms.push_back(record_square(model, spans[i], integrals.torques[i], "rms." + std::to_string(i + 1) + ".",
                                  spans.size() <= readable, recorder));
  }
  return recorder.apply(book::rms_torque, "demand.rms_torque", std::span<const Term>(terms));
}

Term peak_recorded(const AxisModel& model, const Moment& moment, Recorder& recorder) {
  Instant now;
  {
    const Recorder::Scope scope(recorder, "peak.");
    now = model.at(moment.piece, moment.tau, recorder);
  }
  const Term peak = recorder.apply(book::peak_value, "demand.peak_torque", {now.torque});
  recorder.note("At " + format(moment.time, Kind::time).text() + " of the cycle, in segment " +
                std::to_string(model.cycle.pieces[moment.piece].segment + 1) + ".");
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
  for (const Stage& stage : model.stages) {
    Term total = ratios.back();
    if (stage.ratio != 1.0)
      total = total == 1.0
                  ? stage.ratio
                  : recorder.apply(book::ratio_product, intern("ratio." + std::to_string(ratios.size())),
                                   {total, stage.ratio});
    ratios.push_back(total);
  }
  for (const InertiaPiece& piece : model.mechanism->inertia(model.reach, recorder))
    add(piece.id, piece.label, piece.at_own_shaft,
        through(piece.at_input, ratios.back(), "inertia.at_motor." + std::string(piece.id)));
  for (std::size_t k = model.stages.size(); k-- > 0;) {
    const Stage& stage = model.stages[k];
    const std::string id = "stage" + std::to_string(k + 1);
    const std::string_view out = intern(id + ".output"), in = intern(id + ".input");
    const std::string_view name = intern(std::string(stage.title) + " " + std::to_string(k + 1));
    add(out, intern(std::string(name) + ", load"), stage.output_inertia,
        through(stage.output_inertia, ratios[k + 1], "inertia.at_motor." + std::string(out)));
    add(in, intern(std::string(name) + ", motor"), stage.input_inertia,
        through(stage.input_inertia, ratios[k], "inertia.at_motor." + std::string(in)));
  }
  add("coupling", "Coupling", model.coupling_inertia,
      through(model.coupling_inertia, model.gear.ratio, "inertia.at_motor.coupling"));
  if (model.gear.fitted) add("gearhead", "Gearhead", model.gear.input_inertia, model.gear.input_inertia);
  if (model.brake.fitted)
    demand.inertia.push_back({"brake", "Brake", model.brake.inertia, model.brake.inertia});
  demand.inertia.push_back({"rotor", "Rotor", model.motor.inertia, model.motor.inertia});
  demand.load_inertia = recorder.apply(book::inertia_sum, "inertia.load", std::span<const Term>(load));
  demand.total_inertia =
      recorder.apply(book::inertia_sum, "demand.inertia", {demand.load_inertia, model.rotor});
  if (model.rotor > 0.0)
    demand.inertia_ratio =
        recorder.apply(book::inertia_ratio, "demand.ratio", {demand.load_inertia, model.rotor});
}

/// The hold torque seen by the motor; rest takes no help from friction in any stage.
Term record_hold(const AxisModel& model, Recorder& recorder) {
  const Recorder::Scope scope(recorder, "hold.");
  Term torque = model.mechanism->holding_torque(model.reach, recorder);
  for (std::size_t k = model.stages.size(); k-- > 0;)
    torque = recorder.apply(book::stage_rest, intern("stage" + std::to_string(k + 1)),
                            {torque, model.stages[k].ratio});
  return recorder.apply(book::stage_rest, "torque", {torque, model.gear.ratio});
}

Term record_breakaway(const AxisModel& model, Recorder& recorder) {
  const Recorder::Scope scope(recorder, "breakaway.");
  Term torque = model.mechanism->breakaway_torque(model.reach, recorder);
  const auto drive = [&](const Stage& stage, const std::string& name, std::string_view sum) {
    const Term driving =
        recorder.apply(book::stage_driving, intern(name), {torque, stage.ratio, stage.efficiency});
    torque = recorder.apply(book::torque_sum, sum, {driving, stage.no_load});
  };
  for (std::size_t k = model.stages.size(); k-- > 0;)
    drive(model.stages[k], "stage" + std::to_string(k + 1), intern("stage_sum" + std::to_string(k + 1)));
  drive(model.gear, "gear_torque", "torque");
  return torque;
}

void record_electrical(const AxisModel& model, const Trace& trace, Demand& demand, Recorder& recorder) {
  const Term time{model.cycle.duration, ""};
  demand.peak_current_at = worst(model, trace, [](const Instant& i) { return i.current; });
  demand.peak_power_at = worst(model, trace, [](const Instant& i) { return i.bus_power; });
  if (!model.motor.has_kt()) return;
  demand.rms_current =
      recorder.apply(book::rms_current, "drive.rms_current", {{demand.integrals.current_squared, ""}, time});
  {
    Instant now;
    {
      const Recorder::Scope scope(recorder, "peak_current.");
      now = model.at(demand.peak_current_at.piece, demand.peak_current_at.tau, recorder);
    }
    const double drag = model.motor.drag_torque(now.speed, now.input.direction);
    demand.peak_current = recorder.apply(book::torque_current, "drive.peak_current",
                                         {{now.torque + drag, now.torque.ref}, model.motor.kt});
    if (now.current > demand.peak_current.value * (1.0 + 1e-9)) {
      demand.peak_current.value = now.current;
      recorder.restate(now.current,
                       "Read from the maker's peak point: the torque constant falls at high current.");
    }
  }
  Instant now;
  {
    const Recorder::Scope scope(recorder, "peak_power.");
    now = model.at(demand.peak_power_at.piece, demand.peak_power_at.tau, recorder);
  }
  const double loss = drive_loss(model.drive.standby, model.drive.device_drop, now.current);
  const double iron = model.motor.drag(now.speed) * std::abs(now.speed);
  const double copper = now.bus_power - now.shaft_power - loss - iron;
  demand.peak_power = recorder.apply(
      book::peak_power, "supply.peak_power",
      {{now.shaft_power, now.torque.ref}, {copper, "motor.resistance_warm"}, {iron, ""}, {loss, ""}});
  demand.mean_power =
      recorder.apply(book::mean_power, "supply.mean_power", {{demand.integrals.bus_drawn, ""}, time});
  demand.bus_returned =
      recorder.apply(book::returned_energy, "supply.returned", {{demand.integrals.bus_returned, ""}});
  const Term& bus = model.surroundings.bus;
  demand.mean_bus_current = demand.peak_bus_current = bus;
  if (std::isnan(bus)) return;
  demand.mean_bus_current =
      recorder.apply(book::bus_current, "supply.mean_current", {demand.mean_power, bus});
  demand.peak_bus_current =
      recorder.apply(book::bus_current, "supply.peak_current", {demand.peak_power, bus});
}

} // namespace

double load_inertia_at_motor(const AxisModel& model) {
  Recorder silent(false);
  Demand demand;
  record_inertia(model, demand, silent);
  return demand.load_inertia;
}

Demand work_out_demand(const AxisModel& model, const Trace& trace, const HouseRules& rules,
                       Recorder& recorder) {
  Demand demand;
  const std::vector<Span> spans = spans_of(model, trace);
  demand.integrals = integrate(model, spans, rules.gear_exponent);
  const Term time{model.cycle.duration, ""};

  demand.peak_at = worst(model, trace, [](const Instant& i) { return std::abs(i.torque); });
  demand.top_speed_at = worst(model, trace, [](const Instant& i) { return std::abs(i.speed); });
  demand.peak_torque = peak_recorded(model, demand.peak_at, recorder);
  demand.rms_torque = record_rms(model, spans, demand.integrals, recorder);
  {
    Term speed;
    {
      const Recorder::Scope scope(recorder, "top_speed.");
      speed = model.at(demand.top_speed_at.piece, demand.top_speed_at.tau, recorder).input.speed;
    }
    demand.max_speed = recorder.apply(book::peak_speed, "demand.max_speed", {speed});
  }
  demand.mean_speed =
      recorder.apply(book::mean_speed, "demand.mean_speed", {{demand.integrals.turns, ""}, time});
  demand.rms_speed =
      recorder.apply(book::rms_speed, "demand.rms_speed", {{demand.integrals.speed_squared, ""}, time});
  demand.hold_torque = record_hold(model, recorder);
  demand.breakaway_torque = record_breakaway(model, recorder);
  record_inertia(model, demand, recorder);
  demand.driven = recorder.apply(book::energy_sum, "energy.driven", {{demand.integrals.driven, ""}});
  demand.returned = recorder.apply(book::energy_sum, "energy.returned", {{demand.integrals.returned, ""}});
  record_electrical(model, trace, demand, recorder);
  return demand;
}

} // namespace fulmox
