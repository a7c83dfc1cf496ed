#include "core/mechanism/linear_drive.hpp"
#include "core/mechanism/mechanisms.hpp"

#include <cmath>

namespace fulmox {
namespace {

/// A hoist: rope from a drum, over falls, to the load.
class Drum final : public LinearDrive {
public:
  Drum(Parts parts, const Section& drum, Recorder& recorder)
      : LinearDrive(std::move(parts), recorder), radius_(drum.term("radius")), falls_(drum.term("falls")) {}

  std::optional<Series> rope_pull(Series torque, const Series& acceleration, double sense) const override {
    if (!(parts().back_efficiency > 0.0)) return std::nullopt; // nothing tells the pull behind a locked drum
    Series own = acceleration;
    own *= -own_inertia();
    torque += own;
    torque += -sense * parts().drag;
    const bool driving = torque.mean() * sense > 0.0;
    torque *= (driving ? parts().efficiency : 1.0 / parts().back_efficiency) / parts().per_radian;
    if (lean() < 0.0) torque *= -1.0; // then forward is away from the drum
    return torque;
  }

  Drawing draw(const Pose& pose) const override {
    Drawing d;
    const double travel = pose.highest - pose.lowest;
    const double side = carriage_side(parts().load.mass);
    const double lean_sign = lean() < 0.0 ? -1.0 : 1.0;
    // forward pulls towards the drum when it is uphill
    const double rope = 1.5 * radius_ + side + travel;
    const double at = rope - lean_sign * (pose.position - pose.lowest) - (lean_sign < 0.0 ? travel : 0.0);
    draw_motor_end(d, pose, {0.0, 0.0});
    d.wheel(Ink::part, {0.0, 0.0}, radius_, pose.position * falls_ / radius_);
    const int falls = static_cast<int>(std::lround(falls_));
    for (int k = 0; k < falls; ++k) {
      const double y = radius_ * (1.0 - (falls > 1 ? 1.2 * k / (falls - 1) : 0.0));
      d.line(Ink::frame, {0.0, y}, {-at, y});
    }
    for (const double end : {rope, rope - travel})
      d.box(Ink::reach, {-end - 0.5 * side, radius_}, side, side);
    d.box(Ink::load, {-at - 0.5 * side, radius_}, side, side);
    d.measure({-rope, radius_ - 0.5 * side}, {-rope + travel, radius_ - 0.5 * side}, -0.3 * side, "", travel);
    d.measure({0.0, 0.0}, {0.0, -radius_}, 1.3 * radius_, "mechanism.radius", radius_);
    d.detail = {0.0, 0.0};
    d.detail_radius = 1.7 * std::max(radius_, 0.5 * pose.motor_side);
    d.turn(lean());
    return d;
  }

private:
  double radius_, falls_;
};

Expected<std::unique_ptr<Mechanism>> build(const MechanismInput& input, Recorder& recorder) {
  const Section& drum = input.mechanism;
  auto load = LinearLoad::from(input, recorder);
  if (!load) return load.problem();
  LinearDrive::Parts parts;
  parts.arm = &wheel_arm();
  parts.load = *load;
  parts.lever = recorder.apply(book::sheave_radius, "drum.lever", {drum.term("radius"), drum.term("falls")});
  parts.per_radian = parts.lever;
  parts.efficiency = drum.term("efficiency");
  parts.back_efficiency = back_efficiency_of(drum);
  parts.drag = drum.term_or("drag", 0.0);
  const Term own = drum.term_or("drum_inertia", 0.0);
  parts.turning = {{"drum", "Drum", own, own}};
  return made<Drum>(std::move(parts), drum, recorder);
}

std::vector<FieldSpec> fields() {
  std::vector<FieldSpec> all{needed("radius", "Radius to the rope", "r", Kind::length, range::positive,
                                    "60 mm", "From the drum's axis to the centre of the rope."),
                             needed("falls", "Falls of rope", "n", Kind::number, range::whole(1.0, 20.0), "1",
                                    "Parts of rope that carry the load.")};
  for (FieldSpec& field : efficiency_fields("0.95", "Of rope, sheaves and drum: 0.9–0.98 (common practice)."))
    all.push_back(std::move(field));
  all.push_back(optional("drum_inertia", "Inertia of the drum", "J_1", Kind::inertia, range::not_negative,
                         "With the rope wound on it."));
  all.push_back(drag_field("Bearings, seals: torque at the drum that always opposes rotation."));
  all.push_back(journal_field());
  return all;
}

} // namespace

const MechanismSpec& drum_mechanism() {
  static const MechanismSpec spec{
      {"drum", "Hoist drum", fields()},
      &hanging_load_section,
      along_a_line,
      false,
      &build,
      "A rope on a drum lifts or draws the load. A rope only pulls: keep it taut, and keep "
      "people out from under it."};
  return spec;
}

} // namespace fulmox
