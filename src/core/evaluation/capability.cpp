#include "core/evaluation/capability.hpp"

#include "core/motor/envelope.hpp"

#include <boost/math/tools/toms748_solve.hpp>

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// Places and payloads of which the hardest counts.
std::vector<LoadState> states(const AxisModel& model) {
  const LoadSide& side = *model.load;
  std::vector<LoadState> all;
  for (const Term& payload : {Term{0.0, ""}, side.reach.payload}) {
    std::vector<double> places = side.mechanism->places(side.reach, payload);
    if (side.mechanism->position_matters()) {
      constexpr int between = 24; // the ratio may change all along
      for (int k = 0; k <= between; ++k)
        places.push_back(side.reach.lowest + (side.reach.highest - side.reach.lowest) * k / between);
    }
    for (const double place : places) {
      LoadState state;
      state.position = place;
      state.payload = payload;
      all.push_back(state);
    }
    if (side.reach.payload == 0.0) break;
  }
  return all;
}

double left_at_load(double available, double own, double lever) { return (available - own) / lever; }

/// Torque at the motor's shaft along its rotation, and its speed, while the load moves steadily.
struct Steady {
  double torque = 0.0, speed = 0.0;
};
LoadState moving(LoadState state, double speed, double direction, double force) {
  state.speed = {direction * speed, ""};
  state.acceleration = {0.0, ""};
  state.direction = direction;
  state.process = {direction * force, ""}; // against the motion
  return state;
}
Steady steady(const AxisModel& model, const LoadState& state, double speed, double direction, double force) {
  Recorder silent(false);
  const LoadState now = moving(state, speed, direction, force);
  const ShaftState input = model.gear.input(model.load->moved(now, silent).output, silent);
  // the motor may turn the other way round than the load
  const double sense = input.direction != 0.0 ? input.direction : direction;
  return {input.torque * sense, std::abs(input.speed)};
}

/// The force at which the motor's torque is used up.
double force_for(const AxisModel& model, const LoadState& state, double speed, double direction,
                 double available) {
  const auto left = [&](double force) {
    return available - steady(model, state, speed, direction, force).torque;
  };
  if (!(left(0.0) > 0.0)) return 0.0;
  double high = 1.0;
  constexpr double endless = 1e12;
  while (left(high) > 0.0 && high < endless) high *= 4.0;
  if (high >= endless) return std::numeric_limits<double>::infinity();
  std::uintmax_t tries = 60;
  return boost::math::tools::toms748_solve(left, 0.0, high, boost::math::tools::eps_tolerance<double>(40),
                                           tries)
      .first; // rather too little
}

class Shaft {
public:
  explicit Shaft(const Evaluation& e) : e_(e), motor_(*e.model->motor) {
    const Surroundings& s = e.model->surroundings;
    nominal_ = e.model->supply_at(s.bus);
    low_ = e.model->supply_at(std::isnan(s.bus_low) ? s.bus : s.bus_low);
    derating_ = altitude_derating(s.altitude);
    if (!std::isnan(motor_.winding_limit)) {
      const auto terms = ambient_terms(*e.model, e.demand.mean_speed);
      derating_ *= ambient_derating(terms[0], terms[1], terms[2], terms[3]);
    }
  }
  [[nodiscard]] double peak(double speed) const {
    return e_.torque_use * motor_.peak_torque(speed, nominal_, false);
  }
  [[nodiscard]] double peak_low(double speed) const {
    return e_.torque_use * motor_.peak_torque(speed, low_, false);
  }
  [[nodiscard]] double lasting(double speed) const {
    const double most = peak(speed);
    if (motor_.keeps_current()) return most;
    return motor_.has_continuous() ? std::min(most, derating_ * motor_.continuous_torque(speed)) : 0.0;
  }
  [[nodiscard]] double fastest() const {
    const double known = motor_.fastest_known();
    return std::isnan(motor_.max_speed) ? known
           : known > 0.0                ? std::min(known, motor_.max_speed.value)
                                        : motor_.max_speed.value;
  }

private:
  const Evaluation& e_;
  const Motor& motor_;
  MotorSupply nominal_, low_;
  double derating_ = 1.0;
};

} // namespace

namespace book {
namespace {
const Parameter available{"T", "T", Kind::torque,
                          "greatest torque of the motor at that speed, with its factor"};
const Parameter own_need{"T_0", "T_0", Kind::torque, "what the axis needs itself, moving steadily"};
constexpr std::string_view source = "balance of torques; losses counted in the direction of the power";
} // namespace
const Formula press_force{
    "capability.force",
    "Force left at the load",
    "F",
    "({T} − {T_0})/{r}",
    Kind::force,
    {available,
     own_need,
     {"r", "r", Kind::length, "torque at the motor per force at the load", range::positive}},
    source,
    calling<&left_at_load>};
const Formula press_torque{
    "capability.torque",
    "Torque left at the load",
    "T_L",
    "({T} − {T_0})/{r}",
    Kind::torque,
    {available,
     own_need,
     {"r", "r", Kind::number, "torque at the motor per torque at the load", range::positive}},
    source,
    calling<&left_at_load>};
} // namespace book

