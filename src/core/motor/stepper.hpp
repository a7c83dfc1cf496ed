#pragma once
#include "core/motor/envelope.hpp"
#include "core/motor/motor.hpp"
#include "core/motor/pull_out.hpp"
#include "core/motor/stepper_formulas.hpp"

#include <boost/container/small_vector.hpp>

#include <array>
#include <memory>
#include <optional>
#include <string>

namespace fulmox {

/// Fields that the sheets of all steppers have: what is measured of them, and what the drive sets.
std::vector<FieldSpec> stepper_curve_fields();
std::vector<Problem> check_stepper_tables(const Section& sheet);

const SectionSpec& five_phase_section();
const MotorKind& five_phase_motor();
const SectionSpec& stepper_motor_section();
const MotorKind& stepper_motor();
/// The same motor with an encoder.
const SectionSpec& closed_stepper_section();
const MotorKind& closed_stepper();
/// The fields of its measured curves: voltage and points.
std::span<const std::array<std::string_view, 2>> pull_out_fields();

/// A pull-out curve measured at a voltage, with the current its maker set.
struct PullOutTable {
  double volts = 0.0;
  std::vector<CurvePoint> points; ///< rad/s, N·m at the shaft

  /// At a speed: power runs straight between the points; 0 beyond the last.
  [[nodiscard]] double operator()(double speed) const;
  /// The least at any speed between two.
  [[nodiscard]] double least(double slowest, double fastest) const;
};

/// What sets steppers of two and five phases apart; torque per ampere counts all phases already.
struct PhaseSystem {
  double phases = 2.0;
  double steps_per_tooth = 4.0;
  double on_at_rating = 1.0; ///< share of the phases that carry the rated current
  double volts = 1.0;        ///< crest of a phase's sine over the volts on the leads
  double leads = 1.0;        ///< current of a lead over that of a phase
  /// The most torque follows from sine currents within current and voltage, not from the chopper's wave.
  bool by_sines = false;
};

/// A hybrid stepper of two phases, or five. Open loop (and where an encoder only makes up for lost steps
/// afterwards) its drive keeps the current of the phases at what is set; under control of the load angle the
/// current follows the torque.
class StepperMotor final : public Motor {
public:
  Term teeth{50.0, ""}, holding_rated = unknown_term; ///< N·m, as connected, both phases on
  Term rated_current = unknown_term;                  ///< A of a phase with both on, as connected
  Term k_torque = unknown_term, k_emf = unknown_term; ///< as connected
  Term resistance = unknown_term, inductance = unknown_term, warm_resistance = unknown_term;
  Term crest = unknown_term; ///< A: what the drive sets, else what heats like the rating
  bool crest_is_set = false;
  Term microsteps{1.0, ""}, standing{1.0, ""};
  Term detent{0.0, ""};
  PhaseSystem system;
  bool by_load_angle = false; ///< the loop is closed over the load angle
  bool tells_lost = false;    ///< an encoder notices lost steps
  double least_share = 0.0;   ///< of the crest, kept without load under control of the load angle
  int leads = 4;
  std::string connection;
  std::vector<PullOutTable> tables; ///< rising in voltage

  static StepperMotor from(const Section& sheet, const Drive& drive, Recorder& recorder);
  /// Of a five-phase sheet.
  static StepperMotor five_phase(const Section& sheet, const Drive& drive, Recorder& recorder);

  [[nodiscard]] std::string_view refuses(Feed feed) const override;
  [[nodiscard]] std::string_view ampere() const override { return "rms ampere of a phase"; }
  [[nodiscard]] bool keeps_current() const override { return !by_load_angle; }
  [[nodiscard]] bool electric() const override { return !std::isnan(k_torque) && !std::isnan(crest); }
  /// Without the friction and detent that stop it in the end.
  [[nodiscard]] std::optional<ShortedMotor> shorted(bool hot_winding) const override;
  [[nodiscard]] double current(double air_gap_torque) const override;
  /// Where the voltage does not carry the torque's current alone, the field is turned ahead and takes more.
  [[nodiscard]] double current_at(double air_gap_torque, double speed, double volts) const override;
  [[nodiscard]] bool speed_shapes_current() const override {
    return by_load_angle && (has_model() || !tables.empty());
  }
  /// In the open loop what the phase's steady wave leaves of the current set: less beyond the corner.
  [[nodiscard]] std::optional<double> running_current(double air_gap_torque, double speed,
                                                      const MotorSupply& supply) const override;
  [[nodiscard]] double voltage_left(double air_gap_torque, double speed, double volts) const override;
  [[nodiscard]] double rest_current(double air_gap_torque) const override;
  [[nodiscard]] double torque_of_current(double current) const override;
  [[nodiscard]] std::vector<double> bends() const override;
  /// All phases.
  [[nodiscard]] double copper(double current) const override;

  /// At the rated current.
  [[nodiscard]] double rated_loss() const override { return copper(phase_rms(rated_crest())); }
  /// In full steps of two phases both carry alike, at rest too.
  [[nodiscard]] Phases phases() const override {
    return {system.phases, !by_load_angle && system.phases == 2.0 && microsteps == 1.0 ? 1.0 : 2.0};
  }

