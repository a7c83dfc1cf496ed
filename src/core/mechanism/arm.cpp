#include "core/mechanism/linear_drive.hpp"
#include "core/mechanism/mechanisms.hpp"
#include "core/mechanism/rotary_load.hpp"

#include <cmath>

namespace fulmox {
namespace {

/// An arm out of balance about a horizontal axis, seen along that axis.
class Arm final : public Turning {
public:
  Arm(Parts parts, const Section& arm, Recorder& recorder)
      : Turning(std::move(parts), recorder), length_(arm.term("length")) {}

  Drawing draw(const Pose& pose) const override {
    Drawing d;
    const double start = parts().arm_angle;
    for (const double end : {pose.lowest, pose.highest}) outline(d, Ink::reach, start + end);
    const double angle = start + pose.position;
    outline(d, Ink::load, angle);
    const Drawing load = draw_pieces(parts().load.pieces, pose.position);
    d.shapes.insert(d.shapes.end(), load.shapes.begin(), load.shapes.end());
    const double e = parts().arm_centre;
    d.circle(Ink::part, {e * std::cos(angle), e * std::sin(angle)}, 0.03 * length_);
    draw_motor_end(d, pose, {0.0, 0.0});
    d.line(Ink::hint, {-0.2 * length_, 0.0}, {1.05 * length_, 0.0});
    const Point tip{length_ * std::cos(angle), length_ * std::sin(angle)};
    d.measure({0.0, 0.0}, tip, 0.14 * length_, "mechanism.length", length_);
    if (e > 0.0)
      d.measure({0.0, 0.0}, {e * std::cos(angle), e * std::sin(angle)}, -0.14 * length_, "mechanism.centre",
                e);
    return d;
  }

private:
  void outline(Drawing& d, Ink ink, double angle) const {
    d.box(ink, {0.5 * length_ * std::cos(angle), 0.5 * length_ * std::sin(angle)}, length_, 0.1 * length_,
          angle);
  }
  double length_;
};

Expected<std::unique_ptr<Mechanism>> build(const MechanismInput& input, Recorder& recorder) {
  auto load = RotaryLoad::from(input, recorder);
  if (!load) return load.problem();
  Turning::Parts parts;
  parts.load = std::move(*load);
  parts.horizontal = true;
  parts.arm_mass = input.mechanism.term_or("mass", 0.0);
  parts.arm_centre = input.mechanism.term_or("centre", 0.0);
  parts.arm_angle = input.mechanism.term("start_angle");
  return made<Arm>(std::move(parts), input.mechanism, recorder);
}

} // namespace

const MechanismSpec& arm_mechanism() {
  static const MechanismSpec spec{
      {"arm",
       "Arm about a level axis",
       {needed("length", "Length", "L", Kind::length, range::positive, "400 mm", "For the picture only."),
        optional("mass", "Mass of the arm", "m_a", Kind::mass, range::not_negative,
                 "Besides the pieces of the load. Counts as m·e² plus the inertia given with the load."),
        optional("centre", "Its centre of mass", "e", Kind::length, range::not_negative,
                 "Distance from the axis."),
        needed("start_angle", "Angle at zero", "φ_0", Kind::angle, range::any, "0 deg",
               "Where the arm points at position zero, from level, upwards positive."),
        journal_field()}},
      &rotary_load_section,
      about_an_axis,
      false,
      &build,
      "Its weight pulls with the cosine of its angle. It falls when power goes."};
  return spec;
}

} // namespace fulmox
