#pragma once
#include "core/drive/drive.hpp"
#include "core/form/section.hpp"
#include "core/form/slot.hpp"
#include "core/motor/motor_traits.hpp"
#include "core/mounting/mounting.hpp"
#include "core/working/recorder.hpp"

#include <cmath>
#include <limits>
#include <memory>
#include <optional>
#include <span>
#include <vector>

namespace fulmox {

inline constexpr Term unknown_term{std::numeric_limits<double>::quiet_NaN(), ""};

/// Straight-line reading of a curve between its points; constant before the first, 0 beyond the last.
double read_curve(std::span<const CurvePoint> curve, double x);

/// What limits the motor at present.
struct MotorSupply {
  double voltage = 0.0;       ///< V the drive can put on the motor: Drive::motor_volts()
  double drive_current = 0.0; ///< A rms, the drive's peak; infinite when no drive is chosen
  bool weakening = false;
};

/// What bounds the peak torque at a speed, N·m; infinite where nothing is known.
struct PeakLimits {
  double catalogue = std::numeric_limits<double>::infinity();
  double current = std::numeric_limits<double>::infinity();
  double voltage = std::numeric_limits<double>::infinity();
  /// The smallest of them, 0 when nothing is known.
  [[nodiscard]] double least() const;
};

/// A result that only some kinds of motor have.
struct MotorResult {
  std::string_view id, label, symbol, help;
  Kind kind = Kind::number;
  Term value;
};

/// Phases that share the copper loss evenly while it turns, and what one of them takes at rest, at the angle
/// that is worst for it, over its even share: 2 at the crest of sine currents.
struct Phases {
  double number = 3.0, at_crest = 2.0;
};

/// A motor with its leads shorted: T = c·ω·(R² + (x_q·ω)²)/(R² + x_d·x_q·ω²)², see core/stops.
struct ShortedMotor {
  double c = 0.0, resistance = 0.0;
  double along = 0.0, across = 0.0; ///< pole pairs times a phase's inductance along and across the magnets
};

/// A motor of any kind, in the core's convention: torques in N·m, speeds in rad/s without sign where nothing
/// else is said, currents in rms ampere of a line. Blank data stay NaN; ask has_… and electric() first.
/// Questions that a kind cannot answer keep the answers given here.
class Motor {
public:
  virtual ~Motor() = default;

  bool chosen = false;      ///< its rotor's inertia is known
  bool leaves_open = false; ///< what one of its numbers means, see core/form/meaning
  Term inertia{0.0, ""}, max_speed = unknown_term, peak_current = unknown_term;
  double hysteresis = 0.0, eddy = 0.0; ///< N·m and N·m·s/rad, friction included
  Term shaft = unknown_term;           ///< m, diameter
  Term shaft_length = unknown_term;    ///< m
  Flange flange{unknown_term, unknown_term};
  unsigned feedback = 0;         ///< bit of feedbacks(); 0 where not told
  Term max_volts = unknown_term; ///< V, of the bus
  /// Where the winding's heat goes: K, K/W and s; NaN where not told.
  Term winding_limit = unknown_term, catalogue_ambient = unknown_term;
  Term winding_to_case = unknown_term, case_to_ambient = unknown_term;
  Term winding_time = unknown_term, case_time = unknown_term;
  Term mass = unknown_term; ///< kg

  [[nodiscard]] double drag(double speed) const { return hysteresis + eddy * std::abs(speed); }
  /// Drag against the rotation; `direction` is that of the move also where its speed is still 0.
  [[nodiscard]] double drag_torque(double speed, double direction) const { return direction * drag(speed); }
  /// Torque in the air gap for a torque at the shaft: drag against the rotation is added once; at rest, where
  /// it could help or hinder, it hinders.
  [[nodiscard]] double air_gap(double shaft_torque, double speed, double direction) const;

  /// Why a drive that feeds like this cannot run it; "" where it can.
  [[nodiscard]] virtual std::string_view refuses(Feed feed) const = 0;

