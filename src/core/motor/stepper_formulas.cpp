#include "core/motor/stepper_formulas.hpp"

#include "core/motor/envelope.hpp"
#include "core/motor/pull_out.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {

using std::numbers::pi;
using std::numbers::sqrt2;

Connection connection_of(std::string_view name) {
  if (name == "series") return {2.0, 1.0 / sqrt2, 2.0, 4.0};
  if (name == "parallel") return {1.0, sqrt2, 0.5, 1.0};
  return {};
}

double stepper_constant(double holding_torque, double rated_current) {
  return holding_torque / (sqrt2 * rated_current);
}
double crest_for_rated(double rated_current, double share_on) {
  return std::sqrt(2.0 * share_on) * rated_current;
}
double five_phase_constant(double holding_torque, double rated_current, double worth) {
  return 2.5 * holding_torque / (worth * rated_current);
}
double phase_volts(double volts, double share) { return share * volts; }
double supply_for_both(double crest) { return 2.0 * crest; }
double supply_for_fine(double crest) { return sqrt2 * crest; }
double school_rated(double factor, double resistance, double rated_current) {
  return factor * resistance * rated_current;
}
double school_inductance(double inductance) { return 32.0 * std::sqrt(inductance * 1e3); }
double phase_rms(double crest) { return crest / sqrt2; }
double phase_current_for(double air_gap, double constant, double least_share, double crest) {
  return phase_rms(std::max(least_share * crest, std::abs(air_gap) / constant));
}
double constant_above_rating(double constant, double rated_current, double crest) {
  return constant * crest_for_rated(rated_current) / crest;
}
double turned_current(double air_gap, double k_torque, double k_emf, double resistance, double inductance,
                      double teeth, double speed, double volts) {
  const DqCurrent i = least_current({k_emf, resistance, inductance, teeth}, air_gap / k_torque, speed, volts);
  return phase_rms(std::hypot(i.d, i.q));
}
double turned_torque(double k_torque, double k_emf, double resistance, double inductance, double teeth,
                     double crest, double volts, double speed) {
  return k_torque * best_current({k_emf, resistance, inductance, teeth}, speed, volts, crest, true).q;
}
double step_resonance(double teeth, double holding_torque, double inertia) {
  return std::sqrt(teeth * holding_torque / inertia) / (2.0 * pi);
}
double speed_of_steps(double rate, double steps) { return 2.0 * pi * rate / steps; }
double pulse_rate(double speed, double steps, double microsteps) {
  return speed * steps * microsteps / (2.0 * pi);
}
double pull_in_speed(double teeth, double holding_torque, double inertia, double friction) {
  const double share = friction / holding_torque;
  if (!(share < 1.0)) return 0.0;
  const double left = 4.0 * std::sqrt(1.0 - share * share) - 2.0 * share * (pi - 2.0 * std::asin(share));
  return std::sqrt(teeth * holding_torque / inertia * std::max(0.0, left)) / teeth;
}
double load_angle(double torque, double holding_torque, double teeth) {
  return std::asin(std::min(1.0, std::abs(torque) / holding_torque)) / teeth;
}
double standing_torque(double holding_torque, double share) { return holding_torque * share; }

namespace {
double holding(double constant, double crest) { return constant * crest; }
double pull_out_torque(double k_torque, double k_emf, double resistance, double inductance, double teeth,
                       double crest, double volts, double microsteps, double speed) {
  const auto curve =
      pull_out_curve({k_torque, k_emf, resistance, inductance, teeth, crest, volts, microsteps});
  return (*curve)(speed);
}
double beyond_factor(double torque, double factor) { return torque / factor; }
} // namespace

