#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// V = m·V_bus/√3: the phase peak voltage a sine drive can make; 0 < m <= 1.15.
double voltage_limit(double bus, double use);
/// P = T·ω + 1.5·I²·R_ll + iron: power at the motor terminals; negative when returned.
double terminal_power(double mechanical, double copper, double iron);
/// P = standby + V_ce·2.70·I_rms: loss of a sine drive, conduction at the device drop V_ce.
double drive_loss(double standby, double device_drop, double current_rms);
/// P = standby + 2·V_ce·|I|: loss of a bridge whose current passes two switches. W.
double bridge_loss(double standby, double device_drop, double current);
/// P = standby + 3.60·V_ce·I: loss of two bridges that carry sines, I the rms current of a phase. W.
double stepper_loss(double standby, double device_drop, double current_rms);
/// V = m·V_bus − 2·V_ce: what a bridge can put between two leads; at least 0.
double bridge_volts(double bus, double use, double device_drop);
/// ΔI = V/(4·f·L), peak to peak, of a bridge that switches a winding of L between its leads at half the
/// voltage. A; V, Hz, H > 0.
double current_swing(double voltage, double frequency, double inductance);
/// Bus voltage after energy E >= 0 went into C > 0: √(V² + 2E/C).
double risen_voltage(double voltage, double energy, double capacitance);
/// (I_pk² − I_cont²)·t_pk: the overload integral at which a drive trips.
double overload_limit(double peak, double continuous, double time);

namespace book {
extern const Formula terminal_power, drive_loss, risen_voltage, overload_limit, bus_current, voltage_limit,
    bridge_loss, bridge_volts, stepper_loss;
}
std::span<const Formula* const> drive_formulas();

} // namespace fulmox
