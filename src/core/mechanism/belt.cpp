#include "core/mechanism/linear_drive.hpp"
#include "core/mechanism/mechanisms.hpp"
#include "core/mechanism/spring_formulas.hpp"
#include "core/mechanism/wheel_pull.hpp"

#include <algorithm>
#include <limits>

namespace fulmox {
namespace {

constexpr double by_arm = std::numeric_limits<double>::quiet_NaN();

/// A belt with the load clamped to one span: drive pulley at the origin, idler at the far end.
class BeltDrive final : public LinearDrive {
public:
  BeltDrive(Parts parts, const Section& belt, Recorder& recorder)
      : LinearDrive(std::move(parts), recorder), centres_(belt.term("centres")),
        idler_(belt.term_or("idler_radius", this->parts().lever)), strain_(belt.term("strain_stiffness")),
        tension_(belt.term("tension")) {}

  /// Both spans pretensioned, the load where they are softest: as near the middle of the loop as it gets.
  Term own_stiffness(const TravelExtremes& reach, Recorder& recorder) const override {
    if (std::isnan(strain_)) return strain_;
    const double travel = reach.highest - reach.lowest;
    const Term span{std::min(centres_.value, 0.5 * (centres_ + travel)), centres_.ref};
    return recorder.apply(book::belt_spring, "springs.belt", {strain_, span, centres_, parts().lever});
  }

  Term shaft_pull(const Term&, Recorder& recorder) const override {
    return std::isnan(tension_) ? tension_ : recorder.apply(book::belt_pull, "shaft.pull", {tension_});
  }
  Pretension pretension() const override { return {tension_, parts().lever}; }

  std::optional<Guide> guide() const override { return Guide{"the belt", centres_}; }

  Drawing draw(const Pose& pose) const override {
    Drawing d;
    const double r = parts().lever;
    const double turn = pose.position / r;
    draw_motor_end(d, pose, {0.0, 0.0});
    d.wheel(Ink::part, {0.0, 0.0}, r, -turn);
    d.wheel(Ink::part, {centres_, 0.0}, idler_, -pose.position / idler_);
    d.line(Ink::frame, {0.0, r}, {centres_, idler_});
    d.line(Ink::frame, {0.0, -r}, {centres_, -idler_});
    const double travel = pose.highest - pose.lowest;
    draw_carriage(d, pose, parts().load, 0.5 * (centres_ - travel) - pose.lowest, r);
    const double below = 1.6 * std::max(r, 0.5 * pose.motor_side);
    d.measure({0.0, -below}, {centres_, -below}, -0.2 * below, "mechanism.centres", centres_);
    d.measure({-1.2 * below, 0.0}, {-1.2 * below, r}, 0.0, "mechanism.pulley_teeth", r);
    d.detail = {0.0, 0.0};
    d.detail_radius = 1.7 * std::max(r, 0.5 * pose.motor_side);
    d.turn(lean());
    return d;
  }

private:
  Term centres_;
  double idler_;
  Term strain_;  ///< N, E·A
  Term tension_; ///< N in each span at rest
};

Expected<std::unique_ptr<Mechanism>> build(const MechanismInput& input, Recorder& recorder) {
  const Section& belt = input.mechanism;
  auto load = LinearLoad::from(input, recorder);
  if (!load) return load.problem();
  LinearDrive::Parts parts;
  parts.arm = &wheel_arm();
  parts.load = *load;
  parts.lever =
      recorder.apply(book::pitch_radius, "belt.radius", {belt.term("pulley_teeth"), belt.term("pitch")});
  parts.per_radian = parts.lever;
  parts.efficiency = belt.term("efficiency");
  parts.back_efficiency = back_efficiency_of(belt);
  parts.drag = belt.term_or("drag", 0.0);
  const Term pulley = belt.term_or("pulley_inertia", 0.0);
  parts.turning = {{"pulley", "Drive pulley", pulley, pulley}};
  const Term belt_mass = belt.term_or("belt_mass", 0.0);
  const Term idler = belt.term_or("idler_inertia", 0.0);
  if (belt_mass > 0.0) parts.travelling.push_back({"belt", "Belt", belt_mass, {by_arm, ""}});
  Term idlers{0.0, ""};
  if (idler > 0.0) {
    const Term radius = belt.blank("idler_radius") ? parts.lever : belt.term("idler_radius");
    idlers = recorder.apply(book::equal_mass, "belt.idlers", {belt.term("idlers"), idler, radius});
    parts.travelling.push_back({"idlers", "Idlers", idlers, {by_arm, ""}});
  }
  parts.travelling_mass = with_added(belt_mass, idlers, "belt.riding", recorder);
  return made<BeltDrive>(std::move(parts), belt, recorder);
}

std::vector<FieldSpec> fields() {
  std::vector<FieldSpec> all{
      needed("pulley_teeth", "Teeth of the pulley", "z", Kind::number, {6.0, 1000.0}, "24",
             "Of the drive pulley."),
      needed("pitch", "Pitch of the belt", "p", Kind::length, range::positive, "5 mm", "Tooth to tooth."),
      needed("centres", "Centre distance", "C", Kind::length, range::positive, "1 m",
             "From drive pulley to far pulley."),
      optional("strain_stiffness", "Stiffness of the belt", "EA", Kind::force, range::positive,
               "Force per strain, E·A: what stretches it to double length, if it could. Blank: rigid."),
      optional("tension", "Pretension of a span", "F_0", Kind::force, range::positive,
               "Of each span at rest. Too little and teeth jump; it bends the shaft all the time.")};
  for (FieldSpec& field : efficiency_fields("0.95", "Of the belt drive: 0.93–0.98 (common practice)."))
    all.push_back(std::move(field));
  all.push_back(optional("pulley_inertia", "Inertia of the pulley", "J_1", Kind::inertia, range::not_negative,
                         "Of the drive pulley, about its shaft."));
  all.push_back(
      optional("belt_mass", "Mass of the belt", "m_b", Kind::mass, range::not_negative, "All of it."));
  all.push_back(optional("idler_inertia", "Inertia of an idler", "J_k", Kind::inertia, range::not_negative,
                         "Of each other pulley."));
  all.push_back(
      needed("idlers", "Idlers", "n", Kind::number, {0.0, 100.0}, "1", "Pulleys besides the driven one."));
  all.push_back(optional("idler_radius", "Radius of an idler", "r_k", Kind::length, range::positive,
                         "Blank: as the drive pulley."));
  all.push_back(drag_field("Bearings, pretension: torque at the drive pulley that always opposes rotation."));
  all.push_back(journal_field());
  return all;
}

} // namespace

const MechanismSpec& belt_mechanism() {
  static const MechanismSpec spec{{"belt", "Timing belt", fields()},
                                  &linear_load_section,
                                  along_a_line,
                                  false,
                                  &build,
                                  "A toothed belt between pulleys pulls the load along a line."};
  return spec;
}

} // namespace fulmox
