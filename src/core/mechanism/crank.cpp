#include "core/mechanism/crank.hpp"

#include "core/mechanism/mechanisms.hpp"
#include "core/mechanism/variable_ratio.hpp"
#include "core/quantity/constants.hpp"
#include "core/quantity/format.hpp"

#include <boost/math/tools/toms748_solve.hpp>

#include <array>
#include <cmath>

namespace fulmox {

double crank_position(double radius, double rod, double angle) {
  const double s = std::sin(angle);
  return radius * std::cos(angle) + std::sqrt(rod * rod - radius * radius * s * s);
}

double crank_slope(double radius, double rod, double angle) {
  const double s = std::sin(angle), c = std::cos(angle);
  const double root = std::sqrt(rod * rod - radius * radius * s * s);
  return -radius * s - radius * radius * s * c / root;
}

double crank_curvature(double radius, double rod, double angle) {
  const double s = std::sin(angle), c = std::cos(angle);
  const double root = std::sqrt(rod * rod - radius * radius * s * s);
  const double r2 = radius * radius;
  return -radius * c - r2 * (c * c - s * s) / root - r2 * r2 * s * s * c * c / (root * root * root);
}

double steepest_angle(double radius, double rod) {
  std::uintmax_t tries = 80;
  const auto root = boost::math::tools::toms748_solve(
      [&](double angle) { return crank_curvature(radius, rod, angle); }, 0.0, constants::pi,
      boost::math::tools::eps_tolerance<double>(50), tries);
  return 0.5 * (root.first + root.second);
}

namespace {
double breakaway(double torque, double drag) { return std::abs(torque) + drag; }
double slider_speed(double slope, double speed) { return slope * speed; }
double slider_acceleration(double slope, double alpha, double curvature, double omega) {
  return slope * alpha + curvature * omega * omega;
}
double driving(double force, double slope, double efficiency) { return force * slope / efficiency; }
double backdriven(double force, double slope, double back) { return force * slope * back; }
double rest(double force, double slope) { return force * slope; }
double crank_inertia(double mass, double slope) { return mass * slope * slope; }
} // namespace

namespace book {
namespace {
const Parameter radius{"r", "r", Kind::length, "crank radius", range::positive};
const Parameter rod{"l", "l", Kind::length, "rod length, longer than the crank", range::positive};
const Parameter angle{"phi", "φ", Kind::angle, "crank angle from the outer dead centre"};
const Parameter slope{"dx", "dx/dφ", Kind::length, "travel per rad of the crank"};
const Parameter force{"F", "F", Kind::force, "force on the slider"};
constexpr std::string_view geometry = "geometry of the slider-crank";
constexpr std::string_view work = "virtual work, efficiency with the direction of power";
} // namespace
const Formula crank_position{
    "crank.position", "Position of the slider", "x",      "{r}·cos {phi} + √({l}² − {r}²·sin² {phi})",
    Kind::length,     {radius, rod, angle},     geometry, calling<&fulmox::crank_position>};
const Formula crank_slope{
    "crank.slope", "Travel per rad of the crank",
    "dx/dφ",       "−{r}·sin {phi} − {r}²·sin {phi}·cos {phi}/√({l}² − {r}²·sin² {phi})",
    Kind::length,  {radius, rod, angle},
    geometry,      calling<&fulmox::crank_slope>};
const Formula crank_curvature{"crank.curvature", "Second derivative of the travel",
                              "d²x/dφ²",         "derivative of dx/dφ at {phi} for {r}, {l}",
                              Kind::length,      {radius, rod, angle},
                              geometry,          calling<&fulmox::crank_curvature>};
const Formula slider_speed{"crank.slider_speed",
                           "Speed of the slider",
                           "v",
                           "{dx}·{omega}",
                           Kind::speed,
                           {slope, {"omega", "ω", Kind::angular_speed, "speed of the crank"}},
                           geometry,
                           calling<&fulmox::slider_speed>};
const Formula slider_acceleration{"crank.slider_acceleration",
                                  "Acceleration of the slider",
                                  "a",
                                  "{dx}·{alpha} + {ddx}·{omega}²",
                                  Kind::acceleration,
                                  {slope,
                                   {"alpha", "α", Kind::angular_acceleration, "acceleration of the crank"},
                                   {"ddx", "d²x/dφ²", Kind::length, "second derivative of the travel"},
                                   {"omega", "ω", Kind::angular_speed, "speed of the crank"}},
                                  geometry,
                                  calling<&fulmox::slider_acceleration>};
const Formula crank_driving{
    "crank.torque_driving",
    "Crank torque, crank drives slider",
    "T",
    "{F}·{dx}/{eta}",
    Kind::torque,
    {force, slope, {"eta", "η", Kind::share, "efficiency when driving", range::efficiency}},
    work,
    calling<&driving>};
const Formula crank_backdriven{
    "crank.torque_backdriven",
    "Crank torque, slider drives crank",
    "T",
    "{F}·{dx}·{eta_b}",
    Kind::torque,
    {force, slope, {"eta_b", "η_b", Kind::share, "efficiency when back-driven", {-range::infinity, 1.0}}},
    work,
    calling<&backdriven>};
const Formula crank_rest{"crank.torque_rest",
                         "Crank torque at rest",
                         "T",
                         "{F}·{dx}",
                         Kind::torque,
                         {force, slope},
                         "virtual work, friction not counted as help",
                         calling<&rest>};
const Formula crank_breakaway{"crank.breakaway",
                              "Torque that starts the crank",
                              "T_0",
                              "|{T}| + {T_d}",
                              Kind::torque,
                              {{"T", "T", Kind::torque, "torque that starts the slider"},
                               {"T_d", "T_d", Kind::torque, "drag", range::not_negative}},
                              "Coulomb friction",
                              calling<&breakaway>};
const Formula crank_load_inertia{"inertia.crank_load",
                                 "Slider at the crank, where it counts most",
                                 "J",
                                 "{m}·{dx}²",
                                 Kind::inertia,
                                 {{"m", "m", Kind::mass, "reciprocating mass", range::not_negative}, slope},
                                 "equal kinetic energy",
                                 calling<&crank_inertia>};
} // namespace book

std::span<const Formula* const> crank_formulas() {
  static const std::array list{&book::crank_position,   &book::crank_slope,         &book::crank_curvature,
                               &book::slider_speed,     &book::slider_acceleration, &book::crank_driving,
                               &book::crank_backdriven, &book::crank_rest,          &book::crank_load_inertia,
                               &book::crank_breakaway};
  return list;
}

namespace {

/// Below it the slider's acceleration at 90° grows beyond anything a machine could follow.
constexpr double shortest_rod = 1.001;

const ArmFormulas& crank_arm() {
  static const ArmFormulas arm{book::slider_speed,     book::slider_acceleration, book::crank_driving,
                               book::crank_backdriven, book::crank_rest,          book::crank_load_inertia};
  return arm;
}

VariableRatio::Parts parts_of(const Section& crank, const LinearLoad& load, Recorder& recorder) {
  VariableRatio::Parts parts;
  parts.arm = &crank_arm();
  parts.breakaway = &book::crank_breakaway;
  parts.load = load;
  parts.load.mass = with_added(load.mass, crank.term_or("rod_mass", 0.0), "crank.slider_mass", recorder);
  parts.load_label = "Slider";
  parts.efficiency = crank.term("efficiency");
  parts.back_efficiency = back_efficiency_of(crank);
  parts.drag = crank.term_or("drag", 0.0);
  const Term own = crank.term_or("crank_inertia", 0.0);
  parts.turning = {"crank", "Crank", own, own};
  parts.smooth_travel = constants::pi / 16.0;
  return parts;
}

class Crank final : public VariableRatio {
public:
  Crank(const Section& crank, const LinearLoad& load, Recorder& recorder)
      : VariableRatio(parts_of(crank, load, recorder)), radius_(crank.term("radius")),
        rod_(crank.term("rod")), start_(crank.term("start_angle")), steepest_(steepest_angle(radius_, rod_)) {
  }

