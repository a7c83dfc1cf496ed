#include "core/demand/demand.hpp"

#include "core/mechanism/rotation.hpp"
#include "core/quantity/format.hpp"
#include "core/support/intern.hpp"

#include <boost/math/tools/minima.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace fulmox {

double rms_of(std::span<const double> time_then_integrals) {
  const auto integrals = time_then_integrals.subspan(1);
  return std::sqrt(std::accumulate(integrals.begin(), integrals.end(), 0.0) / time_then_integrals[0]);
}

double square_quadrature(std::span<const double> length_then_torques) {
  const auto rule = gauss_rule(length_then_torques.size() - 1);
  double sum = 0.0;
  for (std::size_t k = 0; k < rule.size(); ++k)
    sum += 0.5 * rule[k].second * length_then_torques[k + 1] * length_then_torques[k + 1];
  return sum * length_then_torques[0];
}

double square_integral(double start, double end, double duration) {
  return duration * (start * start + start * end + end * end) / 3.0;
}

namespace {
double magnitude(double value) { return std::abs(value); }
double per_time(double integral, double time) { return integral / time; }
double rms_from(double integral, double time) { return std::sqrt(integral / time); }
double quotient(double load, double rotor) { return load / rotor; }
double same(double value) { return value; }
} // namespace

namespace book {
namespace {
const Parameter cycle_time{"t", "t_c", Kind::time, "cycle time, dwells included", range::positive};
}
const Formula peak_value{"demand.peak",
                         "Peak torque",
                         "T_pk",
                         "max |{T}|",
                         Kind::torque,
                         {{"T", "T", Kind::torque, "torque at that moment"}},
                         "greatest magnitude over the cycle",
                         calling<&magnitude>};
const Formula peak_speed{"demand.max_speed",
                         "Greatest motor speed",
                         "n_max",
                         "max |{n}|",
                         Kind::angular_speed,
                         {{"n", "n", Kind::angular_speed, "speed at that moment"}},
                         "greatest magnitude over the cycle",
                         calling<&magnitude>};
const Formula rms_torque{
    "demand.rms",
    "Rms torque",
    "T_rms",
    "√({Q}/{t})",
    Kind::torque,
    {cycle_time,
     {"Q", "Σ∫T²dt", Kind::torque_squared_time, "squared torque over each span", range::not_negative}},
    "equal copper loss over the cycle",
    &rms_of,
    true};
const Formula rms_current{
    "drive.rms_current",
    "Rms line current",
    "I_rms",
    "√({Q}/{t})",
    Kind::current,
    {{"Q", "∫I²dt", Kind::current_squared_time, "squared current over the cycle", range::not_negative},
     cycle_time},
    "equal copper loss over the cycle",
    calling<&rms_from>};
const Formula square_integral{"demand.square_integral",
                              "Squared torque over a span",
                              "∫T²dt",
                              "{t}·({T1}² + {T1}·{T2} + {T2}²)/3",
                              Kind::torque_squared_time,
                              {{"T1", "T1", Kind::torque, "torque at the start"},
                               {"T2", "T2", Kind::torque, "torque at the end"},
                               {"t", "t", Kind::time, "duration", range::not_negative}},
                              "exact integral of a straight line squared",
                              calling<&fulmox::square_integral>};
const Formula square_quadrature{
    "demand.square_quadrature",
    "Squared torque over a span",
    "∫T²dt",
    "{t}·Σ w_k·T_k² with T_k = {T}",
    Kind::torque_squared_time,
    {{"t", "t", Kind::time, "length of the span", range::not_negative},
     {"T", "T_k", Kind::torque, "torque at the Gauss points of the span, three or seven"}},
    "Gauss–Legendre quadrature: three points are exact to the fifth degree, seven to the 13th",
    &fulmox::square_quadrature,
    true};
const Formula mean_speed{
    "demand.mean_speed",
    "Mean motor speed",
    "n_m",
    "{q}/{t}",
    Kind::angular_speed,
    {{"q", "∫|n|dt", Kind::angle, "turns without sign", range::not_negative}, cycle_time},
    "mean over the cycle",
    calling<&per_time>};
const Formula rms_speed{
    "demand.rms_speed",
    "Rms motor speed",
    "n_rms",
    "√({q}/{t})",
    Kind::angular_speed,
    {{"q", "∫n²dt", Kind::number, "squared speed over the cycle, rad²/s", range::not_negative}, cycle_time},
    "rms over the cycle",
    calling<&rms_from>};
const Formula inertia_ratio{
    "demand.ratio",
    "Inertia ratio",
    "J_L/J_m",
    "{J_L}/{J_m}",
    Kind::number,
    {{"J_L", "J_L", Kind::inertia, "everything but the rotor, at the motor", range::not_negative},
     {"J_m", "J_m", Kind::inertia, "rotor with brake", range::positive}},
    "definition",
    calling<&quotient>};
const Formula energy_sum{"demand.energy",
                         "Energy over the cycle",
                         "E",
                         "{E}",
                         Kind::energy,
                         {{"E", "∫T·ω dt", Kind::energy, "mechanical work at the shaft"}},
                         "work of the shaft torque",
                         calling<&same>};
const Formula mean_power{
    "supply.mean_power",
    "Mean power drawn",
    "P_m",
    "{E}/{t}",
    Kind::power,
    {{"E", "E_in", Kind::energy, "energy drawn from the bus", range::not_negative}, cycle_time},
    "power balance; what is returned counts as lost, as in a brake resistor",
    calling<&per_time>};
const Formula peak_power{"supply.peak_power",
                         "Peak bus power",
                         "P_pk",
                         "{P_m} + {P_cu} + {P_fe} + {P_d}",
                         Kind::power,
                         {{"P_m", "T·ω", Kind::power, "mechanical power"},
                          {"P_cu", "P_cu", Kind::power, "copper loss, warm winding"},
                          {"P_fe", "P_Fe", Kind::power, "friction and iron loss"},
                          {"P_d", "P_d", Kind::power, "drive loss"}},
                         "power balance",
                         calling<+[](double a, double b, double c, double d) { return a + b + c + d; }>};
const Formula returned_energy{
    "supply.returned", "Energy returned to the bus",
    "E_ret",           "{E}",
    Kind::energy,      {{"E", "∫P<0 dt", Kind::energy, "bus power while negative", range::not_negative}},
    "power balance",   calling<&same>};
} // namespace book