namespace book {
namespace {
const Parameter teeth{"N", "N_r", Kind::number, "teeth of the rotor", range::positive};
const Parameter hold{"T_h", "T_hold", Kind::torque, "holding torque", range::positive};
const Parameter rated{"I_r", "I_r", Kind::current, "rated current of a phase, both on", range::positive};
const Parameter crest{"I", "I_set", Kind::current, "crest of a phase's current", range::not_negative};
const Parameter inertia{"J", "J", Kind::inertia, "rotor with what is rigidly coupled", range::positive};
const Parameter speed{"omega", "ω", Kind::angular_speed, "mechanical speed", range::not_negative};
const Parameter steps{"S", "S", Kind::number, "full steps a turn", range::positive};
constexpr std::string_view per_turn = "four full steps a tooth with two phases, ten with five";
constexpr std::string_view spring = "rotor in the sine of its load angle";
} // namespace

const Formula stepper_constant{"stepper.constant",
                               "Torque per ampere of a phase",
                               "K",
                               "{T_h}/(√2·{I_r})",
                               Kind::torque_constant,
                               {hold, rated},
                               "two phases at a right angle",
                               calling<&fulmox::stepper_constant>};
const Formula crest_for_rated{
    "stepper.crest_for_rated",
    "Crest that heats like the rating",
    "I_set",
    "√(2·{k})·{I_r}",
    Kind::current,
    {rated, {"k", "k", Kind::number, "share of the phases that the rating has on", {0.1, 1.0}}},
    "the sum of R·i² over the phases is the same for both",
    calling<&fulmox::crest_for_rated>};
const Formula phase_rms{
    "stepper.phase_rms",     "Rms current of a phase",   "I", "{I}/√2", Kind::current, {crest},
    "mean square of a sine", calling<&fulmox::phase_rms>};
const Formula phase_current_for{
    "stepper.phase_current_for",
    "Rms current of a phase",
    "I",
    "max({f}·{I}, |{T}|/{K})/√2",
    Kind::current,
    {{"T", "T_g", Kind::torque, "air-gap torque"},
     {"K", "K", Kind::torque_constant, "torque per ampere of a phase", range::positive},
     {"f", "f_0", Kind::share, "share kept without load", range::share},
     crest},
    "the field stands at a right angle to the rotor",
    calling<&fulmox::phase_current_for>};
const Formula step_resonance{
    "stepper.f_res", "Resonance of rotor and load", "f_res", "√({N}·{T_h}/{J})/2π",
    Kind::frequency, {teeth, hold, inertia},        spring,  calling<&fulmox::step_resonance>};
const Formula speed_of_steps{"stepper.speed_of_steps",
                             "Speed of a step rate",
                             "ω",
                             "2π·{f}/{S}",
                             Kind::angular_speed,
                             {{"f", "f", Kind::frequency, "full steps a second", range::not_negative}, steps},
                             per_turn,
                             calling<&fulmox::speed_of_steps>};
const Formula pulse_rate{"stepper.pulses",
                         "Pulse rate",
                         "f",
                         "{omega}·{S}·{m}/2π",
                         Kind::frequency,
                         {speed, steps, {"m", "m", Kind::number, "microsteps a full step", range::positive}},
                         per_turn,
                         calling<&fulmox::pulse_rate>};
const Formula pull_in_speed{
    "stepper.pull_in",
    "Greatest speed to start at",
    "ω_in",
    "√({T_h}/({N}·{J})·(4·√(1 − τ²) − 2·τ·(π − 2·asin τ))), τ = {T_f}/{T_h}",
    Kind::angular_speed,
    {teeth, hold, inertia, {"T_f", "T_f", Kind::torque, "what holds the rotor back", range::not_negative}},
    "energy of the swing, no damping, finely microstepped",
    calling<&fulmox::pull_in_speed>};
const Formula load_angle{"stepper.load_angle",
                         "Load angle",
                         "δ",
                         "asin(|{T}|/{T_h})/{N}",
                         Kind::angle,
                         {{"T", "T", Kind::torque, "torque asked"}, hold, teeth},
                         spring,
                         calling<&fulmox::load_angle>};
const Formula standing_torque{"stepper.standing",
                              "Holding torque at standing current",
                              "T_st",
                              "{f}·{T_h}",
                              Kind::torque,
                              {{"T_h", "T_hold", Kind::torque, "holding torque", range::positive},
                               {"f", "f", Kind::share, "share of the current kept at rest", range::share}},
                              "torque follows current below saturation",
                              calling<&fulmox::standing_torque>};
const Formula holding_torque{
    "stepper.holding",
    "Holding torque at the current set",
    "T_hold",
    "{K}·{I}",
    Kind::torque,
    {{"K", "K", Kind::torque_constant, "torque per ampere of a phase", range::positive}, crest},
    "torque follows current below saturation",
    calling<&fulmox::holding>};
const Formula pull_out_torque{
    "stepper.pullout",
    "Pull-out torque in the air gap",
    "T_po",
    "crest over the lead of 2·mean({K}·i·sin); i follows {I} within ±{V} − {R}·i − {K_E}·{omega}, {L}, {N}, "
    "{m}",
    Kind::torque,
    {{"K", "K", Kind::torque_constant, "torque per ampere of a phase", range::positive},
     {"K_E", "K_E", Kind::emf_constant, "crest of a phase's back-EMF", range::positive},
     {"R", "R", Kind::resistance, "of a phase", range::positive},
     {"L", "L", Kind::inductance, "of a phase", range::positive},
     teeth,
     crest,
     {"V", "V", Kind::voltage, "on a phase", range::positive},
     {"m", "m", Kind::number, "microsteps a full step", range::positive},
     speed},
    "steady phase current of the averaged chopper, stepped over half a period",
    calling<&fulmox::pull_out_torque>};
const Formula five_phase_constant{
    "stepper.constant_five",
    "Torque per ampere, five phases",
    "K",
    "2.5·{T_h}/({v}·{I_r})",
    Kind::torque_constant,
    {hold,
     {"I_r", "I_r", Kind::current, "rated current of a phase", range::positive},
     {"v", "v", Kind::number, "phases' worth of torque at the rating: 3.078 or 3.236", range::positive}},
    "five phases 72° apart; 2.5·K_ph with sines",
    calling<&fulmox::five_phase_constant>};
const Formula phase_volts{
    "stepper.phase_volts",
    "Crest of a phase's voltage",
    "V",
    "{k}·{V}",
    Kind::voltage,
    {{"V", "V", Kind::voltage, "on the leads", range::not_negative},
     {"k", "k", Kind::number, "share of it that a sine of a phase has", range::positive}},
    "five half bridges; sines, before they are driven into their rails",
    calling<&fulmox::phase_volts>};
const Formula supply_for_both{"stepper.supply_all",
                              "Supply current, all phases",
                              "I_2",
                              "2·{I}",
                              Kind::current,
                              {crest},
                              "common practice; an upper bound with a chopper",
                              calling<&fulmox::supply_for_both>};
const Formula supply_for_fine{"stepper.supply_fine",
                              "Supply current, microstepped",
                              "I_√2",
                              "2·0.707·{I}",
                              Kind::current,
                              {crest},
                              "common practice; sines never take more than 4/π·I",
                              calling<&fulmox::supply_for_fine>};
const Formula school_rated{"stepper.school_rated",
                           "Supply voltage by the winding's rated volts",
                           "V",
                           "{f}·{R}·{I_r}",
                           Kind::voltage,
                           {{"f", "f", Kind::number, "times the rated voltage", range::positive},
                            {"R", "R", Kind::resistance, "of a phase", range::positive},
                            rated},
                           "common practice: ten to fifteen times",
                           calling<&fulmox::school_rated>};
const Formula school_inductance{"stepper.school_inductance",
                                "Supply voltage by the inductance",
                                "V",
                                "32·√({L} in mH)",
                                Kind::voltage,
                                {{"L", "L", Kind::inductance, "of a phase", range::positive}},
                                "common practice: an upper bound",
                                calling<&fulmox::school_inductance>};
const Formula constant_above_rating{
    "stepper.constant_above_rating",
    "Torque per ampere above the rating",
    "K",
    "{K}·√2·{I_r}/{I}",
    Kind::torque_constant,
    {{"K", "K", Kind::torque_constant, "at the rating", range::positive}, rated, crest},
    "saturation: no more torque than rated is counted",
    calling<&fulmox::constant_above_rating>};
const Formula turned_current{
    "stepper.turned_current",
    "Rms current of a phase, field turned ahead",
    "I",
    "√(({T}/{K})² + i_d²)/√2; i_d nearest to 0 with √(({R}·i_d − {N}·{omega}·{L}·{T}/{K})² + ({R}·{T}/{K} + "
    "{N}·{omega}·{L}·i_d + {K_E}·{omega})²) ≤ {V}",
    Kind::current,
    {{"T", "T_g", Kind::torque, "air-gap torque; negative when braking"},
     {"K", "K", Kind::torque_constant, "torque per ampere of a phase", range::positive},
     {"K_E", "K_E", Kind::emf_constant, "crest of a phase's back-EMF", range::positive},
     {"R", "R", Kind::resistance, "of a phase", range::positive},
     {"L", "L", Kind::inductance, "of a phase", range::positive},
     teeth,
     speed,
     {"V", "V", Kind::voltage, "on a phase", range::positive}},
    "voltage equations in rotor coordinates, sine currents",
    calling<&fulmox::turned_current>};
const Formula turned_torque{
    "stepper.turned_torque",
    "Largest air-gap torque at a speed",
    "T_max",
    "{K}·i_q; largest i_q with √(i_d² + i_q²) ≤ {I} and √(({R}·i_d − {N}·{omega}·{L}·i_q)² + ({R}·i_q + "
    "{N}·{omega}·{L}·i_d + {K_E}·{omega})²) ≤ {V}",
    Kind::torque,
    {{"K", "K", Kind::torque_constant, "torque per ampere of a phase", range::positive},
     {"K_E", "K_E", Kind::emf_constant, "crest of a phase's back-EMF", range::positive},
     {"R", "R", Kind::resistance, "of a phase", range::positive},
     {"L", "L", Kind::inductance, "of a phase", range::positive},
     teeth,
     crest,
     {"V", "V", Kind::voltage, "on a phase", range::positive},
     speed},
    "voltage equations in rotor coordinates, sine currents",
    calling<&fulmox::turned_torque>};
const Formula beyond_factor{"stepper.with_factor",
                            "Torque with its factor",
                            "T/S",
                            "{T}/{S}",
                            Kind::torque,
                            {{"T", "T", Kind::torque, "at the shaft", range::not_negative},
                             {"S", "S", Kind::number, "safety factor", range::positive}},
                            "house rule: swings of the rotor and control need room below the curve",
                            calling<&fulmox::beyond_factor>};
} // namespace book

std::span<const Formula* const> stepper_formulas() {
  static const std::array list{&book::stepper_constant,  &book::crest_for_rated,       &book::phase_rms,
                               &book::phase_current_for, &book::step_resonance,        &book::speed_of_steps,
                               &book::pulse_rate,        &book::pull_in_speed,         &book::load_angle,
                               &book::standing_torque,   &book::holding_torque,        &book::pull_out_torque,
                               &book::beyond_factor,     &book::constant_above_rating, &book::turned_current,
                               &book::turned_torque,     &book::five_phase_constant,   &book::phase_volts,
                               &book::supply_for_both,   &book::supply_for_fine,       &book::school_rated,
                               &book::school_inductance};
  return list;
}

} // namespace fulmox
