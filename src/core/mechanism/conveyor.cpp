#include "core/mechanism/linear_drive.hpp"
#include "core/mechanism/mechanisms.hpp"
#include "core/quantity/constants.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace fulmox {
namespace {

constexpr double by_arm = std::numeric_limits<double>::quiet_NaN();

double hold_uphill(double g, double friction, double angle) {
  return g * (friction * std::cos(angle) - std::sin(angle));
}

/// An endless belt over a drive drum, carried by rollers; goods lie on it.
class Conveyor final : public LinearDrive {
public:
  Conveyor(Parts parts, const Section& belt, Recorder& recorder)
      : LinearDrive(std::move(parts), recorder), length_(belt.term("length")),
        rollers_(static_cast<int>(std::lround(belt.term_or("rollers", 0.0)))),
        roller_radius_(belt.term_or("roller_radius", 0.6 * this->parts().lever)), grip_(belt.term("grip")) {}

  std::optional<Grip> grip(Recorder& recorder) const override {
    if (std::isnan(grip_)) return std::nullopt;
    const Term& angle = parts().load.angle;
    const Term g{constants::standard_gravity, ""};
    return Grip{recorder.apply(book::goods_grip, "goods.forward", {g, grip_, angle}),
                recorder.apply(book::goods_grip, "goods.backward", {g, grip_, {-angle, angle.ref}})};
  }

  std::string_view missing_grip() const override { return std::isnan(grip_) ? "mechanism.grip" : ""; }