  Drawing draw(const Pose& pose) const override {
    Drawing d;
    const double angle = start_ + pose.position;
    const double x = crank_position(radius_, rod_, angle);
    const Point pin{radius_ * std::cos(angle), radius_ * std::sin(angle)};
    // a heavy slider must not hide the crank that moves it
    const double side = std::min(carriage_side(parts().load.mass), 1.2 * radius_);
    draw_motor_end(d, pose, {0.0, 0.0});
    d.circle(Ink::hint, {0.0, 0.0}, radius_);
    for (const double end : {rod_ - radius_, rod_ + radius_}) d.box(Ink::reach, {end, 0.0}, side, side);
    d.line(Ink::frame, {rod_ - radius_ - side, -0.6 * side}, {rod_ + radius_ + side, -0.6 * side});
    d.box(Ink::load, {x, 0.0}, side, side);
    d.line(Ink::part, {0.0, 0.0}, pin);
    d.line(Ink::part, pin, {x, 0.0});
    for (const Point& joint : {Point{0.0, 0.0}, pin, Point{x, 0.0}})
      d.circle(Ink::part, joint, 0.06 * radius_);
    d.measure({0.0, 0.0}, pin, 0.3 * radius_, "mechanism.radius", radius_);
    d.measure(pin, {x, 0.0}, 0.3 * radius_, "mechanism.rod", rod_);
    d.measure({rod_ - radius_, 0.0}, {rod_ + radius_, 0.0}, -0.9 * side, "", 2.0 * radius_);
    d.turn(parts().load.angle);
    return d;
  }

protected:
  Term slope(double position, std::string_view id, Recorder& recorder) const override {
    return recorder.apply(book::crank_slope, id, {radius_, rod_, {start_ + position, ""}});
  }

