#include "core/limits/standing.hpp"

#include "core/motor/envelope.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

double derated(double torque, double ambient, double altitude, double mounting) {
  return torque * ambient * altitude * mounting;
}
double mounting_derating(double winding_to_case, double case_to_ambient, double mounting) {
  return std::sqrt((winding_to_case + case_to_ambient) / (winding_to_case + mounting * case_to_ambient));
}

Term mounting_share(const LimitContext& c) {
  const Motor& motor = *c.model.motor;
  const Term& mounting = c.model.surroundings.mounting;
  if (mounting == 1.0) return {1.0, ""};
  // only their relation counts: usual for motors with the winding in iron, from memory
  constexpr Term usual_winding{0.4, ""}, usual_case{0.6, ""};
  const bool known = !std::isnan(motor.winding_to_case) && !std::isnan(motor.case_to_ambient);
  return c.recorder.apply(
      book::mounting_derating, "derate.mounting",
      {known ? motor.winding_to_case : usual_winding, known ? motor.case_to_ambient : usual_case, mounting});
}

} // namespace

Continuous continuous_at(const LimitContext& c, const Term& speed, std::string_view prefix) {
  const Recorder::Scope scope(c.recorder, prefix);
  const double catalogue = c.model.motor->continuous_torque(speed);
  Term ambient{1.0, ""};
  if (!std::isnan(c.model.motor->winding_limit))
    ambient = c.recorder.apply(book::ambient_derating, "derate.ambient", ambient_terms(c.model, speed));
  const Term altitude =
      c.recorder.apply(book::altitude_derating, "derate.altitude", {c.model.surroundings.altitude});
  const Term mounting = mounting_share(c);
  return {c.recorder.apply(book::derated, "motor.continuous", {{catalogue, ""}, ambient, altitude, mounting}),
          speed, ambient * altitude * mounting < 1.0};
}

Term most_motor_torque(const AxisModel& model) {
  const Motor& motor = *model.motor;
  const double amperes = std::fmin(model.drive->peak_current, motor.peak_current);
  Term most{motor.electric() && !std::isnan(amperes) ? motor.most_torque_of_current(amperes) : 0.0, ""};
  if (!(most > 0.0)) most = {motor.standstill_peak(), ""};
  return most;
}

namespace book {
const Formula derated{
    "motor.continuous_derated",
    "Continuous torque where the axis works",
    "T_c",
    "{T}·{k_a}·{k_h}·{k_m}",
    Kind::torque,
    {{"T", "T_c(n)", Kind::torque, "catalogue curve at the thermal speed", range::not_negative},
     {"k_a", "k_a", Kind::share, "derating for ambient temperature", range::share},
     {"k_h", "k_h", Kind::share, "derating for altitude", range::share},
     {"k_m", "k_m", Kind::share, "derating for the mounting", range::share}},
    "common practice",
    calling<&fulmox::derated>};
const Formula mounting_derating{
    "derate.mounting",
    "Derating for the mounting",
    "k_m",
    "√(({R_wc} + {R_ca})/({R_wc} + {m}·{R_ca}))",
    Kind::share,
    {{"R_wc", "R_wc", Kind::thermal_resistance, "winding to case", range::positive},
     {"R_ca", "R_ca", Kind::thermal_resistance, "case to ambient on the catalogue's plate", range::positive},
     {"m", "m", Kind::number, "case to ambient as mounted, over that", {1.0, 10.0}}},
    "heat flow proportional to temperature difference",
    calling<&fulmox::mounting_derating>};
} // namespace book

} // namespace fulmox
