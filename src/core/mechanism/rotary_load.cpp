#include "core/mechanism/rotary_load.hpp"

#include "core/quantity/constants.hpp"
#include "core/rotation/rotation.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

double point(double mass, double radius) { return mass * radius * radius; }
double unbalance(double mx, double my, double g, double position) {
  return g * (mx * std::cos(position) - my * std::sin(position));
}
double dry(double direction, double torque) { return direction * torque; }
double wet(double coefficient, double speed) { return coefficient * speed; }
double start(double held, double friction) { return std::abs(held) + friction; }

} // namespace

namespace book {
const Formula point_inertia{"inertia.point",
                            "Mass at a radius",
                            "J",
                            "{m}·{r}²",
                            Kind::inertia,
                            {{"m", "m", Kind::mass, "mass", range::not_negative},
                             {"r", "r", Kind::length, "its distance from the axis", range::not_negative}},
                            "parallel-axis theorem",
                            calling<&point>};
const Formula arm_gravity{"torque.unbalance",
                          "Weight of what is out of balance",
                          "T_g",
                          "{g}·({mx}·cos {phi} − {my}·sin {phi})",
                          Kind::torque,
                          {{"mx", "Σm·x", Kind::number, "first moment of mass along level at zero, kg·m"},
                           {"my", "Σm·y", Kind::number, "first moment of mass upwards at zero, kg·m"},
                           {"g", "g", Kind::acceleration, "standard gravity, ISO 80000-3"},
                           {"phi", "φ", Kind::angle, "position"}},
                          "weight times its horizontal lever",
                          calling<&unbalance>};
const Formula turning_friction{"torque.friction",
                               "Bearing friction",
                               "T_f",
                               "{s}·{T}",
                               Kind::torque,
                               {{"s", "s", Kind::number, "direction of motion", {-1.0, 1.0}},
                                {"T", "T_fric", Kind::torque, "friction torque", range::not_negative}},
                               "Coulomb friction",
                               calling<&dry>};
const Formula turning_viscous{"torque.viscous",
                              "Viscous torque",
                              "T_v",
                              "{b}·{omega}",
                              Kind::torque,
                              {{"b", "b", Kind::iron_viscous, "torque per speed", range::not_negative},
                               {"omega", "ω", Kind::angular_speed, "speed"}},
                              "linear damping",
                              calling<&wet>};
const Formula turning_breakaway{"torque.breakaway",
                                "Torque that starts the load",
                                "T_0",
                                "|{T}| + {T_s}",
                                Kind::torque,
                                {{"T", "T", Kind::torque, "torque held at rest"},
                                 {"T_s", "T_s", Kind::torque, "static friction", range::not_negative}},
                                "Coulomb friction",
                                calling<&start>};
} // namespace book

std::span<const Formula* const> rotary_formulas() {
  static const std::array list{&book::point_inertia, &book::arm_gravity, &book::turning_friction,
                               &book::turning_viscous, &book::turning_breakaway};
  return list;
}

const SectionSpec& rotary_load_section() {
  static const SectionSpec spec{
      "load",
      "Load",
      {optional("inertia", "Inertia", "J", Kind::inertia, range::not_negative,
                "About the axis of rotation, besides the pieces below."),
       needed("friction_torque", "Friction torque", "T_fric", Kind::torque, range::not_negative, "0.05 N.m",
              "Bearings and seals at the load: always opposes motion."),
       optional("static_torque", "Static friction", "T_s", Kind::torque, range::not_negative,
                "For breaking away from rest. Blank: the same as moving."),
       optional("viscous_torque", "Viscous friction", "b", Kind::iron_viscous, range::not_negative,
                "Torque that grows with speed."),
       optional("process_torque", "Process torque", "T_p", Kind::torque, range::any,
                "External; positive opposes forward motion."),
       optional("payload_radius", "Radius of payloads", "r_p", Kind::length, range::positive,
                "Where the payload of a segment sits. Needed when a segment carries one.")}};
  return spec;
}

Expected<RotaryLoad> RotaryLoad::from(const MechanismInput& input, Recorder& recorder) {
  const Section& load = input.load;
  RotaryLoad out;
  const LoadBody body = put_together(input.pieces, recorder);
  const Term typed = load.term_or("inertia", 0.0);
  if (typed > 0.0) out.parts.push_back({"load", "Load", typed, typed});
  if (!input.pieces.empty()) out.parts.push_back({"pieces", "Pieces", body.inertia, body.inertia});
  out.inertia = body.inertia == 0.0 ? typed
                : typed == 0.0
                    ? body.inertia
                    : recorder.apply(book::inertia_sum, "load.inertia_total", {typed, body.inertia});
  out.friction = load.term("friction_torque");
  out.static_friction = load.blank("static_torque") ? out.friction : load.term("static_torque");
  out.viscous = load.term_or("viscous_torque", 0.0);
  out.process = load.term_or("process_torque", 0.0);
  out.payload_radius = load.term("payload_radius");
  out.moment_x = body.moment_x;
  out.moment_y = body.moment_y;
  out.pieces.assign(input.pieces.begin(), input.pieces.end());
  return out;
}

Turning::Turning(Parts parts, Recorder& recorder) : parts_(std::move(parts)) {
  if (parts_.arm_mass > 0.0) {
    const Term arm = recorder.apply(book::point_inertia, "arm.inertia", {parts_.arm_mass, parts_.arm_centre});
    parts_.load.parts.push_back({"arm", "Arm's centre", arm, arm});
    parts_.load.inertia = recorder.apply(book::inertia_sum, "arm.total", {parts_.load.inertia, arm});
    parts_.load.moment_x += parts_.arm_mass * parts_.arm_centre * std::cos(parts_.arm_angle);
    parts_.load.moment_y += parts_.arm_mass * parts_.arm_centre * std::sin(parts_.arm_angle);
  }
}

