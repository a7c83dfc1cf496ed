#include "core/evaluation/evaluation.hpp"

#include "core/evaluation/accuracy_results.hpp"
#include "core/evaluation/capability.hpp"
#include "core/evaluation/heat_results.hpp"
#include "core/evaluation/stop_results.hpp"
#include "core/evaluation/unknown_readings.hpp"

#include "core/demand/resting.hpp"
#include "core/demand/train.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/stepper.hpp"
#include "core/rotation/rotation.hpp"
#include "core/support/intern.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

struct ResultSpec {
  std::string_view id, label, symbol, help;
  Kind kind;
  Term (*value)(const Demand&, const AxisModel&);
};

using D = const Demand&;
using M = const AxisModel&;
constexpr Term none{std::numeric_limits<double>::quiet_NaN(), ""};
Term if_motor(M model, const Term& value) { return model.motor->chosen ? value : none; }
Term if_kt(M model, const Term& value) { return model.motor->electric() ? value : none; }

constexpr std::array specs{
    ResultSpec{"demand.peak_torque", "Peak torque", "T_pk",
               "Greatest torque at the motor shaft, rotor included.", Kind::torque,
               [](D d, M) { return d.peak_torque; }},
    ResultSpec{"demand.rms_torque", "Rms torque", "T_rms", "Heats the motor like the cycle does.",
               Kind::torque, [](D d, M) { return d.rms_torque; }},
    ResultSpec{"hold.torque", "Holding torque", "T_h",
               "At rest, friction giving no help: the worst place, payload and process force of the cycle.",
               Kind::torque, [](D d, M) { return d.holding.torque; }},
    ResultSpec{"breakaway.torque", "Breakaway torque", "T_0",
               "Starts the load from rest in the harder direction.", Kind::torque,
               [](D d, M) { return d.holding.breakaway; }},
    ResultSpec{"demand.max_speed", "Top speed", "n_max", "Greatest motor speed.", Kind::angular_speed,
               [](D d, M) { return d.max_speed; }},
    ResultSpec{"demand.mean_speed", "Mean speed", "n_m", "Mean motor speed without sign.",
               Kind::angular_speed, [](D d, M) { return d.mean_speed; }},
    ResultSpec{"inertia.load", "Load inertia", "J_L", "All but the rotor, seen by the motor.", Kind::inertia,
               [](D d, M) { return d.load_inertia; }},
    ResultSpec{"demand.ratio", "Inertia ratio", "J_L/J_m", "Load inertia over rotor with brake.",
               Kind::number, [](D d, M m) { return if_motor(m, d.inertia_ratio); }},
    ResultSpec{"energy.driven", "Energy driven", "E_d", "Work the shaft gives in a cycle.", Kind::energy,
               [](D d, M) { return d.driven; }},
    ResultSpec{"energy.returned", "Energy returned", "E_r", "Work the shaft takes back in a cycle.",
               Kind::energy, [](D d, M) { return d.returned; }},
    ResultSpec{"drive.rms_current", "Rms current", "I_rms", "Line current.", Kind::current,
               [](D d, M m) { return if_kt(m, d.rms_current); }},
    ResultSpec{"drive.peak_current", "Peak current", "I_pk", "Line current, as rms ampere.", Kind::current,
               [](D d, M m) { return if_kt(m, d.peak_current); }},
    ResultSpec{"supply.mean_power", "Mean bus power", "P_m",
               "Drawn from the bus; losses and standby counted, what is returned counts as lost.",
               Kind::power, [](D d, M m) { return if_kt(m, d.mean_power); }},
    ResultSpec{"supply.net_power", "Net bus power", "P_n",
               "The same if all that is returned were stored and drawn again: the least it can be.",
               Kind::power, [](D d, M m) { return if_kt(m, d.net_power); }},
    ResultSpec{"supply.peak_power", "Peak bus power", "P_pk", "From the bus.", Kind::power,
               [](D d, M m) { return if_kt(m, d.peak_power); }},
    ResultSpec{"supply.mean_current", "Mean bus current", "I_m", "Drawn from the bus at its nominal voltage.",
               Kind::current, [](D d, M m) { return if_kt(m, d.mean_bus_current); }},
    ResultSpec{"supply.peak_current", "Peak bus current", "I_bus",
               "Greatest power at the lowest bus voltage: what it sags to.", Kind::current,
               [](D d, M m) { return if_kt(m, d.peak_bus_current); }},
    ResultSpec{"supply.returned", "Returned to bus", "E_ret", "Per cycle.", Kind::energy,
               [](D d, M m) { return if_kt(m, d.bus_returned); }},
};

