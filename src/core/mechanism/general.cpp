#include "core/mechanism/linear_drive.hpp"
#include "core/mechanism/mechanisms.hpp"
#include "core/mechanism/rotary_load.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

/// Anything told by its inertia and torques at its shaft.
class General final : public Turning {
public:
  using Turning::Turning;

  Drawing draw(const Pose& pose) const override {
    Drawing d;
    // a steel disc a fifth as thick as wide with this inertia: J = π/32·ρ·(D/5)·D⁴
    const double diameter = std::pow(parts().load.inertia * 160.0 / (3.14159265358979 * 7850.0), 0.2);
    const double r = std::max(0.5 * diameter, 0.3 * pose.motor_side);
    d.wheel(Ink::load, {0.0, 0.0}, r, pose.position);
    d.line(Ink::frame, {-pose.motor_side - 2.0 * r, 0.0}, {-r, 0.0});
    draw_motor(d, pose, {-2.0 * r - 0.5 * pose.motor_side, 0.0}, 0.0);
    return d;
  }
};

Expected<std::unique_ptr<Mechanism>> build(const MechanismInput& input, Recorder& recorder) {
  auto load = RotaryLoad::from(input, recorder);
  if (!load) return load.problem();
  Turning::Parts parts;
  parts.load = std::move(*load);
  parts.load_torque = input.mechanism.term_or("load_torque", 0.0);
  parts.efficiency = input.mechanism.term("efficiency");
  parts.back_efficiency = back_efficiency_of(input.mechanism);
  return made<General>(std::move(parts), recorder);
}

std::vector<FieldSpec> fields() {
  std::vector<FieldSpec> all{
      optional("load_torque", "Load torque", "T_L", Kind::torque, range::any,
               "Always pulls backwards, at rest too, like a weight; negative pulls forward.")};
  for (FieldSpec& field : efficiency_fields(
           "1", "Of whatever lies between shaft and load; 1 when the torques are given at the shaft."))
    all.push_back(std::move(field));
  all.push_back(journal_field());
  return all;
}

} // namespace

const MechanismSpec& general_mechanism() {
  static const MechanismSpec spec{{"general", "General, by inertia and torque", fields()},
                                  &rotary_load_section,
                                  about_an_axis,
                                  true,
                                  &build,
                                  "Anything whose inertia and torque at its shaft are known."};
  return spec;
}

} // namespace fulmox