  Term bend(double position, Recorder& recorder) const override {
    return recorder.apply(book::crank_curvature, "curvature", {radius_, rod_, {start_ + position, ""}});
  }

  /// Where the slider's curve bends neither way: once each way in a turn.
  std::vector<double> steepest(const TravelExtremes& reach) const override {
    std::vector<double> all;
    for (const double steep : {steepest_, -steepest_}) {
      const double first = std::ceil((reach.lowest - (steep - start_)) / constants::tau);
      const double place = steep - start_ + first * constants::tau;
      if (place <= reach.highest) all.push_back(place);
    }
    return all;
  }

private:
  Term radius_, rod_, start_;
  double steepest_; ///< rad from the outer dead centre
};

Expected<std::unique_ptr<Mechanism>> build(const MechanismInput& input, Recorder& recorder) {
  const double radius = input.mechanism.term("radius");
  if (input.mechanism.term("rod") < shortest_rod * radius)
    return Problem{"mechanism.rod",
                   "the rod is not longer than the crank, or by so little that it nearly locks at 90°.",
                   "At least " + at_least(shortest_rod * radius, Kind::length) +
                       ", 1.001 times the crank radius; three times it is usual."};
  auto load = LinearLoad::from(input, recorder);
  if (!load) return load.problem();
  if (load->counterweight > 0.0)
    return Problem{"load.counterweight", "a slider-crank carries no counterweight rope.",
                   "Leave it blank, or use the spring."};
  if (load->spring_rate > 0.0)
    return Problem{"load.spring_rate", "the balance of a slider-crank is taken as constant.",
                   "Leave it blank and give the balance force its mean."};
  return made<Crank>(input.mechanism, *load, recorder);
}

std::vector<FieldSpec> fields() {
  std::vector<FieldSpec> all{
      needed("radius", "Crank radius", "r", Kind::length, range::positive, "40 mm", "Half the stroke."),
      needed("rod", "Rod length", "l", Kind::length, range::positive, "140 mm",
             "Between its pins; longer than the crank."),
      needed("start_angle", "Angle at zero", "φ_0", Kind::angle, range::any, "0 deg",
             "Crank angle at position zero; 0 is the outer dead centre, the slider farthest away."),
      optional("crank_inertia", "Inertia of the crank", "J_c", Kind::inertia, range::not_negative,
               "With the share of the rod that turns with the crank pin."),
      optional("rod_mass", "Rod's sliding share", "m_r", Kind::mass, range::not_negative,
               "Share of the rod's mass that moves with the slider, a third to a half.")};
  for (FieldSpec& field : efficiency_fields("0.95", "Of pins and slider: 0.9–0.98 (common practice)."))
    all.push_back(std::move(field));
  all.push_back(drag_field("Crankshaft bearings: always opposes rotation."));
  all.push_back(journal_field());
  return all;
}

} // namespace

const MechanismSpec& crank_mechanism() {
  static const MechanismSpec spec{
      {"crank", "Slider-crank", fields()},
      &linear_load_section,
      turning_against_force,
      true,
      &build,
      "A crank pushes a slider to and fro. Moves are angles of the crank; forces act on the "
      "slider, forward is away from the crank."};
  return spec;
}

} // namespace fulmox