Term Turning::payload_inertia(const Term& payload, Recorder& recorder) const {
  if (payload == 0.0) return {0.0, ""};
  return recorder.apply(book::point_inertia, "payload_inertia", {payload, parts_.load.payload_radius});
}

Point Turning::moments(double payload) const {
  // a payload hangs at the end of the arm, where the arm points
  const double held = payload == 0.0 ? 0.0 : payload * parts_.load.payload_radius;
  return {parts_.load.moment_x + held * std::cos(parts_.arm_angle),
          parts_.load.moment_y + held * std::sin(parts_.arm_angle)};
}

Term Turning::gravity(double position, const Term& payload, Recorder& recorder) const {
  const Point moment = moments(payload);
  if (!parts_.horizontal || (moment.x == 0.0 && moment.y == 0.0)) return {0.0, ""};
  return recorder.apply(book::arm_gravity, "gravity_torque",
                        {{moment.x, ""}, {moment.y, ""}, {constants::standard_gravity, ""}, {position, ""}});
}

ShaftState Turning::at(const LoadState& state, Recorder& recorder) const {
  const RotaryLoad& load = parts_.load;
  ShaftState shaft;
  shaft.direction = state.direction;
  shaft.speed = state.speed;
  shaft.acceleration = state.acceleration;
  shaft.load_speed = state.speed;
  const Term total = [&] {
    if (state.payload == 0.0) return load.inertia;
    return recorder.apply(book::inertia_sum, "inertia_with_payload",
                          {load.inertia, payload_inertia(state.payload, recorder)});
  }();
  const Term accelerating = recorder.apply(
      book::inertia_torque, {"load_inertia_torque", "Accelerates the load"}, {total, state.acceleration});
  const Term dry_friction =
      recorder.apply(book::turning_friction, "friction_torque", {{state.direction, ""}, load.friction});
  const Term viscous = recorder.apply(book::turning_viscous, "viscous_torque", {load.viscous, state.speed});
  const Term weight = gravity(state.position, state.payload, recorder);
  const Term sum = recorder.apply(
      book::torque_sum, {"load_side_torque", "Torque on the load"},
      {accelerating, dry_friction, viscous, weight, parts_.load_torque, load.process, state.process});
  shaft.crossing_power = sum * state.direction;
  if (parts_.efficiency == 1.0 && parts_.back_efficiency == 1.0) {
    shaft.torque = sum;
  } else {
    const Term one{1.0, ""};
    shaft.torque = shaft.crossing_power > 0.0
                       ? recorder.apply(book::stage_driving, mechanism_torque, {sum, one, parts_.efficiency})
                   : shaft.crossing_power < 0.0 ? recorder.apply(book::stage_backdriven, mechanism_torque,
                                                                 {sum, one, parts_.back_efficiency})
                                                : sum;
  }
  shaft.parts[TorquePart::moved_mass] = accelerating;
  shaft.parts[TorquePart::gravity] = weight + parts_.load_torque;
  shaft.parts[TorquePart::friction] = dry_friction + viscous;
  shaft.parts[TorquePart::process] = load.process + state.process;
  shaft.parts[TorquePart::losses] = shaft.torque - sum;
  return shaft;
}

std::vector<InertiaPiece> Turning::inertia(const TravelExtremes& reach, Recorder& recorder) const {
  std::vector<InertiaPiece> all = parts_.load.parts;
  if (all.empty()) all.push_back({"load", "Load", parts_.load.inertia, parts_.load.inertia});
  if (reach.payload > 0.0) {
    const Term payload = payload_inertia(reach.payload, recorder);
    all.push_back({"payload", "Payload", payload, payload});
  }
  return all;
}

/// Where the weight pulls hardest: the ends of the travel and, if it gets there, arm level to either side.
std::vector<double> Turning::places(const TravelExtremes& reach, double payload) const {
  std::vector<double> all{reach.lowest, reach.highest};
  const Point moment = moments(payload);
  const double level = -std::atan2(moment.y, moment.x);
  const auto first = std::ceil((reach.lowest - level) / constants::pi);
  for (double k = first; level + k * constants::pi <= reach.highest && all.size() < 5; k += 1.0)
    all.push_back(level + k * constants::pi);
  return all;
}

Term Turning::holding_torque(const Rest& rest, Recorder& recorder) const {
  const Term own = rest.pushed ? parts_.load.process : Term{0.0, ""};
  return recorder.apply(
      book::torque_sum, {"load_side_torque", "Torque on the load"},
      {gravity(rest.position, rest.payload, recorder), parts_.load_torque, own, rest.process});
}

Term Turning::breakaway_torque(const Rest& rest, Recorder& recorder) const {
  const Term torque = recorder.apply(book::turning_breakaway, "breakaway_torque",
                                     {holding_torque(rest, recorder), parts_.load.static_friction});
  if (parts_.efficiency == 1.0) return torque;
  return recorder.apply(book::stage_driving, mechanism_torque, {torque, {1.0, ""}, parts_.efficiency});
}

std::optional<Problem> Turning::refuses(const TravelExtremes& reach) const {
  if (reach.payload > 0.0 && std::isnan(parts_.load.payload_radius))
    return Problem{"load.payload_radius", "a segment carries a payload, but nobody said at which radius.",
                   "Give the radius of payloads."};
  if (parts_.load.inertia == 0.0 && reach.payload == 0.0)
    return Problem{"load.inertia", "the load has no inertia.", "Give its inertia, or build it from pieces."};
  return std::nullopt;
}

double Turning::smooth_travel() const {
  return parts_.horizontal ? constants::pi / 6.0 : std::numeric_limits<double>::infinity();
}

} // namespace fulmox