  Drawing draw(const Pose& pose) const override {
    Drawing d;
    const double r = parts().lever;
    draw_motor_end(d, pose, {0.0, 0.0});
    d.wheel(Ink::part, {0.0, 0.0}, r, -pose.position / r);
    d.wheel(Ink::part, {length_, 0.0}, r, -pose.position / r);
    d.line(Ink::frame, {0.0, r}, {length_, r});
    d.line(Ink::frame, {0.0, -r}, {length_, -r});
    for (int k = 1; k <= std::min(rollers_, 40); ++k)
      d.wheel(Ink::part, {length_ * k / (rollers_ + 1), r - roller_radius_}, roller_radius_,
              -pose.position / roller_radius_);
    const double side = carriage_side(parts().load.mass);
    // goods come round and round: drawn where the belt has carried them
    const double room = length_ - side;
    double at = room > 0.0 ? std::fmod(pose.position - pose.lowest, room) : 0.0;
    if (at < 0.0) at += room;
    d.box(Ink::load, {0.5 * side + at, r + 0.5 * side}, side, side);
    d.measure({0.0, -1.8 * r}, {length_, -1.8 * r}, 0.0, "mechanism.length", length_);
    d.measure({-1.3 * r, -r}, {-1.3 * r, r}, 0.0, "mechanism.diameter", 2.0 * r);
    d.detail = {0.0, 0.0};
    d.detail_radius = 1.7 * std::max(r, 0.5 * pose.motor_side);
    d.turn(lean());
    return d;
  }

private:
  double length_;
  int rollers_;
  double roller_radius_;
  Term grip_;
};

Expected<std::unique_ptr<Mechanism>> build(const MechanismInput& input, Recorder& recorder) {
  const Section& belt = input.mechanism;
  auto load = LinearLoad::from(input, recorder);
  if (!load) return load.problem();
  if (load->counterweight > 0.0)
    return Problem{"load.counterweight", "a conveyor carries no counterweight.", "Leave it blank."};
  LinearDrive::Parts parts;
  parts.arm = &wheel_arm();
  parts.load = *load;
  parts.lever = recorder.apply(book::half_diameter, "conveyor.radius", {belt.term("diameter")});
  parts.per_radian = parts.lever;
  parts.efficiency = belt.term("efficiency");
  parts.back_efficiency = back_efficiency_of(belt);
  parts.drag = belt.term_or("drag", 0.0);
  const Term drum = belt.term_or("drum_inertia", 0.0);
  parts.turning = {{"drum", "Drive drum", drum, drum}};
  const Term belt_mass = belt.term_or("belt_mass", 0.0);
  if (belt_mass > 0.0) {
    parts.travelling.push_back({"belt", "Belt", belt_mass, {by_arm, ""}});
    // the upper run lies on its support
    parts.carried_mass =
        belt.blank("carried_belt") ? Term{0.5 * belt_mass, belt_mass.ref} : belt.term("carried_belt");
  }
  Term rollers{0.0, ""};
  if (!belt.blank("roller_inertia") && belt.term_or("rollers", 0.0) > 0.0) {
    if (belt.blank("roller_radius"))
      return Problem{"mechanism.roller_radius", "the rollers' inertia needs their radius.", "Give it."};
    rollers = recorder.apply(book::equal_mass, "conveyor.rollers",
                             {belt.term("rollers"), belt.term("roller_inertia"), belt.term("roller_radius")});
    parts.travelling.push_back({"rollers", "Rollers", rollers, {by_arm, ""}});
  }
  parts.travelling_mass = with_added(belt_mass, rollers, "conveyor.riding", recorder);
  return made<Conveyor>(std::move(parts), belt, recorder);
}

std::vector<FieldSpec> fields() {
  std::vector<FieldSpec> all{
      needed("diameter", "Drum diameter", "D", Kind::length, range::positive, "60 mm",
             "Of the drive drum with the belt."),
      needed("length", "Length", "L", Kind::length, range::positive, "1.2 m", "From drum to drum.")};
  for (FieldSpec& field : efficiency_fields("0.9", "Of the belt on its drums: 0.85–0.95 (common practice)."))
    all.push_back(std::move(field));
  all.push_back(optional("grip", "Grip of the goods", "μ_s", Kind::number, {0.0, 3.0},
                         "Static friction between goods and belt; judged against the acceleration."));
  all.push_back(
      optional("belt_mass", "Mass of the belt", "m_b", Kind::mass, range::not_negative, "All of it."));
  all.push_back(optional("carried_belt", "… lying on its support", "m_c", Kind::mass, range::not_negative,
                         "Share of the belt that rubs. Blank: half."));
  all.push_back(
      optional("drum_inertia", "Inertia of the drum", "J_1", Kind::inertia, range::not_negative, ""));
  all.push_back(optional("rollers", "Rollers", "n", Kind::number, range::whole(0.0, 10000.0),
                         "Including the far drum."));
  all.push_back(
      optional("roller_inertia", "Inertia of a roller", "J_k", Kind::inertia, range::not_negative, ""));
  all.push_back(optional("roller_radius", "Radius of a roller", "r_k", Kind::length, range::positive, ""));
  all.push_back(drag_field("Bearings, scrapers: torque at the drum that always opposes rotation."));
  all.push_back(journal_field());
  return all;
}

} // namespace

namespace book {
const Formula goods_grip{
    "conveyor.grip",
    "Acceleration at which goods slip",
    "a_s",
    "{g}·({mu_s}·cos {theta} − sin {theta})",
    Kind::acceleration,
    {{"g", "g", Kind::acceleration, "standard gravity, ISO 80000-3"},
     {"mu_s", "μ_s", Kind::number, "static friction of goods on the belt", range::not_negative},
     {"theta", "θ", Kind::angle, "angle from level, uphill positive"}},
    "Coulomb friction on an incline",
    calling<&hold_uphill>};
const Formula half_diameter{"conveyor.radius",
                            "Radius of the drum",
                            "r",
                            "{D}/2",
                            Kind::length,
                            {{"D", "D", Kind::length, "diameter", range::positive}},
                            "geometry",
                            calling<+[](double diameter) { return diameter / 2.0; }>};
} // namespace book

std::span<const Formula* const> conveyor_formulas() {
  static const std::array list{&book::goods_grip, &book::half_diameter};
  return list;
}

const MechanismSpec& conveyor_mechanism() {
  static const MechanismSpec spec{{"conveyor", "Belt conveyor", fields()},
                                  &linear_load_section,
                                  along_a_line,
                                  true,
                                  &build,
                                  "An endless belt carries goods; they must not slip."};
  return spec;
}

} // namespace fulmox
