#pragma once
#include "core/brake/brake.hpp"
#include "core/drive/drive.hpp"
#include "core/gearhead/gearhead.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/motion/cycle.hpp"
#include "core/motor/motor.hpp"
#include "core/project/axis.hpp"
#include "core/supply/surroundings.hpp"

#include <array>
#include <memory>

namespace fulmox {

/// Everything about the axis at one moment of its cycle.
struct Instant {
  double time = 0.0;
  std::size_t piece = 0;
  LoadState load;
  double at_mechanism = 0.0; ///< N·m into the mechanism's own shaft
  ShaftState output;         ///< at the shaft between gearhead and mechanism, coupling included
  ShaftState input;          ///< at the gearhead's input, rotor excluded
  Term torque;               ///< N·m at the motor shaft
  TorqueParts parts;         ///< of that torque
  double speed = 0.0;        ///< rad/s, motor
  double acceleration = 0.0; ///< rad/s², motor
  double jerk = 0.0;         ///< m/s³ or rad/s³, load
  double current = 0.0;      ///< A rms, >= 0
  double voltage = 0.0;      ///< V, phase peak needed, winding cold or warm, whichever takes more
  double shaft_power = 0.0;  ///< W
  double bus_power = 0.0;    ///< W, negative when returned
  /// Power that crosses an efficiency, from the mechanism to the gearhead; 0 where there is no stage.
  /// Integrals are split where one changes sign.
  std::array<double, stage_limit + 2> crossings{};

  [[nodiscard]] bool braking() const { return torque * input.direction < 0.0; }
};

/// What a motor takes for a torque at a speed.
struct Electrical {
  double current = 0.0;   ///< A rms, >= 0
  double voltage = 0.0;   ///< V, phase peak needed, winding cold or warm, whichever takes more
  double bus_power = 0.0; ///< W, warm winding; negative when returned
};

class AxisModel;
/// The terms of book::ambient_derating for its motor at a mean speed; the winding's limit must be known.
std::array<Term, 4> ambient_terms(const AxisModel& model, double speed);

/// An axis whose typed values have been read: ask it about any instant.
class AxisModel {
public:
  /// Refuses what no number alone shows: cycles that do not fit, slack ropes. All entries must be free of
  /// faults.
  static Expected<AxisModel> build(const Axis& axis, Recorder& recorder);

  [[nodiscard]] Instant at(std::size_t piece, double tau, Recorder& recorder) const;
  /// The same without jerk and what the motor takes: current, voltage and bus power, which stay 0.
  [[nodiscard]] Instant mechanics_at(std::size_t piece, double tau, Recorder& recorder) const;

  Cycle cycle;
  std::unique_ptr<Mechanism> mechanism;
  Reach reach;
  std::vector<Stage> stages; ///< between the coupling and the mechanism, the motor's side first
  Gearhead gear;
  std::unique_ptr<const Motor> motor;
  Brake brake;
  std::unique_ptr<const Drive> drive;
  Surroundings surroundings;
  /// Turns of the motor per turn of the mechanism's shaft: gearhead and all stages.
  [[nodiscard]] double total_ratio() const;

  Term coupling_inertia;
  Term rotor; ///< motor and brake, kg·m²

  /// For a torque at the motor shaft, its speed and the direction of rotation (0 at rest).
  [[nodiscard]] Electrical electrical(double torque, double speed, double direction) const;
  /// W from the bus for a torque, speed and rms current; without a torque constant what the shaft takes.
  [[nodiscard]] double bus_power(double torque, double speed, double current) const;
  /// Phase voltage and current available at a bus voltage; zero voltage when unknown.
  [[nodiscard]] MotorSupply supply_at(double bus) const;

private:
  [[nodiscard]] LoadState motion_at(const Piece& piece, double tau, Recorder& recorder) const;
};

} // namespace fulmox