ResultGroup group_of(std::string_view id) {
  return id.starts_with("drive.") || id.starts_with("supply.") ? ResultGroup::electrical
                                                               : ResultGroup::demand;
}

/// How far the load may lag behind the motor, when figures for it are typed.
void add_train_results(const Axis& axis, const AxisModel& model, Recorder& recorder,
                       std::vector<ResultValue>& results) {
  const TrainCompliance give = record_compliance(model, axis, recorder);
  const Kind distance = model.load->mechanism->travel();
  const bool turning = distance == Kind::angle;
  if (!std::isnan(give.backlash))
    results.push_back({turning ? "train.backlash" : "load.backlash", "Load backlash", "x_b",
                       "At the load, of gearhead and stages, all one way; what has no figure counts as none.",
                       distance, give.backlash, give.backlash.ref, ResultGroup::train});
  if (!std::isnan(give.wind_up))
    results.push_back(
        {turning ? "train.wind_up" : "load.wind_up", "Load wind-up", "x_w",
         "At the load, twist of gearhead, coupling and stages under the greatest torque into the "
         "mechanism; what has no figure counts as rigid.",
         distance, give.wind_up, give.wind_up.ref, ResultGroup::train});
}

/// What closing or opening the brake in the dwells would make of the heating.
void add_hold_result(const AxisModel& model, const Demand& demand, Recorder& recorder,
                     std::vector<ResultValue>& results) {
  const auto other = other_hold(model, demand, recorder);
  if (!other) return;
  if (other->by_brake)
    results.push_back({"hold.rms_braked", "Rms, brake holds", "T_rms,b",
                       "Rms torque if the brake were closed in every dwell; the brake then carries the "
                       "holding torque.",
                       Kind::torque, other->rms, other->rms.ref, ResultGroup::heat});
  else
    results.push_back({"hold.rms_unbraked", "Rms, brake open", "T_rms,o",
                       "Rms torque if the motor held the load in every dwell.", Kind::torque, other->rms,
                       other->rms.ref});
}

/// What the brake carries in each dwell in which it is closed.
void add_braked_dwells(const Holding& holding, std::vector<ResultValue>& results) {
  for (const BrakedDwell& dwell : holding.dwells) {
    const std::string number = std::to_string(dwell.segment + 1);
    results.push_back(
        {dwell.torque.ref, intern("Brake, segment " + number), "T_h",
         "What the closed brake holds in this dwell, worst with and without payload and process "
         "force.",
         Kind::torque, dwell.torque, dwell.torque.ref, ResultGroup::train});
  }
}

void add_motor_results(const AxisModel& model, const Demand& demand, Recorder& recorder,
                       std::vector<ResultValue>& results) {
  for (const MotorResult& own : model.motor->results(model.surroundings.ambient, demand.mean_speed, recorder))
    results.push_back({own.id, own.label, own.symbol, own.help, own.kind, own.value, own.value.ref,
                       own.id.starts_with("supply.") || own.id.starts_with("stepper.school")
                           ? ResultGroup::electrical
                           : ResultGroup::heat});
}

