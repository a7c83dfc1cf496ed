#include "core/mechanism/screw.hpp"

#include "core/mechanism/linear_load.hpp"
#include "core/mechanism/rotation.hpp"
#include "core/quantity/constants.hpp"

#include <array>
#include <cmath>

namespace fulmox {

using constants::pi;
using constants::tau;

double screw_speed(double speed, double lead) { return tau * speed / lead; }
double screw_acceleration(double acceleration, double lead) { return tau * acceleration / lead; }
double screw_torque_driving(double force, double lead, double efficiency) {
  return force * lead / (tau * efficiency);
}
double screw_torque_backdriven(double force, double lead, double back_efficiency) {
  return force * lead * back_efficiency / tau;
}
double screw_torque_rest(double force, double lead) { return force * lead / tau; }
double screw_back_efficiency(double efficiency) { return 2.0 - 1.0 / efficiency; }
double screw_inertia(double density, double length, double diameter) {
  return pi / 32.0 * density * length * std::pow(diameter, 4);
}
double screw_load_inertia(double mass, double lead) { return mass * std::pow(lead / tau, 2); }

namespace book {
namespace {
const Parameter lead{"p", "p", Kind::lead, "lead, travel per turn", range::positive};
const Parameter force{"F", "F", Kind::force, "force along the screw"};
const Parameter efficiency{"eta", "η", Kind::share, "efficiency when driving", range::efficiency};
constexpr std::string_view kinematics = "screw kinematics";
constexpr std::string_view virtual_work = "virtual work on the screw, efficiency with the direction of power";
} // namespace

const Formula screw_speed{"screw.speed",
                          "Screw speed",
                          "ω",
                          "2π·{v}/{p}",
                          Kind::angular_speed,
                          {{"v", "v", Kind::speed, "speed of the load"}, lead},
                          kinematics,
                          calling<&fulmox::screw_speed>};
const Formula screw_acceleration{"screw.acceleration",
                                 "Screw acceleration",
                                 "α",
                                 "2π·{a}/{p}",
                                 Kind::angular_acceleration,
                                 {{"a", "a", Kind::acceleration, "acceleration of the load"}, lead},
                                 kinematics,
                                 calling<&fulmox::screw_acceleration>};
const Formula screw_torque_driving{"screw.torque_driving",
                                   "Screw torque, screw drives load",
                                   "T",
                                   "{F}·{p}/(2π·{eta})",
                                   Kind::torque,
                                   {force, lead, efficiency},
                                   virtual_work,
                                   calling<&fulmox::screw_torque_driving>};
const Formula screw_torque_backdriven{
    "screw.torque_backdriven",
    "Screw torque, load drives screw",
    "T",
    "{F}·{p}·{eta_b}/2π",
    Kind::torque,
    {force, lead, {"eta_b", "η_b", Kind::share, "efficiency when back-driven", {-range::infinity, 1.0}}},
    virtual_work,
    calling<&fulmox::screw_torque_backdriven>};
const Formula screw_torque_rest{"screw.torque_rest",
                                "Screw torque at rest",
                                "T",
                                "{F}·{p}/2π",
                                Kind::torque,
                                {force, lead},
                                "virtual work, friction not counted as help",
                                calling<&fulmox::screw_torque_rest>};
const Formula screw_back_efficiency{"screw.back_efficiency",
                                    "Efficiency when the load drives the screw",
                                    "η_b",
                                    "2 − 1/{eta}",
                                    Kind::share,
                                    {efficiency},
                                    "power-screw approximation, up to 7 % low",
                                    calling<&fulmox::screw_back_efficiency>};
const Formula screw_inertia{"inertia.screw",
                            "Inertia of the screw",
                            "J_s",
                            "(π/32)·{rho}·{L}·{d}⁴",
                            Kind::inertia,
                            {{"rho", "ρ", Kind::density, "density", range::positive},
                             {"L", "L", Kind::length, "length of the screw", range::positive},
                             {"d", "d", Kind::length, "nominal diameter", range::positive}},
                            "solid cylinder of the nominal diameter, a little high",
                            calling<&fulmox::screw_inertia>};
const Formula screw_load_inertia{
    "inertia.screw_load",
    "Moved mass at the screw",
    "J_m",
    "{m}·({p}/2π)²",
    Kind::inertia,
    {{"m", "m", Kind::mass, "moved mass with counterweight", range::not_negative}, lead},
    "equal kinetic energy",
    calling<&fulmox::screw_load_inertia>};
} // namespace book

std::span<const Formula* const> screw_formulas() {
  static const std::array list{&book::screw_speed,          &book::screw_acceleration,
                               &book::screw_torque_driving, &book::screw_torque_backdriven,
                               &book::screw_torque_rest,    &book::screw_back_efficiency,
                               &book::screw_inertia,        &book::screw_load_inertia};
  return list;
}

namespace {

class Screw final : public Mechanism {
public:
  Screw(const Section& load, const Section& screw, Recorder& recorder)
      : load_(LinearLoad::from(load)), lead_(screw.term("lead")), efficiency_(screw.term("efficiency")),
        back_efficiency_(
            screw.blank("back_efficiency")
                ? recorder.apply(book::screw_back_efficiency, "screw.back_efficiency", {efficiency_})
                : screw.term("back_efficiency")),
        drag_(screw.term_or("drag", 0.0)),
        screw_inertia_(
            recorder.apply(book::screw_inertia, "inertia.screw",
                           {screw.term("density"), screw.term("length"), screw.term("diameter")})) {}