std::span<const Formula* const> demand_formulas() {
  static const std::array list{&book::peak_value,      &book::peak_speed,        &book::rms_torque,
                               &book::square_integral, &book::square_quadrature, &book::mean_speed,
                               &book::rms_speed,       &book::inertia_ratio,     &book::energy_sum,
                               &book::rms_current,     &book::mean_power,        &book::peak_power,
                               &book::returned_energy};
  return list;
}

namespace {

std::size_t samples_of(const AxisModel& model, const Piece& piece) {
  constexpr std::size_t enough = 800; // what a plot can use
  const std::size_t share = std::clamp<std::size_t>(enough / model.cycle.pieces.size(), 3, 25);
  const double smooth = model.mechanism->smooth_travel();
  if (std::isfinite(smooth) && !piece.rest()) {
    // a piece over many turns needs as many looks
    const double travel = std::abs(piece.position(piece.duration) - piece.position(0.0));
    return std::clamp<std::size_t>(static_cast<std::size_t>(4.0 * travel / smooth), share, 2000);
  }
  if (!span_is_straight(model, {piece.index, 0.0, piece.duration})) return share;
  return piece.rest() ? 2 : std::min<std::size_t>(share, 9);
}

} // namespace

Trace sample(const AxisModel& model) {
  Recorder silent(false);
  Trace trace;
  std::vector<std::size_t> counts;
  for (const Piece& piece : model.cycle.pieces) counts.push_back(samples_of(model, piece));
  trace.samples.reserve(std::accumulate(counts.begin(), counts.end(), std::size_t{0}));
  for (std::size_t p = 0; p < model.cycle.pieces.size(); ++p) {
    const Piece& piece = model.cycle.pieces[p];
    const std::size_t count = counts[p];
    for (std::size_t i = 0; i < count; ++i)
      trace.samples.push_back(
          model.at(p, piece.duration * static_cast<double>(i) / static_cast<double>(count - 1), silent));
  }
  return trace;
}

Moment worst(const AxisModel& model, const Trace& trace, const std::function<double(const Instant&)>& f) {
  Moment best;
  best.value = -std::numeric_limits<double>::infinity();
  for (std::size_t i = 0; i < trace.samples.size(); ++i) {
    const Instant& now = trace.samples[i];
    const double value = f(now);
    // symmetric cycles tie up to rounding: the first moment stands for all
    if (value <= best.value + 1e-12 * std::abs(best.value)) continue;
    best = {i, now.piece, now.time - model.cycle.pieces[now.piece].start, now.time, value};
  }
  const auto in_piece = [&](std::size_t i) {
    return i < trace.samples.size() && trace.samples[i].piece == best.piece;
  };
  if (best.index == 0 || !in_piece(best.index - 1) || !in_piece(best.index + 1)) return best;
  Recorder silent(false);
  const double step = trace.samples[best.index].time - trace.samples[best.index - 1].time;
  const auto lower = [&](double at) { return -f(model.at(best.piece, at, silent)); };
  constexpr int bits = 26;
  const auto found = boost::math::tools::brent_find_minima(lower, best.tau - step, best.tau + step, bits);
  const double tau = found.first;
  const double value = -found.second;
  if (value > best.value) {
    best.tau = tau;
    best.time = model.cycle.pieces[best.piece].start + tau;
    best.value = value;
  }
  return best;
}

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
  const std::vector<Span> spans = model.spans();
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
