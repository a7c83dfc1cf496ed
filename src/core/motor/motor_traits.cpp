#include "core/motor/motor_traits.hpp"

#include "core/quantity/constants.hpp"

namespace fulmox {
namespace {

constexpr std::string_view certified =
    "a motor and drive certified for the zone; being without brushes does not make it explosion-proof";
constexpr std::string_view sealed = "IP65 or better and a shaft seal that bears the agents";
constexpr std::string_view airless = "a vacuum winding and grease; no air cools it: take its heat for what "
                                     "the flange alone leads away";
constexpr std::string_view dustless = "a low-dust grease and a housing without a fan";

constexpr std::string_view bearings = "bearings, tens of thousands of hours";
constexpr double bearings_least = 20'000.0, bearings_most = 30'000.0; // h

constexpr std::array<PlaceWord, place_count> brushless_places{
    {{Bears::only_with, certified},
     {Bears::only_with, dustless},
     {Bears::only_with, airless},
     {Bears::only_with, sealed},
     {Bears::only_with, "an encoder made for shocks; a "
                        "resolver bears more"},
     {Bears::yes, ""}}};
/// Steppers are made without anything that breaks on their back.
constexpr std::array<PlaceWord, place_count> bare_places{{{Bears::only_with, certified},
                                                          {Bears::only_with, dustless},
                                                          {Bears::only_with, airless},
                                                          {Bears::only_with, sealed},
                                                          {Bears::yes, "nothing in it breaks"},
                                                          {Bears::yes, ""}}};
constexpr std::array<PlaceWord, place_count> brushed_places{
    {{Bears::no, "brushes spark"},
     {Bears::no, "brushes make dust"},
     {Bears::no, "brushes wear out within hours without moisture and air"},
     {Bears::only_with, "IP65 or better: water in the commutator ends it"},
     {Bears::only_with, "stiff brush springs: bouncing brushes burn"},
     {Bears::no, "brushes spark and make radio noise"}}};

} // namespace

std::array<double, 2> brush_life(double mean_speed, double load) {
  constexpr double fast = 10'000.0 * constants::rpm;
  std::array<double, 2> hours{1000.0, 5000.0};
  if (mean_speed > fast) hours = {100.0, 1000.0};
  if (load > 1.0) hours[0] = 100.0;
  if (load < 0.5) hours[1] *= 2.0;
  return hours;
}

const MotorTraits& servo_traits() {
  static constexpr MotorTraits traits{
      .name = "servo",
      .overload = "It falls behind; the drive stops it with a following error.",
      .noise = "Quiet.",
      .tuning = "Gains must be set, the more carefully the more the load outweighs the rotor and the softer "
                "coupling and gearhead are.",
      .control = "a position loop in drive or controller, by fieldbus in real time or by pulses",
      .life = bearings,
      .life_least = bearings_least,
      .life_most = bearings_most,
      .wires = 3,
      .feedback_wires = 8,
      .place = brushless_places};
  return traits;
}

const MotorTraits& open_stepper_traits() {
  static constexpr MotorTraits traits{
      .name = "open-loop stepper",
      .overload = "It loses steps and nobody is told: the position is wrong until it is homed again.",
      .noise = "Hums, most in its resonance; microsteps soften that.",
      .tuning = "None.",
      .control = "pulses",
      .life = bearings,
      .life_least = bearings_least,
      .life_most = bearings_most,
      .loses_steps = true,
      .place = bare_places};
  return traits;
}

const MotorTraits& closed_stepper_traits() {
  static constexpr MotorTraits traits{
      .name = "closed-loop stepper",
      .overload = "It lags and catches up; beyond a set error, a turn is usual, it gives up with an alarm.",
      .noise = "Hums less than without encoder.",
      .tuning = "Little: works as it comes with most loads.",
      .control = "pulses, or a fieldbus",
      .life = bearings,
      .life_least = bearings_least,
      .life_most = bearings_most,
      .feedback_wires = 8,
      .place = brushless_places};
  return traits;
}

const MotorTraits& five_phase_traits() {
  static constexpr MotorTraits traits{
      .name = "five-phase stepper",
      .overload = "It loses steps and nobody is told: the position is wrong until it is homed again.",
      .noise = "Hums little: finer steps and a weaker resonance than with two phases.",
      .tuning = "None.",
      .control = "pulses",
      .life = bearings,
      .life_least = bearings_least,
      .life_most = bearings_most,
      .loses_steps = true,
      .wires = 5,
      .place = bare_places};
  return traits;
}

const MotorTraits& six_step_traits() {
  static constexpr MotorTraits traits{
      .name = "six-step motor",
      .overload = "The drive holds its current at the limit: it slows down, or stalls.",
      .noise = "Its torque ripples as the phases change, most at low speed.",
      .tuning = "A speed loop is set soon; positions need an encoder and gains like a servo.",
      .control = "a speed or a position loop",
      .life = bearings,
      .life_least = bearings_least,
      .life_most = bearings_most,
      .wires = 3,
      .feedback_wires = 5,
      .place = brushless_places};
  return traits;
}

const MotorTraits& brushed_traits() {
  static constexpr MotorTraits traits{
      .name = "brushed motor",
      .overload = "The drive holds its current at the limit: it slows down, or stalls, and a commutator that "
                  "stands under current burns.",
      .noise = "Brushes are heard, and on the radio.",
      .tuning = "A speed loop is set soon; positions need an encoder and gains like a servo.",
      .control = "a voltage is enough to turn; positions need an encoder",
      .life = "brushes, a wear part to be changed",
      .life_least = 1000.0,
      .life_most = 5000.0,
      .has_brushes = true,
      .wires = 2,
      .place = brushed_places};
  return traits;
}

} // namespace fulmox
