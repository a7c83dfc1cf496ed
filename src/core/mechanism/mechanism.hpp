#pragma once
#include "core/drawing/drawing.hpp"
#include "core/form/slot.hpp"
#include "core/load/piece.hpp"
#include "core/motion/motion_kinds.hpp"
#include "core/rotation/shaft_state.hpp"
#include "core/support/expected.hpp"
#include "core/support/series.hpp"
#include "core/working/recorder.hpp"

#include <cmath>
#include <limits>
#include <memory>
#include <span>
#include <vector>

namespace fulmox {

/// The motion at one instant, at the load, and what this part of the cycle adds to it.
struct LoadState {
  double position = 0.0;  ///< m or rad
  Term speed;             ///< m/s or rad/s
  Term acceleration;      ///< m/s² or rad/s²
  double direction = 0.0; ///< sign of the speed; at the ends of a move that of its inside; 0 at rest
  Term payload{0.0, ""};  ///< kg carried besides the load
  Term process{0.0, ""};  ///< N or N·m of this segment; positive opposes forward motion
};

/// A contribution to the inertia at the mechanism's input shaft.
struct InertiaPiece {
  std::string_view id;
  std::string_view label;
  Term at_own_shaft; ///< kg·m² where it turns; for a moved mass already at the input shaft
  Term at_input;     ///< kg·m²
};

/// The step in which every mechanism ends.
inline constexpr StepName mechanism_torque{"mechanism_torque", "Torque into the mechanism"};

/// What a mechanism meets over the cycle.
struct TravelExtremes {
  double lowest = 0.0, highest = 0.0; ///< m or rad
  Term payload{0.0, ""};              ///< the greatest
  double least_acceleration = 0.0, greatest_acceleration = 0.0;
};

/// The load at rest in one place.
struct Rest {
  double position = 0.0; ///< m or rad
  Term payload{0.0, ""}; ///< kg carried besides the load
  Term process{0.0, ""}; ///< N or N·m of a segment, besides the load's own
  bool pushed = true;    ///< whether the load's own process force acts, too
};

/// The greatest acceleration at which the load stays where it lies. m/s².
struct Grip {
  Term forward, backward;
};

/// What the stroke must fit on.
struct Guide {
  std::string_view name; ///< "the screw"
  Term length;           ///< m
};

/// Where the axis stands and what drives it, for drawing only.
struct Pose {
  double position = 0.0, lowest = 0.0, highest = 0.0;
  double motor_side = 0.06, motor_length = 0.11;
  double gear_side = 0.0, gear_length = 0.0; ///< 0: none fitted
};

/// A mechanism with its load, ready to be asked about any instant.
class Mechanism {
public:
  virtual ~Mechanism() = default;
  [[nodiscard]] virtual ShaftState at(const LoadState& state, Recorder& recorder) const = 0;
  /// Inertia with the payload of the reach, at its worst position.
  [[nodiscard]] virtual std::vector<InertiaPiece> inertia(const TravelExtremes& reach,
                                                          Recorder& recorder) const = 0;
  /// Torque at the input shaft that keeps the load from moving, friction giving no help. N·m. Straight in
  /// payload and process force.
  [[nodiscard]] virtual Term holding_torque(const Rest& rest, Recorder& recorder) const = 0;
  /// Torque at the input shaft that starts the load from rest in the harder direction, static friction
  /// included. N·m.
  [[nodiscard]] virtual Term breakaway_torque(const Rest& rest, Recorder& recorder) const = 0;
  /// Places among which is the one where a load with this payload is hardest to hold: the ends of the reach
  /// where the holding torque runs straight over the position.
  [[nodiscard]] virtual std::vector<double> places(const TravelExtremes& reach, double payload) const;
  /// Travel of what is moved per radian of the input shaft, at a position. m or 1.
  [[nodiscard]] virtual double lever(double position) const;
  /// Kind of the travel of what is moved: an angle where it turns with the input shaft.
  [[nodiscard]] virtual Kind travel() const { return Kind::length; }
  /// A motion this load cannot follow (a slack rope), or nothing.
  [[nodiscard]] virtual std::optional<Problem> refuses(const TravelExtremes&) const { return std::nullopt; }
  /// Whether a loss was to be expected, but none is told.
  [[nodiscard]] virtual bool suspiciously_lossless() const { return false; }
  /// A limit of the mechanism itself where the load drives it: η_b < 0 means self-locking.
  [[nodiscard]] virtual bool self_locking() const { return false; }
  /// Travel over which its laws stay smooth enough for one quadrature; ∞ when position does not matter.
  [[nodiscard]] virtual double smooth_travel() const { return std::numeric_limits<double>::infinity(); }
  /// Whether its forces change with the position alone.
  [[nodiscard]] virtual bool position_matters() const { return std::isfinite(smooth_travel()); }
  /// Spring between its input shaft and what it moves, N·m/rad at that shaft, at the softest place of the
  /// reach; NaN where it is not told.
  [[nodiscard]] virtual Term own_stiffness(const TravelExtremes&, Recorder&) const {
    return {std::numeric_limits<double>::quiet_NaN(), ""};
  }
  /// N across its input shaft, for the greatest torque into it, N·m: what bends that shaft; NaN where it is
  /// not told or the mechanism keeps it in bearings of its own.
  [[nodiscard]] virtual Term shaft_pull(const Term& /*torque*/, Recorder&) const {
    return {std::numeric_limits<double>::quiet_NaN(), ""};
  }
  /// N along its input shaft, likewise: of leaning teeth.
  [[nodiscard]] virtual Term shaft_thrust(const Term& /*torque*/, Recorder&) const {
    return {std::numeric_limits<double>::quiet_NaN(), ""};
  }
  /// N in each span of a belt at rest, and the arm at which it acts, m; NaN where there is none or it is not
  /// told.
  struct Pretension {
    Term force{std::numeric_limits<double>::quiet_NaN(), ""}, arm{0.0, ""};
  };
  [[nodiscard]] virtual Pretension pretension() const { return {}; }
  /// Whether a piece of its inertia turns with the input shaft, before that spring.
  [[nodiscard]] virtual bool turns_with_shaft(std::string_view) const { return false; }
  /// The pull of the rope that carries the load, N, over a stretch: from the torque into the input shaft,
  /// N·m, that shaft's acceleration, rad/s², and the sense in which it turns. Negative where the rope would
  /// have to push; nothing where no rope carries the load.
  [[nodiscard]] virtual std::optional<Series> rope_pull(Series /*torque*/, const Series& /*acceleration*/,
                                                        double /*sense*/) const {
    return std::nullopt;
  }
  /// How hard loose goods may be accelerated; nothing where the load is fastened.
  [[nodiscard]] virtual std::optional<Grip> grip(Recorder&) const { return std::nullopt; }
  /// The input without which the grip of goods cannot be told, "" where none is missing.
  [[nodiscard]] virtual std::string_view missing_grip() const { return ""; }
  /// The part along which the load travels, and the input that tells its length.
  [[nodiscard]] virtual std::optional<Guide> guide() const { return std::nullopt; }
  /// The mechanism to scale, its input shaft at the origin where that makes sense.
  [[nodiscard]] virtual Drawing draw(const Pose& pose) const = 0;
};

/// All that a mechanism is made from.
struct MechanismInput {
  const Section& load;
  const Section& mechanism;
  std::span<const Section> pieces;
};

/// One kind of mechanism: its forms, and how to make a model of it. Registered in mechanism.cpp.
struct MechanismSpec {
  SectionSpec section;
  const SectionSpec& (*load)(); ///< the form of what it moves
  MotionKinds motion;
  bool endless = false; ///< may go on in one direction for ever
  Expected<std::unique_ptr<Mechanism>> (*build)(const MechanismInput& input, Recorder& recorder);
  std::string_view help;
};

std::span<const MechanismSpec* const> mechanism_specs();
const MechanismSpec* find_mechanism(std::string_view id);

/// Any mechanism that is registered; and the load in the terms of its motion.
const SlotSpec& mechanism_slot();
const SlotSpec& load_slot();
/// Adds a mechanism to the registry: for programs that bring their own.
void register_mechanism(const MechanismSpec& spec);

} // namespace fulmox
