#include "core/limits/rotor_warnings.hpp"

#include "core/motor/interior.hpp"
#include "core/quantity/format.hpp"

#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {
namespace {

using Found = std::optional<Warning>;

Found saliency_turned(const LimitContext& c) {
  const auto* motor = dynamic_cast<const InteriorServo*>(c.model.motor.get());
  if (motor == nullptr || motor->inductance_q >= motor->inductance) return std::nullopt;
  return warning("Less inductance across the magnets than along them?",
                 "Magnets inside a rotor leave more iron across them, so the reading is least in line with "
                 "the leads. Such motors exist, but mostly the two readings are mixed up; torque of "
                 "reluctance then counts with the wrong sign.",
                 "motor.inductance_q");
}

Found reluctance_untold(const LimitContext& c) {
  const Section& sheet = c.axis["motor"];
  if (!sheet.has("inductance_q") || sheet.blank("inductance_q")) return std::nullopt;
  if (dynamic_cast<const InteriorServo*>(c.model.motor.get()) != nullptr) return std::nullopt;
  return warning("The torque of reluctance cannot be told",
                 "That needs inductance along the magnets, pole pairs, and Ke (or Kt with the rated current "
                 "it was quoted at). Till then the rotor counts as round with the larger inductance.",
                 "motor.ke");
}

/// −i_d after a sudden short of all leads at full speed without current before, over K/(p·L_d): where it
/// ends, and the swing beyond; 0.3 % of currents stepped in time.
double short_swing(double electrical_speed_over_corner) {
  const double x2 = electrical_speed_over_corner * electrical_speed_over_corner;
  return x2 / (1.0 + x2) * (1.0 + std::exp(-std::numbers::pi / electrical_speed_over_corner));
}

Found demagnetising_short(const LimitContext& c) {
  const auto* motor = dynamic_cast<const ServoMotor*>(c.model.motor.get());
  if (motor == nullptr || !c.model.drive->weakening || !motor->has_circuit()) return std::nullopt;
  const double stands = c.axis["motor"].term_if("demag_current"), speed = c.demand.max_speed;
  if (std::isnan(stands) || !(speed > 0.0)) return std::nullopt;
  const double x = motor->pole_pairs * speed * motor->inductance / motor->resistance;
  const double swing = short_swing(x) * motor->k / (motor->pole_pairs * 0.5 * motor->inductance);
  if (swing <= stands) return std::nullopt;
  return warning("A short of the leads may weaken the magnets for good",
                 "Should the drive short them at top speed, current swings to " +
                     format(swing, Kind::current, c.units).text() + " peak against the magnets; they stand " +
                     format(stands, Kind::current, c.units).text() + ". More after a current that drove it.",
                 "motor.demag_current");
}

} // namespace

std::span<const WarningSpec> rotor_warnings() {
  static constexpr std::array list{WarningSpec{"saliency_turned", &saliency_turned},
                                   WarningSpec{"reluctance_untold", &reluctance_untold},
                                   WarningSpec{"demagnetising_short", &demagnetising_short}};
  return list;
}

} // namespace fulmox
