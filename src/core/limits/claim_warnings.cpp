#include "core/limits/claim_warnings.hpp"

#include "core/limits/usual_factor.hpp"
#include "core/motor/dc_fed.hpp"
#include "core/motor/servo.hpp"
#include "core/motor/six_step.hpp"
#include "core/motor/stepper.hpp"
#include "core/quantity/format.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

using Found = std::optional<Warning>;

/// What the rest of the sheet says, cold; NaN where it does not.
struct Sheet {
  double constant = std::nan(""); ///< torque per ampere, N·m/A
  double loss_share = 1.0;        ///< copper = share·R·I²
  double resistance = std::nan(""), inductance = std::nan(""), brush_drop = 0.0;
  [[nodiscard]] double motor_constant() const { return constant / std::sqrt(loss_share * resistance); }
};

Sheet sheet_of(const LimitContext& c) {
  Sheet out;
  const Motor* motor = c.model.motor.get();
  if (const auto* servo = dynamic_cast<const ServoMotor*>(motor)) {
    // of magnets inside a rotor the constant grows with the current: sheets quote it at the rated one
    const double at_rated = servo->straight_torque(servo->rated_current) / servo->rated_current;
    out.constant = (std::isnan(at_rated) ? servo->kt.value : at_rated) / servo->magnet;
    out.loss_share = 1.5;
    out.resistance = servo->resistance;
    out.inductance = servo->inductance;
  } else if (const auto* dc = dynamic_cast<const DcFedMotor*>(motor)) {
    out.constant = dc->k;
    out.resistance = dc->resistance;
    out.brush_drop = dc->brush_drop;
    const auto* blocks = dynamic_cast<const SixStepMotor*>(dc);
    out.inductance =
        blocks != nullptr ? blocks->inductance.value : c.axis["motor"].term_if("inductance").value;
    if (out.inductance == 0.0) out.inductance = std::nan("");
  }
  return out;
}

// Bands and factors: common practice of reading data sheets; factors follow from the conventions themselves.

/// A typed number ("motor.field") against what follows from the rest; silent inside low…high of it, or where
/// either is not known.
Found claim(const LimitContext& c, std::string_view input, Kind kind, double expected, double low,
            double high, std::string_view from, std::initializer_list<UsualFactor> factors) {
  const Section& sheet = c.axis["motor"];
  const std::string_view field = input.substr(std::string_view("motor.").size());
  const double told = sheet.term_if(field);
  const double ratio = told / expected;
  if (!std::isfinite(ratio) || (ratio >= low && ratio <= high)) return std::nullopt;
  const FieldSpec& spec = sheet.spec().fields[*sheet.spec().index_of(field)];
  return warning(std::string(spec.label) + " does not follow from the rest of the sheet",
                 std::string(from) + " " + format(expected, kind, c.units).text() + "; typed is " +
                     significant(ratio) + " times that." + usual_factor(ratio, factors),
                 input);
}

Found km(const LimitContext& c) {
  return claim(
      c, "motor.motor_constant", Kind::motor_constant, sheet_of(c).motor_constant(), 0.9, 1.1,
      "Kt and resistance give a Km of",
      {{0.7071, "A resistance of one phase taken for two leads looks like that, or Kt per rms ampere "
                "with a Km per peak."},
       {1.2247, "The resistance of a delta's winding taken for two leads looks like that."},
       {1.4142, "Kt per peak ampere taken for rms looks like that."}});
}

Found electrical_time(const LimitContext& c) {
  const Sheet s = sheet_of(c);
  return claim(c, "motor.electrical_time", Kind::time, s.inductance / s.resistance, 1.0 / 1.1, 1.1,
               "Inductance over resistance is",
               {{2.0, "One of both belongs to a phase, the other to two leads."},
                {0.5, "One of both belongs to a phase, the other to two leads."},
                {1.5, "One of both belongs to a delta's winding, the other to two leads."},
                {0.6667, "One of both belongs to a delta's winding, the other to two leads."}});
}

Found mechanical_time(const LimitContext& c) {
  const double constant = sheet_of(c).motor_constant();
  const double inertia = c.model.motor->chosen ? c.model.motor->inertia.value : std::nan("");
  return claim(c, "motor.mechanical_time", Kind::time, inertia / (constant * constant), 1.0 / 1.1, 1.1,
               "Rotor inertia over the square of Km is",
               {{2.0, "A resistance of one phase taken for two leads looks like that."},
                {0.6667, "The resistance of a delta's winding taken for two leads looks like that."},
                {0.5, "Kt per peak ampere taken for rms looks like that."},
                {10.0, "g·cm² and kg·cm² are 10 apart in some sheets."},
                {0.1, "g·cm² and kg·cm² are 10 apart in some sheets."}});
}