  ShaftState at(const LoadState& state, Recorder& recorder) const override {
    ShaftState shaft;
    shaft.direction = state.direction;
    shaft.speed = recorder.apply(book::screw_speed, "screw_speed", {state.speed, lead_});
    shaft.acceleration =
        recorder.apply(book::screw_acceleration, "screw_acceleration", {state.acceleration, lead_});
    const LoadForces f = load_.forces(state.speed, state.acceleration, state.direction, recorder);
    shaft.crossing_power = f.total * state.direction;
    const Term from_force = torque_of(f.total, state.direction, recorder);
    const Term own =
        recorder.apply(book::inertia_torque, "screw_inertia_torque", {screw_inertia_, shaft.acceleration});
    const Term drag = recorder.apply(book::opposing_torque, "screw_drag", {{state.direction, ""}, drag_});
    shaft.torque = recorder.apply(book::torque_sum, "screw_torque", {from_force, own, drag});

    const double arm = lead_ / tau;
    shaft.parts[TorquePart::moved_mass] = f.inertia * arm;
    shaft.parts[TorquePart::gravity] = (f.gravity + f.balance) * arm;
    shaft.parts[TorquePart::friction] = (f.sliding + f.viscous) * arm;
    shaft.parts[TorquePart::process] = f.process * arm;
    shaft.parts[TorquePart::transmission] = own;
    shaft.parts[TorquePart::drag] = drag;
    shaft.parts[TorquePart::losses] = from_force - f.total * arm;
    return shaft;
  }

  std::vector<InertiaPiece> inertia(Recorder& recorder) const override {
    const Term mass = recorder.apply(book::mass_sum, "load.mass_total", {load_.mass, load_.counterweight});
    const Term moved = recorder.apply(book::screw_load_inertia, "inertia.moved_mass", {mass, lead_});
    return {{"moved_mass", "Moved mass", moved, moved}, {"screw", "Screw", screw_inertia_, screw_inertia_}};
  }

  Term holding_torque(Recorder& recorder) const override {
    return recorder.apply(book::screw_torque_rest, "screw_torque", {load_.static_force(recorder), lead_});
  }

  Term breakaway_torque(Recorder& recorder) const override {
    const Term driving = recorder.apply(book::screw_torque_driving, "screw_torque_load",
                                        {load_.breakaway(recorder), lead_, efficiency_});
    return recorder.apply(book::torque_sum, "screw_torque", {driving, drag_});
  }

  std::optional<Problem> refuses(double least_acceleration, double greatest_acceleration) const override {
    return load_.refuses(least_acceleration, greatest_acceleration);
  }

  bool self_locking() const override { return back_efficiency_ < 0.0; }

private:
  Term torque_of(const Term& force, double direction, Recorder& recorder) const {
    const double power = force * direction;
    if (power > 0.0)
      return recorder.apply(book::screw_torque_driving, "screw_torque_load", {force, lead_, efficiency_});
    if (power < 0.0)
      return recorder.apply(book::screw_torque_backdriven, "screw_torque_load",
                            {force, lead_, back_efficiency_});
    return recorder.apply(book::screw_torque_rest, "screw_torque_load", {force, lead_});
  }

  LinearLoad load_;
  Term lead_, efficiency_, back_efficiency_, drag_, screw_inertia_;
};

std::unique_ptr<Mechanism> build(const Section& load, const Section& mechanism, Recorder& recorder) {
  return std::make_unique<Screw>(load, mechanism, recorder);
}

} // namespace

const MechanismSpec& screw_mechanism() {
  using enum FieldType;
  static const MechanismSpec spec{
      {"screw",
       "Ball or lead screw",
       {{"lead",
         "Lead",
         "p",
         quantity,
         Kind::lead,
         range::positive,
         true,
         "10 mm",
         "Travel per turn of the screw.",
         {}},
        {"diameter",
         "Nominal diameter",
         "d",
         quantity,
         Kind::length,
         range::positive,
         true,
         "16 mm",
         "Outside diameter of the thread.",
         {}},
        {"length",
         "Length",
         "L",
         quantity,
         Kind::length,
         range::positive,
         true,
         "500 mm",
         "Overall length of the screw.",
         {}},
        {"density",
         "Density",
         "ρ",
         quantity,
         Kind::density,
         range::positive,
         true,
         "7850 kg/m3",
         "Steel 7850 kg/m³.",
         {}},
        {"efficiency",
         "Efficiency",
         "η",
         quantity,
         Kind::share,
         range::efficiency,
         true,
         "0.9",
         "Driving the load, without preload drag. Ball screws 0.85–0.95, lead screws 0.2–0.7 (common "
         "practice).",
         {}},
        {"back_efficiency",
         "Back-driving efficiency",
         "η_b",
         quantity,
         Kind::share,
         {-range::infinity, 1.0},
         false,
         "",
         "When the load drives the screw. Blank means 2 − 1/η; below 0 the screw locks itself.",
         {}},
        {"drag",
         "Preload, bearings",
         "T_drag",
         quantity,
         Kind::torque,
         range::not_negative,
         false,
         "",
         "Torque that always opposes rotation: preloaded nut, thrust bearing.",
         {}},
        {"journal",
         "End journal diameter",
         "d_j",
         quantity,
         Kind::length,
         range::positive,
         false,
         "",
         "Where the coupling sits; checked against its bores.",
         {}}}},
      &build};
  return spec;
}

} // namespace fulmox
