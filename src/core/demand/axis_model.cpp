#include "core/demand/axis_model.hpp"

#include "core/mechanism/rotation.hpp"
#include "core/motion/formulas.hpp"
#include "core/motor/constants.hpp"
#include "core/quantity/constants.hpp"

#include <boost/math/tools/minima.hpp>
#include <boost/math/tools/toms748_solve.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {
namespace {

Reach reach_of(const Cycle& cycle) {
  Reach reach{cycle.lowest, cycle.highest, {cycle.greatest_payload(), ""}, 0.0, 0.0};
  constexpr int steps = 8;
  for (const Piece& piece : cycle.pieces)
    for (int i = 0; i <= steps; ++i) {
      const double a = piece.path.acceleration(piece.duration * i / steps);
      reach.least_acceleration = std::min(reach.least_acceleration, a);
      reach.greatest_acceleration = std::max(reach.greatest_acceleration, a);
    }
  for (const SegmentFacts& fact : cycle.facts)
    if (fact.payload == reach.payload) reach.payload = fact.payload;
  return reach;
}

/// Functions of time whose sign changes mark a corner in some integrand.
constexpr std::size_t corner_count = stage_limit + 2 + 5;
std::array<double, corner_count> corners(const AxisModel& model, const Instant& now) {
  const double rated = model.motor.has_kt() ? model.motor.kt * model.motor.rated_current
                                            : std::numeric_limits<double>::quiet_NaN();
  const double air_gap = now.torque + model.motor.drag_torque(now.speed, now.input.direction);
  std::array<double, corner_count> all{now.torque.value, air_gap, now.bus_power, now.output.load_speed,
                                       std::isnan(rated) ? 1.0 : std::abs(air_gap) - rated};
  std::copy(now.crossings.begin(), now.crossings.end(), all.begin() + 5);
  return all;
}

/// Whether a curve through three values of one sign may reach zero between them: the parabola's bottom comes
/// near.
bool may_dip(const std::array<double, 3>& t, const std::array<double, 3>& f) {
  if (!(f[0] * f[1] > 0.0 && f[1] * f[2] > 0.0)) return false;
  const double first = (f[1] - f[0]) / (t[1] - t[0]);
  const double bend = ((f[2] - f[1]) / (t[2] - t[1]) - first) / (t[2] - t[0]);
  if (!(bend * f[1] > 0.0)) return false;
  // f = f0 + first·(t − t0) + bend·(t − t0)(t − t1)
  const double bottom = 0.5 * (t[0] + t[1] - first / bend);
  if (!(bottom > t[0] && bottom < t[2])) return false;
  const double value = f[0] + first * (bottom - t[0]) + bend * (bottom - t[0]) * (bottom - t[1]);
  constexpr double near = 0.3;
  return value * f[1] < near * f[1] * f[1];
}

} // namespace

Expected<AxisModel> AxisModel::build(const Axis& axis, Recorder& recorder) {
  const auto problems = faults(axis);
  if (!problems.empty()) return problems.front();
  if (const auto problem = misfit(axis.pieces)) return *problem;
  auto cycle = build_cycle(axis.cycle, motion_of(axis), recorder);
  if (!cycle) return cycle.problem();

  AxisModel model;
  model.cycle = std::move(*cycle);
  model.reach = reach_of(model.cycle);
  auto mechanism =
      mechanism_of(axis).build({axis[Given::load], axis[Given::mechanism], axis.pieces}, recorder);
  if (!mechanism) return mechanism.problem();
  model.mechanism = std::move(*mechanism);
  if (const auto refused = model.mechanism->refuses(model.reach)) return *refused;
  auto stages = build_stages(axis.stages, recorder);
  if (!stages) return stages.problem();
  model.stages = std::move(*stages);

  model.gear = Gearhead::from(axis[Given::gearhead]);
  model.motor = ServoMotor::from(axis[Given::motor], recorder);
  model.brake = Brake::from(axis[Given::brake], axis[Given::motor]);
  model.drive = Drive::from(axis[Given::drive]);
  model.surroundings = Surroundings::from(axis[Given::surroundings]);
  model.coupling_inertia = axis[Given::coupling].term_or("inertia", 0.0);
  model.rotor =
      recorder.apply(book::inertia_sum, "inertia.rotor", {model.motor.inertia, model.brake.inertia});
  model.warm_resistance = model.motor.resistance;
  const Term limit = axis[Given::motor].term("winding_limit");
  if (!std::isnan(limit) && !std::isnan(model.motor.resistance))
    model.warm_resistance =
        recorder.apply(book::warm_resistance, "motor.resistance_warm", {model.motor.resistance, limit});
  return model;
}

