#pragma once
#include "core/mechanism/linear_load.hpp"

#include <algorithm>

namespace fulmox {

/// How a turning shaft and a travelling load belong together: the formulas of a screw (by its lead) or of a
/// wheel (by its radius). The last argument of each is the lead or radius, or comes before the efficiency.
struct ArmFormulas {
  const Formula &speed, &acceleration, &driving, &backdriven, &rest, &load_inertia;
};

const ArmFormulas& screw_arm(); ///< lead p, m per turn
const ArmFormulas& wheel_arm(); ///< radius r, m per rad

/// Torque at the shaft for a force on the load: the efficiency follows the direction in which power crosses.
Term torque_through(const ArmFormulas& arm, const Term& force, const Term& lever, const Term& efficiency,
                    const Term& back_efficiency, double power, Recorder& recorder);

/// What the forces on the load come to at a shaft with this lever, m/rad; losses are what `torque_in` takes
/// beyond them.
TorqueParts parts_of(const LoadForces& forces, double lever, double torque_in);

/// A mechanism whose shaft moves a load along a line: screws, belts, racks, drums, conveyors differ in their
/// arm, their own turning parts and what travels besides the load.
class LinearDrive : public Mechanism {
public:
  struct Parts {
    const ArmFormulas* arm = nullptr;
    LinearLoad load;
    Term lever;              ///< lead in m per turn or radius in m
    double per_radian = 0.0; ///< m of travel per rad of the shaft
    Term efficiency, back_efficiency;
    Term drag{0.0, ""};                   ///< N·m, opposes rotation outside the efficiency
    std::vector<InertiaPiece> turning;    ///< parts on the input shaft; do not cross the efficiency
    std::vector<InertiaPiece> travelling; ///< parts that travel or turn with the load; cross the efficiency
    Term travelling_mass{0.0, ""};        ///< kg, their equal travelling mass
    Term carried_mass{0.0, ""};           ///< kg of them that presses on the guides
    bool travelling_lifted = false;       ///< they are lifted with the load
    Term collar_friction{0.0, ""}, collar_diameter{0.0, ""};
  };

  explicit LinearDrive(Parts parts, Recorder& recorder);

  ShaftState at(const LoadState& state, Recorder& recorder) const override;
  std::vector<InertiaPiece> inertia(const TravelExtremes& reach, Recorder& recorder) const override;
  bool turns_with_shaft(std::string_view piece) const override {
    return std::any_of(parts_.turning.begin(), parts_.turning.end(),
                       [&](const auto& p) { return p.id == piece; });
  }
  Term holding_torque(const Rest& rest, Recorder& recorder) const override;
  Term breakaway_torque(const Rest& rest, Recorder& recorder) const override;
  double lever(double) const override { return parts_.per_radian; }
  std::optional<Problem> refuses(const TravelExtremes& reach) const override {
    return parts_.load.refuses(reach);
  }
  bool position_matters() const override { return parts_.load.spring_rate > 0.0; }
  bool self_locking() const override { return parts_.back_efficiency < 0.0; }
  bool suspiciously_lossless() const override { return parts_.efficiency == 1.0; }

protected:
  [[nodiscard]] const Parts& parts() const { return parts_; }
  [[nodiscard]] double lean() const { return parts_.load.angle; }
  /// kg·m² of what turns with the input shaft.
  [[nodiscard]] double own_inertia() const { return own_inertia_; }

private:
  [[nodiscard]] LoadMasses masses(const Term& payload, Recorder& recorder) const;

  Parts parts_;
  Term own_inertia_;
};

/// A travelling load drawn as an aluminium cube of its mass, with the ends of its stroke and its
/// counterweight. Along +x, on a line
/// `height` above the origin.
void draw_carriage(Drawing& drawing, const Pose& pose, const LinearLoad& load, double origin, double height);
double carriage_side(double mass);
/// Motor and gearhead whose shaft ends at a point, lying along an angle.
void draw_motor(Drawing& drawing, const Pose& pose, Point shaft, double angle);
/// A motor seen from its end, around its shaft.
void draw_motor_end(Drawing& drawing, const Pose& pose, Point shaft);

/// The efficiency fields of a mechanism: driving and, blank for the same, back-driven.
std::vector<FieldSpec> efficiency_fields(std::string_view preset, std::string_view help);
Term back_efficiency_of(const Section& mechanism);
FieldSpec drag_field(std::string_view help);
FieldSpec journal_field();

/// A model or the problem that keeps it from being made.
template <class M, class... A> Expected<std::unique_ptr<Mechanism>> made(A&&... arguments) {
  return std::unique_ptr<Mechanism>(std::make_unique<M>(std::forward<A>(arguments)...));
}

namespace book {
extern const Formula wheel_speed, wheel_acceleration, wheel_driving, wheel_backdriven, wheel_rest,
    wheel_load_inertia, pinion_radius, pitch_radius, equal_mass, sheave_radius, goods_grip, half_diameter;
}
std::span<const Formula* const> wheel_formulas();
std::span<const Formula* const> conveyor_formulas();

} // namespace fulmox
