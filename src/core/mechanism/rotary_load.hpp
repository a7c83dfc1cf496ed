#pragma once
#include "core/mechanism/mechanism.hpp"

namespace fulmox {

/// The form for what turns.
const SectionSpec& rotary_load_section();

/// A filled-in form of a turning load.
struct RotaryLoad {
  Term inertia{0.0, ""}; ///< typed plus pieces, without payload
  std::vector<InertiaPiece> parts;
  Term friction{0.0, ""}, static_friction{0.0, ""}, viscous{0.0, ""}, process{0.0, ""};
  Term payload_radius;                   ///< NaN when not given
  double moment_x = 0.0, moment_y = 0.0; ///< kg·m of the pieces
  std::vector<Section> pieces;           ///< for drawing

  static Expected<RotaryLoad> from(const MechanismInput& input, Recorder& recorder);
};

/// What turns about an axis directly: table, arm, anything given by its inertia and torque.
class Turning : public Mechanism {
public:
  struct Parts {
    RotaryLoad load;
    /// An arm's centre of mass about a horizontal axis: m·e at φ0, besides the pieces; 0 about a vertical
    /// one.
    Term arm_mass{0.0, ""}, arm_centre{0.0, ""}, arm_angle{0.0, ""};
    bool horizontal = false;
    Term load_torque{0.0, ""}; ///< N·m, pulls backwards like a weight
    Term efficiency{1.0, ""}, back_efficiency{1.0, ""};
  };
  explicit Turning(Parts parts, Recorder& recorder);

  ShaftState at(const LoadState& state, Recorder& recorder) const override;
  std::vector<InertiaPiece> inertia(const TravelExtremes& reach, Recorder& recorder) const override;
  Term holding_torque(const Rest& rest, Recorder& recorder) const override;
  Term breakaway_torque(const Rest& rest, Recorder& recorder) const override;
  std::vector<double> places(const TravelExtremes& reach, double payload) const override;
  double lever(double) const override { return 1.0; }
  Kind travel() const override { return Kind::angle; }
  std::optional<Problem> refuses(const TravelExtremes& reach) const override;
  double smooth_travel() const override;

protected:
  [[nodiscard]] const Parts& parts() const { return parts_; }

private:
  [[nodiscard]] Term payload_inertia(const Term& payload, Recorder& recorder) const;
  [[nodiscard]] Term gravity(double position, const Term& payload, Recorder& recorder) const;
  /// First moments of the mass with a payload, at position zero. kg·m.
  [[nodiscard]] Point moments(double payload) const;

  Parts parts_;
};

namespace book {
extern const Formula point_inertia, arm_gravity, turning_friction, turning_viscous, turning_breakaway;
}
std::span<const Formula* const> rotary_formulas();

} // namespace fulmox