Found power(const LimitContext& c) {
  const double speed = c.axis["motor"].term_if("rated_speed");
  const Motor& motor = *c.model.motor;
  const double torque = motor.has_continuous() && std::isfinite(speed) ? motor.continuous_torque(speed) : 0.0;
  return claim(c, "motor.rated_power", Kind::power, torque > 0.0 ? torque * speed : std::nan(""), 0.95, 1.05,
               "Continuous torque times rated speed is",
               {{1.0 / 9.80665, "Torque in kgf·m, or rpm taken for rad/s, look like that."},
                {9.80665, "Torque in kgf·m, or rpm taken for rad/s, look like that."},
                {60.0, "Turns a minute and a second mixed up look like that."},
                {1.0 / 60.0, "Turns a minute and a second mixed up look like that."},
                {0.7457, "Horsepower (745.7 W) counted as kilowatt look like that."},
                {1.341, "Horsepower (745.7 W) counted as kilowatt look like that."}});
}

Found no_load(const LimitContext& c) {
  const Sheet s = sheet_of(c);
  const Section& sheet = c.axis["motor"];
  const double current = sheet.term_if("no_load_current"), volts = sheet.term_if("nominal_voltage");
  const double dropped = std::isnan(current) || std::isnan(s.resistance) ? 0.0 : s.resistance * current;
  return claim(c, "motor.no_load_speed", Kind::angular_speed, (volts - s.brush_drop - dropped) / s.constant,
               0.93, 1.05, "Torque constant and nominal voltage let it run at",
               {{1.1547, "A voltage taken line-line for another reach of modulation looks like that."},
                {0.8660, "A voltage taken line-line for another reach of modulation looks like that."},
                {1.7321, "Phase and line-line volts mixed up look like that."},
                {0.5774, "Phase and line-line volts mixed up look like that."},
                {1.4142, "Rms and peak volts mixed up look like that."},
                {0.7071, "Rms and peak volts mixed up look like that."}});
}

Found stall(const LimitContext& c) {
  const Sheet s = sheet_of(c);
  const double volts = c.axis["motor"].term_if("nominal_voltage");
  const double torque = s.constant * (volts - s.brush_drop) / s.resistance - c.model.motor->drag(0.0);
  return claim(c, "motor.stall_torque", Kind::torque, torque, 0.85, 1.10,
               "Torque constant, nominal voltage and resistance give at a stall",
               {{0.70, "A hot winding, or one read with its leads and clips, looks like that."},
                {0.5, "A resistance of half its size looks like that."},
                {2.0, "A resistance of twice its size looks like that."}});
}

Found rated_voltage(const LimitContext& c) {
  const Section& sheet = c.axis["motor"];
  return claim(c, "motor.rated_voltage", Kind::voltage,
               sheet.term_if("resistance") * sheet.term_if("rated_current"), 0.95, 1.05,
               "Resistance times rated current is",
               {{1.4142, "A rating for half coils against one for whole phases looks like that."},
                {0.7071, "A rating for half coils against one for whole phases looks like that."},
                {2.0, "Series and parallel coils mixed up look like that."},
                {0.5, "Series and parallel coils mixed up look like that."},
                {4.0, "Series and parallel coils mixed up look like that."},
                {0.25, "Series and parallel coils mixed up look like that."}});
}

/// K_T/K_E of a stepper: saturation holds the torque per ampere below the back-EMF, by 30 % at most.
Found stepper_constants(const LimitContext& c) {
  const auto* stepper = dynamic_cast<const StepperMotor*>(c.model.motor.get());
  if (stepper == nullptr || c.axis["motor"].blank("ke")) return std::nullopt;
  // of m phases in sine currents T = m/2·K_E·I; torque per ampere counts all of them, the back-EMF is one's
  const double ratio = stepper->k_torque / (0.5 * stepper->system.phases * stepper->k_emf);
  if (!std::isfinite(ratio) || (ratio >= 0.67 && ratio <= 1.05)) return std::nullopt;
  return warning("Holding torque and back-EMF disagree",
                 "Torque per ampere is " + significant(ratio) +
                     " of the back-EMF constant; saturation leaves 0.7 to 1." +
                     usual_factor(ratio, {{1.4142, "Rms volts taken for their crest look like that."},
                                          {2.0, "Volts of half a coil taken for a whole one look like that."},
                                          {0.5, "Peak-to-peak volts taken for the crest look like that."}}),
                 "motor.ke");
}

} // namespace

std::span<const WarningSpec> claim_warnings() {
  static constexpr std::array list{WarningSpec{"sheet_km", &km},
                                   WarningSpec{"sheet_electrical_time", &electrical_time},
                                   WarningSpec{"sheet_mechanical_time", &mechanical_time},
                                   WarningSpec{"sheet_power", &power},
                                   WarningSpec{"sheet_no_load", &no_load},
                                   WarningSpec{"sheet_stall", &stall},
                                   WarningSpec{"sheet_rated_voltage", &rated_voltage},
                                   WarningSpec{"sheet_stepper_constants", &stepper_constants}};
  return list;
}

} // namespace fulmox
