#pragma once
#include "core/form/section.hpp"
#include "core/form/slot.hpp"

#include <span>

namespace fulmox {

/// The form of a servo drive; also the columns of a drive library.
const SectionSpec& drive_section();
const SlotSpec& drive_slot();

/// I = T/Kt, rms line ampere.
double torque_current(double torque, double kt_rms);
/// P = T·ω + 1.5·I²·R_ll + iron: power at the motor terminals; negative when returned.
double terminal_power(double mechanical, double copper, double iron);
/// P = standby + V_ce·2.70·I_rms: loss of a sine drive, conduction at the device drop V_ce.
double drive_loss(double standby, double device_drop, double current_rms);
/// Bus voltage after energy E >= 0 went into C > 0: √(V² + 2E/C).
double risen_voltage(double voltage, double energy, double capacitance);
/// (I_pk² − I_cont²)·t_pk: the overload integral at which a drive trips.
double overload_limit(double peak, double continuous, double time);

namespace book {
extern const Formula torque_current, terminal_power, drive_loss, risen_voltage, overload_limit, bus_current;
}
std::span<const Formula* const> drive_formulas();

struct Drive {
  bool chosen = false;
  Term continuous_current, peak_current, peak_time, voltage_use, standby, device_drop, capacitance,
      overvoltage, bus_min, bus_max;
  bool weakening = false;

  static Drive from(const Section& section);
};

} // namespace fulmox