  /// Which ampere its currents are meant in.
  [[nodiscard]] virtual std::string_view ampere() const { return "rms ampere of a line"; }

  // What it takes.

  /// Whether its current follows from what is typed; else current, copper and voltage must not be asked for.
  [[nodiscard]] virtual bool electric() const = 0;
  /// Line current >= 0 for an air-gap torque.
  [[nodiscard]] virtual double current(double air_gap_torque) const = 0;
  /// The same at a speed (signed as the torque where it motors) with `volts` on the motor, 0 where not known:
  /// what heats winding and drive. More than current() where the voltage asks for a weakened field or the
  /// currents of the phases overlap; motoring it rises with torque and speed, braking takes no more.
  [[nodiscard]] virtual double current_at(double air_gap_torque, double /*speed*/, double /*volts*/) const {
    return current(air_gap_torque);
  }
  /// Whether current_at() depends on the speed at all.
  [[nodiscard]] virtual bool speed_shapes_current() const { return false; }
  /// Changes its sign where current_at() takes another law; a polynomial of torque and speed.
  [[nodiscard]] virtual double voltage_left(double /*air_gap_torque*/, double /*speed*/,
                                            double /*volts*/) const {
    return 1.0;
  }
  /// The same where it stands still.
  [[nodiscard]] virtual double rest_current(double air_gap_torque) const { return current(air_gap_torque); }
  /// Whether the drive keeps its current at what is set, whatever the torque: then it falls out of step where
  /// more than its greatest torque is asked.
  [[nodiscard]] virtual bool keeps_current() const { return false; }
  /// Air-gap torque >= 0 of a line current; inverse of current().
  [[nodiscard]] virtual double torque_of_current(double current) const = 0;
  /// The same with magnets as cold as they come: what a stop or a head may meet.
  [[nodiscard]] virtual double most_torque_of_current(double current) const {
    return torque_of_current(current);
  }
  /// Air-gap torques > 0 at which current() has a corner; between them and 0 it is straight.
  [[nodiscard]] virtual std::vector<double> bends() const { return {}; }
  /// Loss in the warm winding, W: of second degree in the current >= 0; 0 where its resistance is unknown.
  [[nodiscard]] virtual double copper(double current) const = 0;
  /// Loss of the winding at its limit that the data sheet allows for ever, standing still, W; NaN where not
  /// told.
  [[nodiscard]] virtual double rated_loss() const;
  /// Whether copper() counts a winding's resistance.
  [[nodiscard]] virtual bool knows_copper() const { return copper(1.0) > 0.0; }
  /// How the copper loss is spread over the phases.
  [[nodiscard]] virtual Phases phases() const { return {}; }
  /// Line current while it runs steadily: what a bench shows, where current_at() is on the safe side. Nothing
  /// where the torque is out of reach.
  [[nodiscard]] virtual std::optional<double> running_current(double air_gap_torque, double speed,
                                                              const MotorSupply& supply) const;
  /// Whether the voltage it needs can be told.
  [[nodiscard]] virtual bool has_circuit() const { return false; }
  /// Volts that a torque in the air gap needs, meant as Drive::motor_volts(); winding cold or warm, whichever
  /// takes more.
  [[nodiscard]] virtual double voltage(double air_gap_torque, double speed, double direction) const;
  /// With its leads shorted, winding cold or hot and magnets hot, where they brake least; nothing where not
  /// known.
  [[nodiscard]] virtual std::optional<ShortedMotor> shorted(bool /*hot_winding*/) const {
    return std::nullopt;
  }
  /// Line-line peak volts at its leads without current; NaN when unknown.
  [[nodiscard]] virtual double emf(double speed) const;

  // What it gives.

  /// The house rule by which the torque asked stays below the largest one; "" where it may be used up.
  [[nodiscard]] virtual std::string_view reserve_rule() const { return ""; }