LoadState AxisModel::motion_at(const Piece& piece, double tau, Recorder& recorder) const {
  const MotionKinds& kinds = cycle.kinds;
  const SegmentFacts& facts = cycle.facts[piece.segment];
  LoadState load;
  load.position = piece.position(tau);
  load.direction = piece.direction;
  load.payload = facts.payload;
  load.process = cycle.effort(piece, tau, recorder);
  if (piece.rest()) return load;
  if (piece.ramp) {
    load.speed = recorder.apply(book::speed_at.in(kinds), "speed", {piece.v0, piece.a, {tau, ""}});
    load.acceleration = piece.a;
    return load;
  }
  if (!recorder.on() || facts.distance == 0.0) {
    load.speed = {piece.speed(tau), ""};
    load.acceleration = {piece.path.acceleration(tau), ""};
    return load;
  }
  const double scale = facts.time / facts.distance;
  load.speed = recorder.apply(book::law_speed.in(kinds), "speed",
                              {facts.distance, facts.time, {piece.speed(tau) * scale, ""}});
  load.acceleration =
      recorder.apply(book::law_acceleration.in(kinds), "acceleration",
                     {facts.distance, facts.time, {piece.path.acceleration(tau) * scale * facts.time, ""}});
  return load;
}

double AxisModel::total_ratio() const {
  double ratio = gear.ratio;
  for (const Stage& stage : stages) ratio *= stage.ratio;
  return ratio;
}

Instant AxisModel::at(std::size_t index, double tau, Recorder& recorder) const {
  const Piece& piece = cycle.pieces[index];
  Instant now;
  now.time = piece.start + tau;
  now.piece = index;
  now.load = motion_at(piece, tau, recorder);
  now.jerk = piece.path.jerk(tau);
  // the last instant of a ramp down is rest up to rounding; its side of zero belongs to the move
  if (now.load.speed * piece.direction < 0.0) now.load.speed.value = 0.0;

  now.output = mechanism->at(now.load, recorder);
  now.crossings[0] = now.output.crossing_power;
  for (std::size_t k = stages.size(); k-- > 0;) {
    const Recorder::Scope scope(recorder, "stage" + std::to_string(k + 1) + ".");
    now.output = stages[k].input(now.output, TorquePart::transmission, recorder);
    now.crossings[k + 1] = now.output.crossing_power;
  }
  const Term coupling =
      recorder.apply(book::inertia_torque, "coupling_torque", {coupling_inertia, now.output.acceleration});
  now.output.torque = recorder.apply(book::torque_sum, "output_torque", {now.output.torque, coupling});
  now.output.parts[TorquePart::transmission] += coupling;

  now.input = gear.input(now.output, recorder);
  now.crossings.back() = now.input.crossing_power;
  const Term own = recorder.apply(book::inertia_torque, "rotor_torque", {rotor, now.input.acceleration});
  now.torque = recorder.apply(book::torque_sum, "motor_torque", {now.input.torque, own});
  now.parts = now.input.parts;
  now.parts[TorquePart::rotor] = own;
  now.speed = now.input.speed;
  now.acceleration = now.input.acceleration;
  if (piece.braked) {
    now.torque.value = 0.0;
    now.parts = {};
  }
  electrical(now);
  return now;
}

void AxisModel::electrical(Instant& now) const {
  now.shaft_power = now.torque * now.speed;
  if (!motor.has_kt()) {
    now.bus_power = now.shaft_power;
    return;
  }
  now.current = motor.current(now.torque, now.speed, now.input.direction);
  const double sense = now.braking() ? -1.0 : 1.0;
  if (motor.has_circuit())
    now.voltage = phase_voltage(motor.k, motor.resistance / 2.0, motor.inductance / 2.0, motor.pole_pairs,
                                std::abs(now.speed), sense * std::numbers::sqrt2 * now.current);
  const double copper = std::isnan(warm_resistance) ? 0.0 : copper_loss(now.current, warm_resistance);
  const double iron = motor.drag(now.speed) * std::abs(now.speed);
  now.bus_power = terminal_power(now.shaft_power, copper, iron) +
                  drive_loss(drive.standby, drive.device_drop, now.current);
}

