#pragma once
#include "core/coupling/coupling.hpp"
#include "core/demand/moment.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/project/axis.hpp"
#include "core/requirements/requirements.hpp"
#include "core/stage/stage.hpp"

#include <array>
#include <limits>
#include <memory>
#include <vector>

namespace fulmox {

/// The load's side of an axis at one moment: up to the shaft between gearhead and mechanism.
struct LoadInstant {
  LoadState load;
  double at_mechanism = 0.0; ///< N·m into the mechanism's own shaft
  ShaftState output;         ///< at the gearhead's output, coupling included
  /// Power that crosses an efficiency, from the mechanism to the stage next to the gearhead; 0 where there is
  /// no stage.
  std::array<double, stage_limit + 1> crossings{};
};

/// Part of a piece over which everything on the load's side is smooth, and the power at the gearhead's output
/// keeps its sign: curves and integrals there.
struct LoadStretch : Span {
  std::size_t nodes = 0; ///< Gauss points it was looked at
  /// Place of the first stretch of the cycle that is the same but for its piece; its own where none is. Many
  /// cycles make one move again and again.
  std::size_t like = 0;

  Series output;       ///< N·m, coupling included
  Series speed;        ///< rad/s
  Series acceleration; ///< rad/s²
  Series mechanism;    ///< N·m, into the mechanism's own shaft
  double work = 0.0;   ///< J, ∫T·ω
  double spin = 0.0;   ///< rad²/s², ∫α·ω
  double turns = 0.0;  ///< rad, without sign
  double rush = 0.0;   ///< rad²/s, ∫ω²
  TorqueParts energy;  ///< J, by cause
};

/// Where the magnitudes of some series of the load's side are greatest; of several the first moment.
struct LoadPeaks {
  Moment output, mechanism, speed;
  Moment speeding, slowing; ///< greatest acceleration with and against the cycle's positive way
  double lever = 0.0; ///< m/rad or rad/rad, greatest travel of the load per turn of the mechanism's shaft
  /// The torque into the mechanism, N·m, that a spring before it lets the load lag most under, and the lever
  /// there: with a crank that is not where torque or lever alone is greatest.
  struct {
    double torque = 0.0, lever = 0.0;
  } twist;
  /// The pull of a rope that carries the load, N, while it moves: where it is least, and the greatest; NaN
  /// where there is none.
  struct {
    Moment least{0, 0.0, 0.0, std::numeric_limits<double>::quiet_NaN()};
    double greatest = std::numeric_limits<double>::quiet_NaN();
  } rope;
};

/// The worst at rest, at the gearhead's output, N·m: friction giving no help, and what starts the load.
struct RestTorques {
  double held = 0.0, started = 0.0;
};

/// Everything from the cycle to the shaft between gearhead and mechanism: what stays the same whatever motor,
/// gearhead and drive are tried. Made once, shared by all that are.
class LoadSide {
public:
  /// Refuses what no number alone shows: cycles that do not fit, slack ropes. All entries must be free of
  /// faults.
  static Expected<std::shared_ptr<const LoadSide>> build(const Axis& axis, Recorder& recorder);

  [[nodiscard]] LoadInstant at(std::size_t piece, double tau, Recorder& recorder) const;
  /// The same for any motion and process force, of the cycle or not.
  [[nodiscard]] LoadInstant moved(const LoadState& load, Recorder& recorder) const;

  Cycle cycle;
  std::unique_ptr<Mechanism> mechanism;
  TravelExtremes reach;
  std::vector<Stage> stages; ///< between the coupling and the mechanism, the motor's side first
  Coupling coupling;
  Term journal;                       ///< m, shaft of the mechanism; NaN where not told
  std::vector<LoadStretch> stretches; ///< the whole cycle, in the order of time
  LoadPeaks peaks;
  double inertia = 0.0; ///< kg·m² at the gearhead's output, coupling included
  RestTorques at_rest;
  Requirements asked;
  double gear_cubed = 0.0; ///< gear_weighted() for the usual exponent

private:
  [[nodiscard]] LoadState motion_at(const MotionPiece& piece, double tau, Recorder& recorder) const;
};

/// Cuts the cycle of a load's side: at every corner of a curve and, found as roots of polynomials, wherever
/// the power through a stage or at its output changes sign.
std::vector<LoadStretch> follow_load(const LoadSide& side);
LoadPeaks peaks_of(const LoadSide& side);
RestTorques rest_torques(const LoadSide& side);

} // namespace fulmox
