#include "core/demand/demand.hpp"

#include "core/mechanism/rotation.hpp"
#include "core/quantity/format.hpp"
#include "core/support/intern.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace fulmox {

double rms_of(std::span<const double> time_then_integrals) {
  const auto integrals = time_then_integrals.subspan(1);
  return std::sqrt(std::accumulate(integrals.begin(), integrals.end(), 0.0) / time_then_integrals[0]);
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
  static const std::array list{&book::peak_value,      &book::peak_speed, &book::rms_torque,
                               &book::square_integral, &book::mean_speed, &book::rms_speed,
                               &book::inertia_ratio,   &book::energy_sum, &book::rms_current,
                               &book::mean_power,      &book::peak_power, &book::returned_energy};
  return list;
}

Trace sample(const AxisModel& model) {
  Recorder silent(false);
  Trace trace;
  trace.samples.reserve(model.cycle.pieces.size() * Trace::per_piece);
  for (std::size_t p = 0; p < model.cycle.pieces.size(); ++p)
    for (std::size_t i = 0; i < Trace::per_piece; ++i)
      trace.samples.push_back(model.at(
          p, model.cycle.pieces[p].duration * static_cast<double>(i) / (Trace::per_piece - 1), silent));
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
  const std::size_t place = best.index % Trace::per_piece;
  if (place == 0 || place == Trace::per_piece - 1) return best;
  // golden-section search between the neighbouring samples
  Recorder silent(false);
  const double step = model.cycle.pieces[best.piece].duration / (Trace::per_piece - 1);
  double low = best.tau - step;
  double high = best.tau + step;
  constexpr double golden = 0.6180339887498949;
  for (int i = 0; i < 30; ++i) {
    const double a = high - golden * (high - low);
    const double b = low + golden * (high - low);
    if (f(model.at(best.piece, a, silent)) > f(model.at(best.piece, b, silent)))
      high = b;
    else
      low = a;
  }
  const double tau = 0.5 * (low + high);
  const double value = f(model.at(best.piece, tau, silent));
  if (value > best.value) {
    best.tau = tau;
    best.time = model.cycle.pieces[best.piece].start + tau;
    best.value = value;
  }
  return best;
}

namespace {

Term record_rms(const AxisModel& model, const std::vector<Span>& spans, const CycleIntegrals& integrals,
                Recorder& recorder) {
  if (!recorder.on()) return {std::sqrt(integrals.torque_squared / model.cycle.duration), ""};
  std::vector<Term> terms{{model.cycle.duration, ""}};
  for (std::size_t i = 0; i < spans.size(); ++i) {
    const Span& span = spans[i];
    if (model.cycle.pieces[span.piece].braked) continue;
    const std::string prefix = "rms." + std::to_string(i + 1) + ".";
    const auto torque = [&](double tau, const char* end) {
      const Recorder::Scope scope(recorder, prefix + end);
      return model.at(span.piece, tau, recorder).torque;
    };
    const Term start = torque(span.from, "start.");
    const Term end = torque(span.to, "end.");
    const Recorder::Scope scope(recorder, prefix);
    terms.push_back(recorder.apply(book::square_integral, "square", {start, end, {span.to - span.from, ""}}));
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

void record_inertia(const AxisModel& model, Demand& demand, Recorder& recorder) {
  std::vector<InertiaPiece> pieces = model.mechanism->inertia(recorder);
  pieces.push_back({"coupling", "Coupling", model.coupling_inertia, model.coupling_inertia});
  std::vector<Term> load;
  for (const InertiaPiece& piece : pieces) {
    const Term here =
        recorder.apply(book::reflected_inertia, intern("inertia.at_motor." + std::string(piece.id)),
                       {piece.at_input, model.gear.ratio});
    demand.inertia.push_back({piece.id, piece.label, piece.at_own_shaft, here});
    load.push_back(here);
  }
  if (model.gear.fitted)
    demand.inertia.push_back({"gearhead", "Gearhead", model.gear.inertia, model.gear.inertia});
  load.push_back(model.gear.inertia);
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
  {
    const Recorder::Scope scope(recorder, "hold.");
    const Term at_output = model.mechanism->holding_torque(recorder);
    demand.hold_torque = recorder.apply(book::stage_rest, "torque", {at_output, model.gear.ratio});
  }
  {
    const Recorder::Scope scope(recorder, "breakaway.");
    const Term at_output = model.mechanism->breakaway_torque(recorder);
    const Term driving = recorder.apply(book::stage_driving, "gear_torque",
                                        {at_output, model.gear.ratio, model.gear.efficiency});
    demand.breakaway_torque = recorder.apply(book::torque_sum, "torque", {driving, model.gear.no_load});
  }
  record_inertia(model, demand, recorder);
  demand.driven = recorder.apply(book::energy_sum, "energy.driven", {{demand.integrals.driven, ""}});
  demand.returned = recorder.apply(book::energy_sum, "energy.returned", {{demand.integrals.returned, ""}});
  record_electrical(model, trace, demand, recorder);
  return demand;
}

} // namespace fulmox
