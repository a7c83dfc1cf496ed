#include "core/mechanism/linear_drive.hpp"

#include "core/mechanism/screw_formulas.hpp"
#include "core/rotation/rotation.hpp"
#include "core/support/intern.hpp"

#include <cmath>

namespace fulmox {

const ArmFormulas& screw_arm() {
  static const ArmFormulas arm{book::screw_speed,          book::screw_acceleration,
                               book::screw_torque_driving, book::screw_torque_backdriven,
                               book::screw_torque_rest,    book::screw_load_inertia};
  return arm;
}

const ArmFormulas& wheel_arm() {
  static const ArmFormulas arm{book::wheel_speed,      book::wheel_acceleration, book::wheel_driving,
                               book::wheel_backdriven, book::wheel_rest,         book::wheel_load_inertia};
  return arm;
}

LinearDrive::LinearDrive(Parts parts, Recorder& recorder) : parts_(std::move(parts)) {
  std::vector<Term> own;
  for (const InertiaPiece& piece : parts_.turning) own.push_back(piece.at_input);
  own_inertia_ = own.size() == 1
                     ? own.front()
                     : recorder.apply(book::inertia_sum, "mechanism.own_inertia", std::span<const Term>(own));
}

LoadMasses LinearDrive::masses(const Term& payload, Recorder& recorder) const {
  LoadMasses m = parts_.load.masses(payload, recorder);
  m.accelerated = with_added(m.accelerated, parts_.travelling_mass, "mass_accelerated", recorder);
  if (parts_.travelling_lifted) {
    m.lifted = m.pressing = m.accelerated;
  } else {
    m.pressing = with_added(m.pressing, parts_.carried_mass, "mass_pressing", recorder);
  }
  return m;
}

Term torque_through(const ArmFormulas& arm, const Term& force, const Term& lever, const Term& efficiency,
                    const Term& back_efficiency, double power, Recorder& recorder) {
  if (power > 0.0) return recorder.apply(arm.driving, "load_torque_in", {force, lever, efficiency});
  if (power < 0.0) return recorder.apply(arm.backdriven, "load_torque_in", {force, lever, back_efficiency});
  return recorder.apply(arm.rest, "load_torque_in", {force, lever});
}

TorqueParts parts_of(const LoadForces& f, double lever, double torque_in) {
  TorqueParts parts;
  parts[TorquePart::moved_mass] = f.inertia * lever;
  parts[TorquePart::gravity] = (f.gravity + f.balance) * lever;
  parts[TorquePart::friction] = (f.sliding + f.viscous) * lever;
  parts[TorquePart::process] = f.process * lever;
  parts[TorquePart::losses] = torque_in - f.total * lever;
  return parts;
}

ShaftState LinearDrive::at(const LoadState& state, Recorder& recorder) const {
  ShaftState shaft;
  shaft.direction = state.direction;
  shaft.speed = recorder.apply(parts_.arm->speed, "mechanism_speed", {state.speed, parts_.lever});
  shaft.acceleration =
      recorder.apply(parts_.arm->acceleration, "mechanism_acceleration", {state.acceleration, parts_.lever});
  const LoadForces f = parts_.load.forces(state, masses(state.payload, recorder), recorder);
  shaft.crossing_power = f.total * state.direction;
  shaft.load_speed = state.speed;
  const Term from_force = torque_through(*parts_.arm, f.total, parts_.lever, parts_.efficiency,
                                         parts_.back_efficiency, shaft.crossing_power, recorder);
  const Term own = recorder.apply<&fulmox::inertia_torque>(
      book::inertia_torque, {"own_inertia_torque", "Accelerates its own turning parts"}, own_inertia_,
      shaft.acceleration);
  Term drag = recorder.apply<&fulmox::opposing_torque>(book::opposing_torque,
                                                       {"mechanism_drag", "Preload and bearing drag"},
                                                       Term{state.direction, ""}, parts_.drag);
  if (parts_.collar_friction > 0.0) {
    const Term collar =
        recorder.apply(book::collar_torque, "collar",
                       {{state.direction, ""}, f.total, parts_.collar_friction, parts_.collar_diameter});
    drag = recorder.apply(book::torque_sum, "mechanism_drag_sum", {drag, collar});
  }
  shaft.torque = recorder.apply(book::torque_sum, mechanism_torque, {from_force, own, drag});

  shaft.parts = parts_of(f, parts_.per_radian, from_force);
  shaft.parts[TorquePart::transmission] = own;
  shaft.parts[TorquePart::drag] = drag;
  return shaft;
}

std::vector<InertiaPiece> LinearDrive::inertia(const TravelExtremes& reach, Recorder& recorder) const {
  const Term mass = with_added(parts_.load.mass, parts_.load.counterweight, "load.mass_total", recorder);
  const Term moved = recorder.apply(parts_.arm->load_inertia, "inertia.moved_mass", {mass, parts_.lever});
  std::vector<InertiaPiece> all{{"moved_mass", "Moved mass", moved, moved}};
  if (reach.payload > 0.0) {
    const Term payload =
        recorder.apply(parts_.arm->load_inertia, "inertia.payload", {reach.payload, parts_.lever});
    all.push_back({"payload", "Payload", payload, payload});
  }
  for (InertiaPiece piece : parts_.travelling) {
    if (std::isnan(piece.at_input)) // a travelling mass: seen through the arm
      piece.at_own_shaft = piece.at_input = recorder.apply(
          parts_.arm->load_inertia, intern("inertia.riding.", piece.id), {piece.at_own_shaft, parts_.lever});
    all.push_back(piece);
  }
  for (const InertiaPiece& piece : parts_.turning) all.push_back(piece);
  return all;
}

Term LinearDrive::holding_torque(const Rest& rest, Recorder& recorder) const {
  const Term force = parts_.load.static_force(masses(rest.payload, recorder), rest, recorder);
  return recorder.apply(parts_.arm->rest, mechanism_torque, {force, parts_.lever});
}

Term LinearDrive::breakaway_torque(const Rest& rest, Recorder& recorder) const {
  const Term force = parts_.load.breakaway(masses(rest.payload, recorder), rest, recorder);
  const Term driving =
      recorder.apply(parts_.arm->driving, "load_torque_in", {force, parts_.lever, parts_.efficiency});
  if (!(parts_.collar_friction > 0.0))
    return recorder.apply(book::torque_sum, mechanism_torque, {driving, parts_.drag});
  const Term collar = recorder.apply(book::collar_torque, "collar",
                                     {{1.0, ""}, force, parts_.collar_friction, parts_.collar_diameter});
  return recorder.apply(book::torque_sum, mechanism_torque, {driving, parts_.drag, collar});
}

double carriage_side(double mass) { return std::cbrt(mass / 2700.0); }

namespace {

/// A counterweight on a rope over a pulley at the upper end; it goes down as the load goes up. The frame of
/// the drawing is turned by the load's angle afterwards.
void draw_counterweight(Drawing& drawing, const Pose& pose, const LinearLoad& load, double origin,
                        double middle) {
  const double slope = std::sin(load.angle), level = std::cos(load.angle);
  const double up = slope < 0.0 ? -1.0 : 1.0;
  const double side = carriage_side(load.mass), weight = carriage_side(load.counterweight);
  const double radius = 0.35 * (side + weight);
  const double top = up > 0.0 ? pose.highest : pose.lowest;
  const Point wheel{origin + top + up * (1.2 * side + radius), middle + radius};
  // steep axes: the rope comes down behind the carriage, others: beyond the end
  constexpr double steep = 0.98;
  const Point out = std::abs(slope) > steep ? Point{0.0, 1.0} : Point{up * level, -up * slope};
  const double climbed = up > 0.0 ? pose.position - pose.lowest : pose.highest - pose.position;
  const double hang = 0.6 * side + climbed;
  const Point from{wheel.x + radius * out.x, wheel.y + radius * out.y};
  const auto below = [&](double length) { return Point{from.x - slope * length, from.y - level * length}; };
  drawing.line(Ink::frame, {origin + pose.position + up * 0.5 * side, middle}, {wheel.x, middle});
  drawing.wheel(Ink::part, wheel, radius, pose.position / radius);
  drawing.line(Ink::frame, from, below(hang));
  drawing.box(Ink::part, below(hang + 0.5 * weight), weight, weight, -load.angle);
}

} // namespace

void draw_carriage(Drawing& drawing, const Pose& pose, const LinearLoad& load, double origin, double height) {
  const double side = carriage_side(load.mass);
  const double middle = height + 0.5 * side;
  for (const double end : {pose.lowest, pose.highest})
    drawing.box(Ink::reach, {origin + end, middle}, side, side);
  drawing.box(Ink::load, {origin + pose.position, middle}, side, side);
  if (load.counterweight > 0.0)
    draw_counterweight(drawing, pose, load, origin, middle); // hangs where the stroke would be written
  else
    drawing.measure({origin + pose.lowest, height + side}, {origin + pose.highest, height + side},
                    0.25 * side, "", pose.highest - pose.lowest);
}

void draw_motor(Drawing& drawing, const Pose& pose, Point shaft, double angle) {
  const auto place = [&](double along) {
    return Point{shaft.x - along * std::cos(angle), shaft.y - along * std::sin(angle)};
  };
  if (pose.gear_length > 0.0)
    drawing.box(Ink::motor, place(0.5 * pose.gear_length), pose.gear_length, pose.gear_side, angle);
  drawing.box(Ink::motor, place(pose.gear_length + 0.5 * pose.motor_length), pose.motor_length,
              pose.motor_side, angle);
}

void draw_motor_end(Drawing& drawing, const Pose& pose, Point shaft) {
  drawing.box(Ink::motor, shaft, pose.motor_side, pose.motor_side);
}

std::vector<FieldSpec> efficiency_fields(std::string_view preset, std::string_view help) {
  return {needed("efficiency", "Efficiency", "η", Kind::share, range::efficiency, preset, help),
          optional("back_efficiency", "Back-driving efficiency", "η_b", Kind::share, {-range::infinity, 1.0},
                   "When the load drives. Blank: the same.")};
}

Term back_efficiency_of(const Section& mechanism) {
  return mechanism.blank("back_efficiency") ? mechanism.term("efficiency")
                                            : mechanism.term("back_efficiency");
}

FieldSpec drag_field(std::string_view help) {
  return optional("drag", "Drag torque", "T_drag", Kind::torque, range::not_negative, help);
}

FieldSpec journal_field() {
  return optional("journal", "Shaft diameter", "d_j", Kind::length, range::positive,
                  "Where the coupling sits; checked against its bores.");
}

} // namespace fulmox
