#pragma once
#include "core/brake/brake.hpp"
#include "core/demand/load_side.hpp"
#include "core/drive/drive.hpp"
#include "core/gearhead/gearhead.hpp"
#include "core/motor/motor.hpp"
#include "core/supply/surroundings.hpp"

#include <array>
#include <memory>

namespace fulmox {

/// Everything about the axis at one moment of its cycle.
struct Instant : LoadInstant {
  double time = 0.0;
  std::size_t piece = 0;
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
  /// As LoadSide::build.
  static Expected<AxisModel> build(const Axis& axis, Recorder& recorder);
  /// Motor, gearhead and drive of an axis on a load's side that is there already.
  static AxisModel on(std::shared_ptr<const LoadSide> load, const Axis& axis, Recorder& recorder);
  /// Works out what follows from the parts below, once all of them are there.
  void settle(Recorder& recorder);

  [[nodiscard]] Instant at(std::size_t piece, double tau, Recorder& recorder) const;
  /// The same without jerk and what the motor takes: current, voltage and bus power, which stay 0.
  [[nodiscard]] Instant mechanics_at(std::size_t piece, double tau, Recorder& recorder) const;
  /// The motor with any load, of the cycle or not: no time, no jerk, brake open.
  [[nodiscard]] Instant driving(const LoadInstant& load, Recorder& recorder) const;

  std::shared_ptr<const LoadSide> load;
  Gearhead gear;
  std::shared_ptr<const Motor> motor;
  Brake brake;
  std::shared_ptr<const Drive> drive;
  Surroundings surroundings;
  /// Turns of the motor per turn of the mechanism's shaft: gearhead and all stages.
  [[nodiscard]] double total_ratio() const;

  Term rotor; ///< motor and brake, kg·m²

  /// For a torque at the motor shaft, its speed and the direction of rotation (0 at rest).
  [[nodiscard]] Electrical electrical(double torque, double speed, double direction) const;
  /// W from the bus for a torque, speed and rms current; without a torque constant what the shaft takes.
  [[nodiscard]] double bus_power(double torque, double speed, double current) const;
  /// The same, the winding's loss at that current known.
  [[nodiscard]] double bus_power(double torque, double speed, double current, double copper) const;
  /// V on the motor at the lowest bus, where the most current is needed; 0 when unknown.
  double least_volts = 0.0;
  /// Line current for an air-gap torque at a speed.
  [[nodiscard]] double current(double air_gap, double speed, double direction) const {
    return direction == 0.0 ? motor->rest_current(air_gap) : motor->current_at(air_gap, speed, least_volts);
  }
  /// Phase voltage and current available at a bus voltage; zero voltage when unknown.
  [[nodiscard]] MotorSupply supply_at(double bus) const;
};

} // namespace fulmox
