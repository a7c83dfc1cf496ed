#include "core/mechanism/linear_drive.hpp"
#include "core/mechanism/mechanisms.hpp"
#include "core/mechanism/wheel_pull.hpp"

#include <algorithm>
#include <limits>

namespace fulmox {
namespace {

constexpr double by_arm = std::numeric_limits<double>::quiet_NaN();
constexpr Term unknown_force{std::numeric_limits<double>::quiet_NaN(), ""};

/// A pinion on a rack; either the motor rides on the carriage or the rack travels.
class RackDrive final : public LinearDrive {
public:
  RackDrive(Parts parts, const Section& rack, Recorder& recorder)
      : LinearDrive(std::move(parts), recorder), length_(rack.term("length")), tooth_(rack.term("module")),
        helix_(rack.term_or("helix", 0.0)), rides_(rack.text("motor") == "rides") {}

  Term shaft_pull(const Term& torque, Recorder& recorder) const override {
    return recorder.apply(book::pinion_pull, "shaft.pull", {torque, parts().lever, helix_});
  }

  Term shaft_thrust(const Term& torque, Recorder& recorder) const override {
    if (helix_ == 0.0) return unknown_force;
    return recorder.apply(book::pinion_thrust, "shaft.thrust", {torque, parts().lever, helix_});
  }

  std::optional<Guide> guide() const override { return Guide{"the rack", length_}; }

  Drawing draw(const Pose& pose) const override {
    Drawing d;
    const double r = parts().lever;
    const double travel = pose.highest - pose.lowest;
    const double start = 0.5 * (length_ - travel) - pose.lowest;
    const double pinion = rides_ ? start + pose.position : 0.5 * length_;
    const double rack = rides_ ? 0.0 : pose.position - 0.5 * (pose.lowest + pose.highest);
    draw_motor_end(d, pose, {pinion, r});
    d.wheel(Ink::part, {pinion, r}, r, (rides_ ? -1.0 : 1.0) * pose.position / r);
    std::vector<Point> teeth{{rack, -1.5 * tooth_}};
    double pitch = 3.14159 * tooth_;
    while (pitch < length_ / 150.0) pitch *= 2.0;
    for (double x = 0.0; x + pitch <= length_; x += pitch) {
      teeth.push_back({rack + x, -0.6 * tooth_});
      teeth.push_back({rack + x + 0.5 * pitch, 0.6 * tooth_});
    }
    teeth.push_back({rack + length_, -0.6 * tooth_});
    teeth.push_back({rack + length_, -1.5 * tooth_});
    d.polygon(Ink::frame, std::move(teeth));
    if (rides_)
      draw_carriage(d, pose, parts().load, start, std::max(2.2 * r, r + 0.55 * pose.motor_side));
    else {
      const double side = carriage_side(parts().load.mass);
      draw_carriage(d, pose, parts().load, 0.5 * length_ - 0.5 * (pose.lowest + pose.highest),
                    -1.5 * tooth_ - side);
    }
    d.measure({0.0, -2.0 * r}, {length_, -2.0 * r}, 0.0, "mechanism.length", length_);
    d.measure({pinion, r}, {pinion + r, r}, 0.0, "mechanism.teeth", r);
    d.detail = {pinion, r};
    d.detail_radius = 1.9 * std::max(r, 0.5 * pose.motor_side);
    d.turn(lean());
    return d;
  }

private:
  Term length_;
  double tooth_;
  Term helix_;
  bool rides_;
};

Expected<std::unique_ptr<Mechanism>> build(const MechanismInput& input, Recorder& recorder) {
  const Section& rack = input.mechanism;
  auto load = LinearLoad::from(input, recorder);
  if (!load) return load.problem();
  LinearDrive::Parts parts;
  parts.arm = &wheel_arm();
  parts.load = *load;
  parts.lever = recorder.apply(book::pinion_radius, "rack.radius",
                               {rack.term("module"), rack.term("teeth"), rack.term_or("helix", 0.0)});
  parts.per_radian = parts.lever;
  parts.efficiency = rack.term("efficiency");
  parts.back_efficiency = back_efficiency_of(rack);
  parts.drag = rack.term_or("drag", 0.0);
  const Term pinion = rack.term_or("pinion_inertia", 0.0);
  parts.turning = {{"pinion", "Pinion", pinion, pinion}};
  if (rack.text("motor") == "rides" && !rack.blank("motor_mass")) {
    parts.travelling_mass = rack.term("motor_mass");
    parts.travelling_lifted = true;
    parts.travelling = {{"motor_mass", "Riding motor", parts.travelling_mass, {by_arm, ""}}};
  }
  return made<RackDrive>(std::move(parts), rack, recorder);
}

std::vector<FieldSpec> fields() {
  std::vector<FieldSpec> all{
      needed("module", "Normal module", "m_n", Kind::length, range::positive, "2 mm", "Of rack and pinion."),
      needed("teeth", "Teeth of the pinion", "z", Kind::number, {6.0, 1000.0}, "20", ""),
      optional("helix", "Helix angle", "β", Kind::angle, {0.0, 0.8},
               "Blank: straight teeth. Helical racks 19.53°."),
      needed("length", "Length of the rack", "L", Kind::length, range::positive, "1.5 m", "")};
  for (FieldSpec& field : efficiency_fields("0.95", "Of the mesh: 0.93–0.98 (common practice)."))
    all.push_back(std::move(field));
  all.push_back(one_of("motor", "Motor", {{"rides", "rides along"}, {"fixed", "is fixed"}},
                       "A riding motor, gearhead and cable are moved too."));
  all.push_back(optional("motor_mass", "Mass of what rides", "m_r", Kind::mass, range::not_negative,
                         "Motor, gearhead, pinion and plate, unless the moved mass holds them already."));
  all.push_back(
      optional("pinion_inertia", "Inertia of the pinion", "J_1", Kind::inertia, range::not_negative, ""));
  all.push_back(drag_field("Bearings, preload against backlash: always opposes rotation."));
  all.push_back(journal_field());
  return all;
}

} // namespace

const MechanismSpec& rack_mechanism() {
  static const MechanismSpec spec{
      {"rack", "Rack and pinion", fields()},      &linear_load_section, along_a_line, false, &build,
      "A pinion runs along a rack, or drives it."};
  return spec;
}

} // namespace fulmox