std::vector<double> AxisModel::looks_into(const Piece& piece) const {
  // a record's pieces are short: a look at both ends and the middle is enough
  const bool short_piece = cycle.pieces.size() > 200;
  int count = short_piece ? 2 : piece.path.degree() <= 3 ? 5 : 10;
  const double smooth = mechanism->smooth_travel();
  if (std::isfinite(smooth)) {
    const double travel = std::abs(piece.position(piece.duration) - piece.position(0.0));
    // half the steps may fall on a fast stretch: twice as many keep each within the smooth travel
    count = std::max(count, 2 * static_cast<int>(std::ceil(travel / smooth)));
  }
  std::vector<double> all;
  for (int i = 0; i <= count; ++i) {
    const double even = static_cast<double>(i) / count;
    // curved laws change fastest at their ends: look there more closely
    all.push_back(piece.duration * (piece.ramp || short_piece || std::isfinite(smooth)
                                        ? even
                                        : 0.5 * (1.0 - std::cos(constants::pi * even))));
  }
  return all;
}

void AxisModel::cut_at_corners(std::size_t p, std::vector<double>& cuts) const {
  Recorder silent(false);
  const std::vector<double> looks = looks_into(cycle.pieces[p]);
  const auto at_look = [&](double tau) { return corners(*this, at(p, tau, silent)); };
  std::vector<std::array<double, corner_count>> seen;
  seen.reserve(looks.size());
  for (const double tau : looks) seen.push_back(at_look(tau));
  for (std::size_t k = 0; k < corner_count; ++k) {
    const auto value = [&](double tau) { return at_look(tau)[k]; };
    const auto cut_between = [&](double from, double to, double at_from, double at_to) {
      std::uintmax_t tries = 60;
      const auto root = boost::math::tools::toms748_solve(
          value, from, to, at_from, at_to, boost::math::tools::eps_tolerance<double>(48), tries);
      cuts.push_back(0.5 * (root.first + root.second));
    };
    for (std::size_t i = 1; i < looks.size(); ++i) {
      if (seen[i - 1][k] * seen[i][k] < 0.0) {
        cut_between(looks[i - 1], looks[i], seen[i - 1][k], seen[i][k]);
        continue;
      }
      if (i + 1 == looks.size()) continue;
      // it may touch zero and come back between two looks
      const double before = seen[i - 1][k], here = seen[i][k], after = seen[i + 1][k];
      if (!may_dip({looks[i - 1], looks[i], looks[i + 1]}, {before, here, after})) continue;
      const double sign = here > 0.0 ? 1.0 : -1.0;
      constexpr int bits = 20;
      const auto low = boost::math::tools::brent_find_minima([&](double tau) { return sign * value(tau); },
                                                             looks[i - 1], looks[i + 1], bits);
      if (low.second >= 0.0) continue;
      cut_between(looks[i - 1], low.first, before, sign * low.second);
      cut_between(low.first, looks[i + 1], sign * low.second, after);
    }
  }
}

std::vector<Span> AxisModel::spans() const {
  std::vector<Span> all;
  const bool everywhere = std::isfinite(mechanism->smooth_travel());
  for (std::size_t p = 0; p < cycle.pieces.size(); ++p) {
    const Piece& piece = cycle.pieces[p];
    std::vector<double> cuts{0.0, piece.duration};
    cuts.insert(cuts.end(), piece.cuts.begin(), piece.cuts.end());
    if (!piece.rest()) {
      if (everywhere)
        for (const double tau : looks_into(piece)) cuts.push_back(tau);
      else if (mechanism->position_matters())
        cuts.push_back(0.5 * piece.duration); // the square of a high law's travel is too much for one rule
      cut_at_corners(p, cuts);
    }
    std::sort(cuts.begin(), cuts.end());
    for (std::size_t i = 1; i < cuts.size(); ++i)
      if (cuts[i] - cuts[i - 1] > 1e-12 * piece.duration) all.push_back({p, cuts[i - 1], cuts[i]});
  }
  return all;
}

MotorSupply AxisModel::supply_at(double bus) const {
  MotorSupply supply;
  supply.voltage = std::isnan(bus) ? 0.0 : voltage_limit(bus, drive.voltage_use);
  supply.drive_current =
      std::isnan(drive.peak_current) ? std::numeric_limits<double>::infinity() : drive.peak_current.value;
  supply.weakening = drive.weakening;
  return supply;
}

std::array<Term, 4> ambient_terms(const Section& motor, const AxisModel& model, double speed) {
  constexpr double usual_catalogue_ambient = constants::zero_celsius + 40.0; // common practice
  const double iron = model.motor.drag(speed) * std::abs(speed);
  const Term rise = motor.blank("r_case_ambient")
                        ? Term{0.0, ""}
                        : Term{iron * motor.term("r_case_ambient"), "motor.r_case_ambient"};
  return {motor.term("winding_limit"), model.surroundings.ambient,
          motor.term_or("catalogue_ambient", usual_catalogue_ambient), rise};
}

} // namespace fulmox
