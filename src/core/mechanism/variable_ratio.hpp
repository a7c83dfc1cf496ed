#pragma once
#include "core/mechanism/linear_drive.hpp"

namespace fulmox {

/// A mechanism whose shaft moves a load along a line by a law of its own: crank, toggle, cam. Moves are
/// angles of the shaft; what the load travels per radian, dx/dφ, changes with the angle. A kind says that
/// slope, how it bends, and where it is steepest; forces, worst places, wind-up and inertia follow.
class VariableRatio : public Mechanism {
public:
  struct Parts {
    /// Of the load's speed and acceleration from those of the shaft, {dx/dφ, ω} and {dx/dφ, α, d²x/dφ², ω};
    /// of the shaft's torque from the force on the load, {F, dx/dφ, η}, and of the load's inertia, {m,
    /// dx/dφ}.
    const ArmFormulas* arm = nullptr;
    const Formula* breakaway = nullptr; ///< {T, T_d}
    LinearLoad load;
    std::string_view load_label = "Moved mass"; ///< what moves along the line, in the table of inertias
    Term efficiency, back_efficiency;
    Term drag{0.0, ""};         ///< N·m, opposes rotation outside the efficiency
    InertiaPiece turning;       ///< what turns with the shaft; does not cross the efficiency
    double smooth_travel = 0.0; ///< rad over which slope and bend stay smooth enough for one quadrature
  };

  explicit VariableRatio(const Parts& parts) : parts_(parts) {}

  ShaftState at(const LoadState& state, Recorder& recorder) const final;
  /// With the slope where it is greatest within the reach.
  std::vector<InertiaPiece> inertia(const TravelExtremes& reach, Recorder& recorder) const final;
  Term holding_torque(const Rest& rest, Recorder& recorder) const final;
  Term breakaway_torque(const Rest& rest, Recorder& recorder) const final;
  std::vector<double> places(const TravelExtremes& reach, double payload) const final;
  double lever(double position) const final;
  double smooth_travel() const final { return parts_.smooth_travel; }
  bool suspiciously_lossless() const final { return parts_.efficiency == 1.0; }

protected:
  /// dx/dφ in m per rad at a position of the shaft, as the step `id`.
  [[nodiscard]] virtual Term slope(double position, std::string_view id, Recorder& recorder) const = 0;
  /// d²x/dφ² in m per rad², as the step "curvature".
  [[nodiscard]] virtual Term bend(double position, Recorder& recorder) const = 0;
  /// Positions within the reach, besides its ends, where |dx/dφ| may be greatest.
  [[nodiscard]] virtual std::vector<double> steepest(const TravelExtremes& reach) const = 0;

  [[nodiscard]] const Parts& parts() const { return parts_; }

private:
  Parts parts_;
};

} // namespace fulmox