namespace {
/// What is pressed at a speed, and where the peak is least. What is not asked for stays without end.
struct Found {
  Capability capability;
  LoadState hardest;
};
enum class Pressed { peak, all };
Found found_at(const Evaluation& e, double load_speed, Pressed asked) {
  const Shaft shaft(e);
  constexpr double endless = std::numeric_limits<double>::infinity();
  Found out{{load_speed, 0.0, endless, endless, endless}, {}};
  Capability& all = out.capability;
  for (const LoadState& state : states(*e.model))
    for (const double direction : {1.0, -1.0}) {
      const double n = steady(*e.model, state, load_speed, direction, 0.0).speed;
      // that less is left here than elsewhere is sooner asked than how much
      const auto lesser = [&](double elsewhere, double torque) {
        if (std::isfinite(elsewhere) &&
            torque > steady(*e.model, state, load_speed, direction, elsewhere).torque)
          return elsewhere;
        return std::min(elsewhere, force_for(*e.model, state, load_speed, direction, torque));
      };
      const double peak = lesser(all.peak, shaft.peak(n));
      all.motor_speed = std::max(all.motor_speed, n);
      if (asked == Pressed::all) {
        all.peak_low = lesser(all.peak_low, shaft.peak_low(n));
        all.lasting = lesser(all.lasting, shaft.lasting(n));
      }
      if (peak >= all.peak) continue;
      all.peak = peak;
      out.hardest = moving(state, load_speed, direction, peak);
    }
  return out;
}

/// The force as a step: what the torque leaves over the axis's own needs, by the torque that a force takes.
Term record_force(const Evaluation& e, const Found& found, std::string_view id, Recorder& recorder) {
  const AxisModel& model = *e.model;
  const double force = found.capability.peak, way = found.hardest.direction;
  const LoadState free = moving(found.hardest, std::abs(found.hardest.speed), way, 0.0);
  Term own;
  double sense = way;
  {
    const Recorder::Scope scope(recorder, std::string(id) + ".");
    const ShaftState input = model.gear.input(model.load->moved(free, recorder).output, recorder);
    if (input.direction != 0.0) sense = input.direction;
    own = {input.torque * sense, sense > 0.0 ? input.torque.ref : ""};
  }
  const Steady pressed = steady(model, found.hardest, std::abs(found.hardest.speed), way, force);
  const double lever = force > 0.0 ? (pressed.torque - own) / force : 1.0;
  const bool turns = capability_kinds(e).effort == Kind::torque;
  return recorder.apply(turns ? book::press_torque : book::press_force, id,
                        {{force > 0.0 ? pressed.torque : own.value, ""}, own, {lever, ""}});
}

bool tells_torque(const Motor& motor) { return motor.has_peak() || motor.keeps_current(); }
} // namespace

Capability capability_at(const Evaluation& e, double load_speed) {
  return found_at(e, load_speed, Pressed::all).capability;
}

void add_capability(Evaluation& e, Recorder& recorder) {
  if (!tells_torque(*e.model->motor) || !e.model->motor->chosen) return;
  const MotionKinds kinds = capability_kinds(e);
  const Moment& fastest = e.demand.top_speed_at;
  Recorder silent(false);
  const double top = std::abs(e.model->load->at(fastest.piece, fastest.tau, silent).load.speed);
  const bool turns = kinds.effort == Kind::torque;
  struct Told {
    std::string_view id, label, symbol, help;
    double speed;
  };
  for (const Told& told :
       {Told{"capability.rest", turns ? "Press torque, rest" : "Press force, rest", turns ? "T_0" : "F_0",
             "Greatest at the load from rest, on top of what the axis needs itself, for a short time; "
             "hardest place, direction and payload.",
             0.0},
        Told{"capability.top", turns ? "Press torque, fast" : "Press force, fast", turns ? "T_v" : "F_v",
             "The same at the greatest speed of the cycle, held steadily.", top}}) {
    const Found found = found_at(e, told.speed, Pressed::peak);
    if (!std::isfinite(found.capability.peak)) continue;
    const Term force = record_force(e, found, told.id, recorder);
    e.results.push_back({told.id, told.label, told.symbol, told.help, kinds.effort, force, force.ref});
  }
}

std::vector<Capability> capability_curve(const Evaluation& e) {
  std::vector<Capability> out;
  const Shaft shaft(e);
  if (!tells_torque(*e.model->motor)) return out;
  const double at_one = capability_at(e, 1.0).motor_speed;
  if (!(shaft.fastest() > 0.0) || !(at_one > 0.0)) return out;
  const double top = shaft.fastest() / at_one;
  constexpr int steps = 60;
  for (int i = 0; i <= steps; ++i) {
    out.push_back(capability_at(e, top * i / steps));
    if (out.back().peak == 0.0 && i > 0) break;
  }
  return out;
}

std::span<const Formula* const> capability_formulas() {
  static const std::array list{&book::press_force, &book::press_torque};
  return list;
}

MotionKinds capability_kinds(const Evaluation& e) { return e.model->load->cycle.kinds; }

} // namespace fulmox