  /// Whether its largest torque is told, and that torque at standstill; 0 where not.
  [[nodiscard]] virtual bool has_peak() const = 0;
  [[nodiscard]] virtual double standstill_peak() const = 0;
  [[nodiscard]] virtual PeakLimits peak_limits(double speed, const MotorSupply& supply,
                                               bool braking) const = 0;
  /// Largest shaft torque >= 0 at a speed: catalogue, drive current and voltage together.
  [[nodiscard]] double peak_torque(double speed, const MotorSupply& supply, bool braking) const {
    return peak_limits(speed, supply, braking).least();
  }
  /// Not above the largest shaft torque at any speed between two; 0 where nothing is known.
  [[nodiscard]] virtual double least_peak(double slowest, double fastest, const MotorSupply& supply,
                                          bool braking) const;
  /// Speeds at which the largest motoring torque has a corner.
  [[nodiscard]] virtual std::vector<double> peak_corners(const MotorSupply& supply) const;
  /// Whether it is told what the motor gives for ever, and that torque at a speed before derating.
  [[nodiscard]] virtual bool has_continuous() const = 0;
  [[nodiscard]] virtual double continuous_torque(double speed) const = 0;
  /// The points of its curve, N·m over rad/s, where continuous_torque() is what read_curve() reads of them
  /// and nothing else; none otherwise.
  [[nodiscard]] virtual std::span<const CurvePoint> continuous_points() const { return {}; }
  /// The speed up to which anything is told of its torque.
  [[nodiscard]] virtual double fastest_known() const = 0;

  // The same with its working.

  /// The current of an air-gap torque as a step.
  [[nodiscard]] virtual Term record_current(const Term& air_gap, StepName step, Recorder& recorder) const = 0;
  /// current_at() as a step, the speed without sign; negative torques brake.
  [[nodiscard]] virtual Term record_current_at(const Term& air_gap, const Term& speed, const Term& volts,
                                               StepName step, Recorder& recorder) const;
  /// voltage() as a step, the speed in its first term without sign.
  [[nodiscard]] virtual Term record_voltage(double air_gap_torque, double speed, double direction,
                                            StepName step, Recorder& recorder) const;
  /// Whether record_by_voltage() knows the formula behind the voltage's share in the peak torque.
  [[nodiscard]] virtual bool tells_by_voltage(const MotorSupply&, bool /*braking*/) const { return false; }
  /// What the voltage leaves at the shaft while motoring: `volts` the phase voltage available.
  [[nodiscard]] virtual Term record_by_voltage(const Term& speed, const Term& volts,
                                               const MotorSupply& supply, Recorder& recorder) const;
  /// The speed at which the back-EMF alone uses up the phase voltage; nothing where none is told.
  [[nodiscard]] virtual std::optional<Term> record_base_speed(const Term& volts, StepName step,
                                                              Recorder& recorder) const;
  /// What else is worth telling of it at an ambient temperature and a mean speed.
  [[nodiscard]] virtual std::vector<MotorResult> results(const Term& ambient, const Term& mean_speed,
                                                         Recorder& recorder) const;

protected:
  /// Torque constant with hot magnets where they are told, and resistance at the winding's limit.
  static void add_hot(std::vector<MotorResult>& results, const Term& kt, const Term& magnet,
                      const Term& cold_resistance, const Term& warm_resistance);
  /// The fields that every motor's form has, and those for heat where it has them.
  void read_common(const Section& sheet);
};

/// A kind of motor: its form and library, and how to make one. Its own limits and warnings are registered
/// with those of all others (register_limit, register_warning).
struct MotorKind {
  SlotKind slot; ///< its form must have "inertia" and "max_speed"
  std::unique_ptr<const Motor> (*build)(const Section& sheet, const Drive& drive, Recorder& recorder);
  const MotorTraits* traits = nullptr; ///< what else is told of the kind; null where nothing is
};

std::span<const MotorKind* const> motor_kinds();
/// Adds one; what is already there stays.
void register_motor(const MotorKind& kind);
/// A motor of the kind whose form the section is, on its drive.
std::unique_ptr<const Motor> build_motor(const Section& sheet, const Drive& drive, Recorder& recorder);

const SlotSpec& motor_slot();

} // namespace fulmox