/// How an open-loop stepper with its load swings, and what it may start at.
void add_swing_results(const AxisModel& model, const Demand& demand, Recorder& recorder,
                       std::vector<ResultValue>& results) {
  const auto* motor = dynamic_cast<const StepperMotor*>(model.motor.get());
  if (motor == nullptr || !motor->keeps_current() || !motor->electric() || !motor->chosen) return;
  Term hold, inertia;
  {
    const Recorder::Scope scope(recorder, "swing.");
    hold = recorder.apply(book::holding_torque, "holding", {motor->k_torque, motor->crest});
    inertia = recorder.apply(book::inertia_sum, "inertia", {demand.load_inertia, model.rotor});
  }
  const Term rate = recorder.apply(book::step_resonance, "stepper.f_res", {motor->teeth, hold, inertia});
  results.push_back({"stepper.f_res", "Resonance", "f_res",
                     "Full steps a second at which rotor and load swing along.", Kind::frequency, rate,
                     rate.ref, ResultGroup::train});
  const Term back{std::abs(demand.holding.breakaway),
                  demand.holding.breakaway < 0.0 ? "" : demand.holding.breakaway.ref};
  const Term start =
      recorder.apply(book::pull_in_speed, "stepper.pull_in", {motor->teeth, hold, inertia, back});
  results.push_back({"stepper.pull_in", "Starts at, at most", "n_in",
                     "Greatest speed at which pulses may begin at once with this load and friction, finely "
                     "microstepped and without damping.",
                     Kind::angular_speed, start, start.ref, ResultGroup::train});
}

} // namespace

std::string_view title_of(ResultGroup group) {
  constexpr std::array<std::string_view, 4> titles{"Demand", "Electrical", "Heat", "Train and brake"};
  return titles[static_cast<std::size_t>(group)];
}

const ResultValue* Evaluation::find(std::string_view id) const {
  const auto found =
      std::find_if(results.begin(), results.end(), [&](const ResultValue& r) { return r.id == id; });
  return found == results.end() ? nullptr : &*found;
}

const Step* Evaluation::step(std::string_view id) const {
  const auto found = std::find_if(steps.begin(), steps.end(), [&](const Step& s) { return s.id == id; });
  return found == steps.end() ? nullptr : &*found;
}

const Step* Evaluation::step_behind(std::string_view name) const {
  if (const ResultValue* result = find(name)) return step(result->step);
  constexpr std::string_view head = "limit.";
  for (const Limit& limit : limits)
    if (name.starts_with(head) && name.substr(head.size()) == limit.id) return step(limit.step);
  return step(name);
}

Instant Evaluation::at(double time) const {
  Recorder silent(false);
  const auto& pieces = model->load->cycle.pieces;
  const double inside = std::clamp(time, 0.0, model->load->cycle.duration);
  std::size_t index = 0;
  while (index + 1 < pieces.size() && pieces[index + 1].start <= inside) ++index;
  return model->at(index, std::min(inside - pieces[index].start, pieces[index].duration), silent);
}

Expected<Evaluation> evaluate(const Axis& axis, const Section& house_rules, UnitSet units) {
  if (const auto wrong = faults(house_rules); !wrong.empty()) return wrong.front();
  Recorder recorder(true);
  auto built = AxisModel::build(axis, recorder);
  if (!built) return built.problem();
  Evaluation out;
  out.model = std::make_shared<const AxisModel>(std::move(*built));
  out.course = follow(*out.model);
  const Rules rules(house_rules);
  out.demand = work_out_demand(*out.model, out.course, rules, recorder);
  for (const ResultSpec& spec : specs) {
    const Term value = spec.value(out.demand, *out.model);
    if (!std::isnan(value))
      out.results.push_back(
          {spec.id, spec.label, spec.symbol, spec.help, spec.kind, value, value.ref, group_of(spec.id)});
  }
  add_hold_result(*out.model, out.demand, recorder, out.results);
  add_braked_dwells(out.demand.holding, out.results);
  add_train_results(axis, *out.model, recorder, out.results);
  add_motor_results(*out.model, out.demand, recorder, out.results);
  add_swing_results(*out.model, out.demand, recorder, out.results);
  add_heat_results(*out.model, out.demand, recorder, out.results);
  add_stop_results(*out.model, out.demand, recorder, out.results);
  add_accuracy_results(axis, *out.model, out.demand, recorder, out.results);
  const LimitContext context{axis, *out.model, out.course, out.demand, rules, recorder, units};
  out.limits = judge_limits(context);
  judge_readings(context, out.limits);
  out.warnings = second_look(context);
  if (const auto rule = out.model->motor->reserve_rule(); !rule.empty())
    out.torque_use = 1.0 / rules.term(rule);
  add_capability(out, recorder);
  out.resonance = resonance_of(*out.model, out.demand);
  out.steps = recorder.take();
  return out;
}

} // namespace fulmox