  [[nodiscard]] bool has_peak() const override { return electric(); }
  [[nodiscard]] double standstill_peak() const override { return holding(); }
  [[nodiscard]] PeakLimits peak_limits(double speed, const MotorSupply& supply, bool braking) const override;
  [[nodiscard]] double least_peak(double slowest, double fastest, const MotorSupply& supply,
                                  bool braking) const override;
  [[nodiscard]] std::vector<double> peak_corners(const MotorSupply& supply) const override;
  [[nodiscard]] std::string_view reserve_rule() const override {
    return by_load_angle ? "control_factor" : "pullout_factor";
  }
  /// Under control of the load angle: what the rated current makes.
  [[nodiscard]] bool has_continuous() const override { return by_load_angle && electric(); }
  [[nodiscard]] double continuous_torque(double speed) const override;
  [[nodiscard]] double fastest_known() const override;

  [[nodiscard]] Term record_current(const Term& air_gap, StepName step, Recorder& recorder) const override;
  [[nodiscard]] Term record_current_at(const Term& air_gap, const Term& speed, const Term& volts,
                                       StepName step, Recorder& recorder) const override;
  [[nodiscard]] bool tells_by_voltage(const MotorSupply& supply, bool braking) const override;
  [[nodiscard]] Term record_by_voltage(const Term& speed, const Term& volts, const MotorSupply& supply,
                                       Recorder& recorder) const override;
  [[nodiscard]] std::vector<MotorResult> results(const Term& ambient, const Term& mean_speed,
                                                 Recorder& recorder) const override;

  /// Torque at which it yields at rest with the full current set; with what is kept when standing.
  [[nodiscard]] double holding() const { return electric() ? k_torque * crest : 0.0; }
  [[nodiscard]] double holding_standing() const { return standing * holding(); }
  /// Whether winding and back-EMF are known, so that the pull-out curve follows by the model.
  [[nodiscard]] bool has_model() const;
  /// The model at a voltage; has_model() must hold.
  [[nodiscard]] ChoppedStepper machine_at(double volts) const;
  /// Greatest torque at the shaft, N·m >= 0: measured where a table tells it, else by the model less drag;
  /// pull-out in the open loop, and what sine currents placed ahead of the rotor give in the closed one.
  [[nodiscard]] double pull_out_torque(double speed, double volts) const;
  /// Full steps a turn.
  [[nodiscard]] double steps() const { return system.steps_per_tooth * teeth; }
  [[nodiscard]] Term steps_term() const { return {steps(), teeth.ref}; }
  /// Crest of the sine that heats like the rating; NaN where it is not told.
  [[nodiscard]] double rated_crest() const { return crest_for_rated(rated_current, system.on_at_rating); }
  [[nodiscard]] Term record_rated_crest(StepName step, Recorder& recorder) const;
  /// Whether the greatest torque follows from sine currents placed at will.
  [[nodiscard]] bool by_circles() const { return by_load_angle || system.by_sines; }

  /// Its pull-out torque at some volts, all that hangs on no speed looked up once. The motor must outlive it.
  class AtVolts {
  public:
    AtVolts(const StepperMotor& motor, double volts);
    /// N·m >= 0, not above the pull-out torque at any speed between two; at one speed that torque itself.
    [[nodiscard]] double least(double slowest, double fastest) const;

  private:
    struct Model {
      ChoppedStepper machine;
      std::shared_ptr<const PullOutCurve> curve; ///< null where it follows from sine currents placed at will
    };
    /// A measured curve, brought to these volts.
    struct Source {
      const PullOutTable* table;
      double stretched;            ///< its speeds over those asked for
      double share;                ///< of the torque, where two curves count
      double alike, factor;        ///< speed at the table over that here; of its torques
      std::optional<Model> own;    ///< the model there, where there is one
      std::optional<Model> tabled; ///< that at the table's volts and current, where it is another
    };
    [[nodiscard]] Model model_at(double volts) const;
    [[nodiscard]] Model model_of(const ChoppedStepper& machine) const;
    [[nodiscard]] double torque(const Model& model, double speed) const;
    [[nodiscard]] double least(const Source& source, double slowest, double fastest) const;
    void add(const PullOutTable& table, double volts, double stretched, double share);

    const StepperMotor* motor_;
    std::optional<Model> model_; ///< where nothing was measured
    boost::container::small_vector<Source, 2> sources_;
  };
  /// Its greatest torque with a supply; likewise.
  class AtSupply {
  public:
    AtSupply(const StepperMotor& motor, const MotorSupply& supply);
    /// As Motor::least_peak(); at one speed the peak torque.
    [[nodiscard]] double least_peak(double slowest, double fastest) const;

  private:
    double holding_;
    std::optional<AtVolts> by_voltage_;
  };

private:
  /// Ratings as connected, and what is set on the drive.
  void take_settings(const Drive& drive, Recorder& recorder);
  void read_tables(const Section& sheet);
  /// As a machine fed with sines; the winding warm, or cold when braking, where it helps least.
  [[nodiscard]] SineMachine sine_machine(bool braking) const;
  /// Whether that machine can make the current at the voltage, and all of it, crest.
  [[nodiscard]] std::optional<double> sine_current(double current_q, double speed, double volts) const;
};

} // namespace fulmox
