#include "core/mechanism/linear_load.hpp"

#include "core/quantity/constants.hpp"
#include "core/quantity/format.hpp"
#include "core/rotation/rotation.hpp"

#include <array>
#include <cmath>
#include <limits>

namespace fulmox {
namespace {

// cos 90° is 6e-17 in floating point; an axis this close to level or upright counts as such
constexpr double flat = 1e-9;
double sign(double value) { return value > flat ? 1.0 : value < -flat ? -1.0 : 0.0; }
constexpr Term gravity{constants::standard_gravity, ""};

/// Sine and cosine of the angle asked for last: an axis asks for its own a thousand times.
struct Slope {
  double angle = std::numeric_limits<double>::quiet_NaN(), sine = 0.0, cosine = 0.0;
};
const Slope& slope_of(double angle) {
  thread_local Slope last;
  if (angle != last.angle) last = {angle, std::sin(angle), std::cos(angle)};
  return last;
}

double force_sum(std::span<const double> forces) {
  double sum = 0.0;
  for (const double force : forces) sum += force;
  return sum;
}

/// |F_static| + μ_s·|m·g·cosθ + F_n| + F_seal
double breakaway_force(double held, double coefficient, double mass, double g, double angle, double pressing,
                       double seal) {
  return std::abs(held) + coefficient * std::abs(mass * g * slope_of(angle).cosine + pressing) + seal;
}

} // namespace

double inertia_force(double mass, double counterweight, double acceleration) {
  return (mass + counterweight) * acceleration;
}

double gravity_force(double mass, double g, double angle) { return mass * g * slope_of(angle).sine; }

double balance_force(double counterweight, double g, double spring, double rate, double position,
                     double angle) {
  const double uphill = sign(slope_of(angle).sine);
  // 0.0 − 0.0 avoids a negative zero on screen
  return 0.0 - uphill * (counterweight * g + spring - uphill * rate * position);
}

double sliding_friction(double direction, double coefficient, double mass, double g, double angle,
                        double pressing, double seal) {
  return direction * (coefficient * std::abs(mass * g * slope_of(angle).cosine + pressing) + seal);
}

double viscous_friction(double coefficient, double speed) { return coefficient * speed; }

namespace book {
namespace {
const Parameter mass{"m", "m", Kind::mass, "moved mass", range::not_negative};
const Parameter g{"g", "g", Kind::acceleration, "standard gravity, ISO 80000-3"};
const Parameter angle{"theta", "θ", Kind::angle, "angle from level, uphill positive"};
const Parameter counterweight{"m_cw", "m_cw", Kind::mass, "counterweight", range::not_negative};
const Parameter pressing{"F_n", "F_n", Kind::force, "force that presses it onto its guides",
                         range::not_negative};
const Parameter seal{"F_seal", "F_seal", Kind::force, "seal drag", range::not_negative};
constexpr std::string_view newton = "Newton's second law";
constexpr std::string_view coulomb = "Coulomb friction";
} // namespace

const Formula inertia_force{
    "force.inertia", "Force that accelerates the mass",
    "F_a",           "({m} + {m_cw})·{a}",
    Kind::force,     {mass, counterweight, {"a", "a", Kind::acceleration, "acceleration"}},
    newton,          calling<&fulmox::inertia_force>};
const Formula gravity_force{"force.gravity",
                            "Weight along the axis",
                            "F_g",
                            "{m}·{g}·sin {theta}",
                            Kind::force,
                            {mass, g, angle},
                            "weight resolved along the incline",
                            calling<&fulmox::gravity_force>};
const Formula balance_force{
    "force.balance",
    "Counterweight and spring",
    "F_b",
    "−s·({m_cw}·{g} + {F_s} − s·{c}·{x}), s = sgn(sin {theta})",
    Kind::force,
    {counterweight,
     g,
     {"F_s", "F_s", Kind::force, "balance spring", range::not_negative},
     {"c", "c", Kind::stiffness, "what the spring loses per distance uphill", range::not_negative},
     {"x", "x", Kind::length, "position from the start of the cycle"},
     angle},
    newton,
    calling<&fulmox::balance_force>};
const Formula sliding_friction{"force.friction",
                               "Guide and seal friction",
                               "F_f",
                               "{s}·({mu}·|{m}·{g}·cos {theta} + {F_n}| + {F_seal})",
                               Kind::force,
                               {{"s", "s", Kind::number, "direction of motion", {-1.0, 1.0}},
                                {"mu", "μ", Kind::number, "friction coefficient", range::not_negative},
                                mass,
                                g,
                                angle,
                                pressing,
                                seal},
                               coulomb,
                               calling<&fulmox::sliding_friction>};
const Formula viscous_friction{"force.viscous",
                               "Viscous friction",
                               "F_v",
                               "{b}·{v}",
                               Kind::force,
                               {{"b", "b", Kind::viscous_friction, "viscous friction", range::not_negative},
                                {"v", "v", Kind::speed, "speed"}},
                               "linear damping",
                               calling<&fulmox::viscous_friction>};
const Formula force_sum{
    "force.linear", "Force on the load", "F",
    "{F}",          Kind::force,         {{"F", "ΣF", Kind::force, "forces along the axis"}},
    newton,         &fulmox::force_sum,  true};
const Formula breakaway_force{
    "force.breakaway",
    "Force that starts the load",
    "F_0",
    "|{F}| + {mu_s}·|{m}·{g}·cos {theta} + {F_n}| + {F_seal}",
    Kind::force,
    {{"F", "F", Kind::force, "force held at rest"},
     {"mu_s", "μ_s", Kind::number, "static friction coefficient", range::not_negative},
     mass,
     g,
     angle,
     pressing,
     seal},
    coulomb,
    calling<&fulmox::breakaway_force>};
} // namespace book

std::span<const Formula* const> linear_load_formulas() {
  static const std::array list{&book::inertia_force,    &book::gravity_force,    &book::balance_force,
                               &book::sliding_friction, &book::viscous_friction, &book::force_sum,
                               &book::breakaway_force};
  return list;
}

namespace {

SectionSpec load_form(std::string_view id, std::string_view angle) {
  return {
      id,
      "Load",
      {optional("moved_mass", "Moved mass", "m", Kind::mass, range::positive,
                "Everything that travels: payload, carriage, nut, cables."),
       needed("angle", "Angle from level", "θ", Kind::angle, {-constants::pi / 2, constants::pi / 2}, angle,
              "90° when forward is straight up, −90° when forward is straight down."),
       needed("friction", "Friction coefficient", "μ", Kind::number, {0.0, 2.0}, "0.01",
              "Rolling guides 0.003–0.01, sliding guides 0.05–0.2 (common practice).")
           .offering({{"0.004 ±50%", "Ball rail, seals extra"},
                      {"0.005 ±40%", "Roller rail, seals extra"},
                      {"0.02 ±50%", "Wheels on a track"},
                      {"0.12 ±50%", "Dovetail, oiled"},
                      {"0.15 ±50%", "Plain bush"}}),
       optional("static_friction", "Static friction", "μ_s", Kind::number, {0.0, 2.0},
                "For breaking away from rest; blank means the same as moving."),
       usually("seal_drag", "Seal drag", "F_seal", Kind::force, range::not_negative, "0 N",
               "Wipers and seals: a force that always opposes motion."),
       optional("viscous", "Viscous friction", "b", Kind::viscous_friction, range::not_negative,
                "Force per speed, for grease or dampers."),
       optional("counterweight", "Counterweight", "m_cw", Kind::mass, range::not_negative,
                "A mass on a rope over a pulley; it is accelerated too."),
       optional("spring", "Balance force", "F_s", Kind::force, range::not_negative,
                "Gas spring or constant-force spring that pulls uphill; its force where the cycle starts."),
       optional("spring_rate", "Balance falls by", "c", Kind::stiffness, range::not_negative,
                "Force a gas spring loses per distance uphill: the difference of its two forces over its "
                "stroke, like 0.2 N/mm. Blank: constant."),
       optional("process_force", "Process force", "F_p", Kind::force, range::any,
                "External force; positive opposes forward motion."),
       optional("normal_force", "Pressed on guides", "F_n", Kind::force, range::not_negative,
                "Force that presses the load onto its guides besides its weight: magnets, wipers, a tilted "
                "head.")}};
}

} // namespace

const SectionSpec& linear_load_section() {
  static const SectionSpec spec = load_form("load", "0 °");
  return spec;
}

const SectionSpec& hanging_load_section() {
  static const SectionSpec spec = load_form("hanging_load", "90 °");
  return spec;
}

Term with_added(const Term& mass, const Term& more, std::string_view id, Recorder& recorder) {
  if (more == 0.0) return mass;
  return mass == 0.0 ? more : recorder.apply(book::mass_sum, id, {mass, more});
}

Expected<LinearLoad> LinearLoad::from(const MechanismInput& input, Recorder& recorder) {
  const Section& load = input.load;
  if (load.blank("moved_mass") && input.pieces.empty())
    return Problem{
        "load.moved_mass", "Moved mass is missing.",
        "Type a value, or build the load from pieces. Everything that travels counts: payload, carriage, "
        "nut, cables."};
  const LoadBody body = put_together(input.pieces, recorder);
  const Term friction = load.term("friction");
  return LinearLoad{with_added(load.term_or("moved_mass", 0.0), body.mass, "load.mass", recorder),
                    load.term("angle"),
                    friction,
                    load.blank("static_friction") ? friction : load.term("static_friction"),
                    load.term_or("seal_drag", 0.0),
                    load.term_or("viscous", 0.0),
                    load.term_or("counterweight", 0.0),
                    load.term_or("spring", 0.0),
                    load.term_or("spring_rate", 0.0),
                    load.term_or("process_force", 0.0),
                    load.term_or("normal_force", 0.0)};
}

LoadMasses LinearLoad::masses(const Term& payload, Recorder& recorder) const {
  const Term all = with_added(mass, payload, "mass_with_payload", recorder);
  return {all, all, all};
}

LoadForces LinearLoad::forces(const LoadState& state, const LoadMasses& m, Recorder& recorder) const {
  LoadForces f;
  f.inertia = recorder.apply<&fulmox::inertia_force>(book::inertia_force, "force_inertia", m.accelerated,
                                                     counterweight, state.acceleration);
  f.gravity =
      recorder.apply<&fulmox::gravity_force>(book::gravity_force, "force_gravity", m.lifted, gravity, angle);
  f.balance =
      recorder.apply<&fulmox::balance_force>(book::balance_force, "force_balance", counterweight, gravity,
                                             spring, spring_rate, Term{state.position, ""}, angle);
  f.sliding = recorder.apply<&fulmox::sliding_friction>(book::sliding_friction, "force_friction",
                                                        Term{state.direction, ""}, friction, m.pressing,
                                                        gravity, angle, normal, seal);
  f.viscous = recorder.apply<&fulmox::viscous_friction>(book::viscous_friction, "force_viscous", viscous,
                                                        state.speed);
  f.process = {process + state.process, process == 0.0 ? state.process.ref : process.ref};
  f.total = recorder.apply(book::force_sum, "force",
                           {f.inertia, f.gravity, f.balance, f.sliding, f.viscous, process, state.process});
  return f;
}

Term LinearLoad::static_force(const LoadMasses& m, const Rest& rest, Recorder& recorder) const {
  const Term weight = recorder.apply(book::gravity_force, "force_gravity", {m.lifted, gravity, angle});
  const Term balance =
      recorder.apply(book::balance_force, "force_balance",
                     {counterweight, gravity, spring, spring_rate, {rest.position, ""}, angle});
  const Term own = rest.pushed ? process : Term{0.0, ""};
  return recorder.apply(book::force_sum, "force", {weight, balance, own, rest.process});
}

Term LinearLoad::breakaway(const LoadMasses& m, const Rest& rest, Recorder& recorder) const {
  const Term held = static_force(m, rest, recorder);
  return recorder.apply(book::breakaway_force, "force_breakaway",
                        {held, static_friction, m.pressing, gravity, angle, normal, seal});
}

std::optional<Problem> LinearLoad::spent_spring(const TravelExtremes& reach) const {
  const double uphill = sign(std::sin(angle));
  const double climb = uphill > 0.0 ? reach.highest : uphill < 0.0 ? -reach.lowest : 0.0;
  if (spring_rate * climb <= spring) return std::nullopt;
  return Problem{"load.spring_rate",
                 "the balance is spent before the load is up: it would have to push back.",
                 "At most " + at_most(spring / climb, Kind::stiffness) + " over the " +
                     format(climb, Kind::length).text() + " it climbs."};
}

std::optional<Problem> LinearLoad::refuses(const TravelExtremes& reach) const {
  if (auto problem = spent_spring(reach)) return problem;
  if (counterweight.value <= 0.0) return std::nullopt;
  const double uphill = sign(std::sin(angle));
  if (uphill == 0.0)
    return Problem{"load.counterweight", "a counterweight does nothing on a level axis.",
                   "Leave it blank, or give the axis an angle."};
  const double fastest = uphill > 0.0 ? reach.greatest_acceleration : -reach.least_acceleration;
  if (fastest > constants::standard_gravity)
    return Problem{"load.counterweight",
                   "its rope goes slack: the load accelerates uphill at " +
                       format(fastest, Kind::acceleration).text() +
                       ", faster than the counterweight can fall.",
                   "Lengthen the ramps, or use a spring instead."};
  return std::nullopt;
}

} // namespace fulmox
