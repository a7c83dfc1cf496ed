#include "reference/dense_axis.hpp"

#include "core/mechanism/mechanism.hpp"
#include "core/motion/segments.hpp"
#include "reference/numbers.hpp"
#include "support/axes.hpp"

#include <boost/math/quadrature/gauss.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>

namespace fulmox::testing {

namespace {

constexpr double g = 9.80665; // m/s², ISO 80000-3

double sign(double value) { return value > 0.0 ? 1.0 : value < 0.0 ? -1.0 : 0.0; }

/// Acceleration c + A·sin(w·t + p) + j·t over part of a move in unit time.
struct Stroke {
  double length, c, j, amplitude, w, p;
};

/// Accelerations of unit moves, VDI 2143 part 1: 4π²/(4 + π) = 5.52796 and 8π/(2 + π) = 4.88812 are the peaks
/// of the modified sine and the modified trapezoid.
std::vector<Stroke> strokes_of(const std::string& law, double accel, double decel) {
  const double ramps = 1.0 - 0.5 * (accel + decel), up = 1.0 / ramps / accel, down = 1.0 / ramps / decel;
  if (law == "trapezoid" || law == "triangle")
    return {{accel, up, 0, 0, 0, 0}, {1.0 - accel - decel, 0, 0, 0, 0, 0}, {decel, -down, 0, 0, 0, 0}};
  if (law == "s_curve") { // half of each ramp rounded: a quarter in, half level, a quarter out
    const auto ramp = [](double share, double mean) {
      const double a = mean / 0.75, t = 0.25 * share;
      return std::vector<Stroke>{{t, 0, a / t, 0, 0, 0}, {2.0 * t, a, 0, 0, 0, 0}, {t, a, -a / t, 0, 0, 0}};
    };
    std::vector<Stroke> all = ramp(accel, up);
    all.push_back({1.0 - accel - decel, 0, 0, 0, 0, 0});
    for (const Stroke& stroke : ramp(decel, -down)) all.push_back(stroke);
    return all;
  }
  if (law == "cycloidal") return {{1.0, 0, 0, 2.0 * pi, 2.0 * pi, 0.0}};
  if (law == "parabolic") return {{1.0, 6.0, -12.0, 0, 0, 0}};
  if (law == "modified_sine") {
    const double a = 4.0 * pi * pi / (4.0 + pi);
    return {{0.125, 0, 0, a, 4.0 * pi, 0.0},
            {0.75, 0, 0, a, 4.0 * pi / 3.0, pi / 2.0},
            {0.125, 0, 0, a, 4.0 * pi, 1.5 * pi}};
  }
  const double a = 8.0 * pi / (2.0 + pi);
  return {{0.125, 0, 0, a, 4.0 * pi, 0.0},
          {0.25, a, 0, 0, 0, 0},
          {0.25, 0, 0, a, 4.0 * pi, pi / 2.0},
          {0.25, -a, 0, 0, 0, 0},
          {0.125, 0, 0, a, 4.0 * pi, 1.5 * pi}};
}

} // namespace

void DenseAxis::Law::at(double u, double& way, double& speed, double& acceleration) const {
  if (name == "345") {
    way = u * u * u * (10.0 + u * (-15.0 + 6.0 * u));
    speed = u * u * (30.0 + u * (-60.0 + 30.0 * u));
    acceleration = u * (60.0 + u * (-180.0 + 120.0 * u));
    return;
  }
  if (name == "4567") {
    way = u * u * u * u * (35.0 + u * (-84.0 + u * (70.0 - 20.0 * u)));
    speed = u * u * u * (140.0 + u * (-420.0 + u * (420.0 - 140.0 * u)));
    acceleration = u * u * (420.0 + u * (-1680.0 + u * (2100.0 - 840.0 * u)));
    return;
  }
  way = speed = 0.0;
  double left = u;
  for (const Stroke& s : strokes_of(name, accel, decel)) {
    const double t = std::min(left, s.length);
    double v = s.c * t + 0.5 * s.j * t * t, x = 0.5 * s.c * t * t + s.j * t * t * t / 6.0;
    acceleration = s.c + s.j * t;
    if (s.amplitude != 0.0) {
      const double end = s.w * t + s.p, k = s.amplitude / s.w;
      acceleration += s.amplitude * std::sin(end);
      v += k * (std::cos(s.p) - std::cos(end));
      x += k * (std::cos(s.p) * t - (std::sin(end) - std::sin(s.p)) / s.w);
    }
    way += speed * t + x;
    speed += v;
    left -= t;
    if (left <= 0.0) break;
  }
}

std::vector<double> DenseAxis::Law::corners() const {
  std::vector<double> all{0.0};
  if (name != "345" && name != "4567")
    for (const Stroke& s : strokes_of(name, accel, decel)) all.push_back(all.back() + s.length);
  all.back() = 1.0;
  if (all.size() == 1) all = {0.0, 1.0};
  return all;
}

DenseAxis::DenseAxis(unsigned seed, const std::string& mechanism) : engine_(seed), axis_(axis_on(mechanism)) {
  crank_ = mechanism == "crank";
  arm_ = mechanism == "arm";
  turning_ = motion_of(axis_).rotary();
  draw_load(mechanism);
  draw_mechanism(mechanism);
  draw_train();
  draw_motor();
  draw_cycle();
}

double DenseAxis::between(double low, double high) {
  return std::uniform_real_distribution<double>(low, high)(engine_);
}

double DenseAxis::type(Section& section, const char* field, double low, double high, const char* unit) {
  const double value = between(low, high);
  section.type(field, exact(value) + " " + unit);
  return value;
}

void DenseAxis::draw_load(const std::string& mechanism) {
  Section& load = axis_["load"];
  if (turning_ && !crank_) {
    inertia_ = type(load, "inertia", 0.001, 0.5, "kg.m2");
    dry_ = type(load, "friction_torque", 0.0, 1.0, "N.m");
    if (chance(0.5)) wet_ = type(load, "viscous_torque", 0.0, 0.1, "N.m.s/rad");
    if (chance(0.3)) own_process_ = type(load, "process_torque", -2.0, 2.0, "N.m");
    payload_radius_ = type(load, "payload_radius", 0.05, 0.4, "m");
    return;
  }
  mass_ = type(load, "moved_mass", 0.5, 60.0, "kg");
  angle_ = type(load, "angle", -1.5, 1.5, "rad");
  friction_ = type(load, "friction", 0.0, 0.2, "");
  seal_ = type(load, "seal_drag", 0.0, 20.0, "N");
  if (chance(0.5)) viscous_ = type(load, "viscous", 0.0, 60.0, "N.s/m");
  if (chance(0.5) && mechanism != "conveyor") {
    spring_ = type(load, "spring", 150.0, 300.0, "N");
    if (!crank_) rate_ = type(load, "spring_rate", 0.0, 100.0, "N/m");
  }
  if (chance(0.3)) pressed_ = type(load, "normal_force", 0.0, 100.0, "N");
  if (chance(0.3)) own_process_ = type(load, "process_force", -80.0, 80.0, "N");
}

void DenseAxis::draw_mechanism(const std::string& mechanism) {
  Section& m = axis_["mechanism"];
  const auto efficiencies = [&] {
    efficiency_ = type(m, "efficiency", 0.5, 1.0, "");
    back_ = type(m, "back_efficiency", 0.2, 1.0, "");
  };
  if (mechanism == "screw" || mechanism == "power_screw") {
    const double lead = type(m, "lead", 0.004, 0.04, "m"), d = type(m, "diameter", 0.012, 0.04, "m");
    const double length = type(m, "length", 0.3, 1.5, "m"),
                 density = type(m, "density", 7000.0, 8000.0, "kg/m3");
    radius_ = lead / (2.0 * pi);
    own_inertia_ = density * length * pi * std::pow(d, 4) / 32.0; // solid cylinder
    drag_ = type(m, "drag", 0.0, 0.2, "N.m");
    if (mechanism == "screw") return efficiencies();
    const double mean = type(m, "mean_diameter", 0.012, 0.04, "m"), flank = type(m, "flank", 0.0, 0.3, "rad");
    const double mu = type(m, "thread_friction", 0.02, 0.2, "");
    // Shigley, Mechanical Engineering Design, power screws: flank angle in the normal section
    const double tangent = lead / (pi * mean), normal = std::atan(std::tan(flank) / std::hypot(1.0, tangent));
    efficiency_ = (std::cos(normal) - mu * tangent) / (std::cos(normal) + mu / tangent);
    back_ = (std::cos(normal) - mu / tangent) / (std::cos(normal) + mu * tangent);
    if (chance(0.5)) {
      const double friction = type(m, "collar_friction", 0.0, 0.2, "");
      collar_ = 0.5 * friction * type(m, "collar_diameter", 0.02, 0.05, "m");
    }
    return;
  }
  if (mechanism == "table") return;
  if (mechanism == "arm") {
    const double mass = type(m, "mass", 0.5, 5.0, "kg"), centre = type(m, "centre", 0.05, 0.4, "m");
    start_ = type(m, "start_angle", -3.0, 3.0, "rad");
    inertia_ += mass * centre * centre;
    moment_ = mass * centre;
    return;
  }
  efficiencies();
  if (mechanism == "general") {
    load_torque_ = chance(0.5) ? type(m, "load_torque", -2.0, 2.0, "N.m") : 0.0;
    return;
  }
  drag_ = type(m, "drag", 0.0, 0.2, "N.m");
  if (mechanism == "belt") {
    const double teeth = std::round(between(12.0, 60.0)), pitch = type(m, "pitch", 0.003, 0.01, "m");
    m.type("pulley_teeth", exact(teeth));
    radius_ = teeth * pitch / (2.0 * pi);
    own_inertia_ = type(m, "pulley_inertia", 0.0, 5e-4, "kg.m2");
    riding_ = type(m, "belt_mass", 0.1, 2.0, "kg");
    const double idlers = std::round(between(1.0, 3.0)), r = type(m, "idler_radius", 0.01, 0.05, "m");
    m.type("idlers", exact(idlers));
    riding_ += idlers * type(m, "idler_inertia", 0.0, 2e-4, "kg.m2") / (r * r);
  } else if (mechanism == "rack") {
    const double teeth = std::round(between(14.0, 40.0)), module = type(m, "module", 0.001, 0.004, "m");
    m.type("teeth", exact(teeth));
    radius_ = 0.5 * module * teeth / std::cos(type(m, "helix", 0.0, 0.4, "rad"));
    own_inertia_ = type(m, "pinion_inertia", 0.0, 5e-4, "kg.m2");
    riding_lifted_ = type(m, "motor_mass", 0.5, 5.0, "kg");
  } else if (mechanism == "conveyor") {
    radius_ = 0.5 * type(m, "diameter", 0.03, 0.12, "m");
    riding_ = type(m, "belt_mass", 0.5, 5.0, "kg");
    carried_ = 0.5 * riding_;
    own_inertia_ = type(m, "drum_inertia", 0.0, 1e-3, "kg.m2");
  } else if (mechanism == "drum") {
    const double falls = std::round(between(1.0, 4.0));
    m.type("falls", exact(falls));
    radius_ = type(m, "radius", 0.02, 0.1, "m") / falls;
    own_inertia_ = type(m, "drum_inertia", 0.0, 1e-3, "kg.m2");
  } else { // crank
    crank_radius_ = type(m, "radius", 0.02, 0.08, "m");
    rod_ = crank_radius_ * between(1.5, 5.0);
    m.type("rod", exact(rod_) + " m");
    start_ = type(m, "start_angle", -3.0, 3.0, "rad");
    own_inertia_ = type(m, "crank_inertia", 1e-4, 5e-3, "kg.m2");
    mass_ += type(m, "rod_mass", 0.0, 1.0, "kg");
  }
}

void DenseAxis::draw_train() {
  const int count = static_cast<int>(between(0.0, 2.99));
  for (int i = 0; i < count; ++i) {
    Section section(*find_kind(axis_, *find_list("stages"), "gear_pair"));
    const double driving = std::round(between(17.0, 40.0)), driven = std::round(between(17.0, 80.0));
    section.type("driving", exact(driving));
    section.type("driven", exact(driven));
    Stage stage;
    stage.ratio = driven / driving;
    stage.efficiency = type(section, "efficiency", 0.7, 1.0, "");
    stage.back = type(section, "back_efficiency", 0.3, 1.0, "");
    stage.inertia_in = type(section, "input_inertia", 0.0, 1e-3, "kg.m2");
    stage.inertia_out = type(section, "output_inertia", 0.0, 1e-3, "kg.m2");
    stage.drag = type(section, "no_load", 0.0, 0.05, "N.m");
    axis_.stages.push_back(std::move(section));
    train_.insert(train_.begin(), stage); // typed from the motor on
  }
  number_sections(axis_);
  coupling_ = type(axis_["coupling"], "inertia", 0.0, 1e-4, "kg.m2");
  Section& gear = axis_["gearhead"];
  Stage head;
  head.ratio = type(gear, "ratio", 1.0, 10.0, "");
  head.efficiency = type(gear, "efficiency", 0.7, 1.0, "");
  head.back = type(gear, "back_efficiency", 0.3, 1.0, "");
  head.inertia_in = type(gear, "inertia", 0.0, 1e-4, "kg.m2");
  head.drag = type(gear, "no_load", 0.0, 0.05, "N.m");
  head.rise = type(gear, "no_load_rise", 0.0, 2e-4, "N.m.s/rad");
  train_.push_back(head);
}

void DenseAxis::draw_motor() {
  Section& motor = axis_["motor"];
  rotor_ = type(motor, "inertia", 1e-5, 1e-3, "kg.m2");
  kt_ = type(motor, "kt", 0.1, 1.5, "N.m/A");
  motor.type("kt_per", "rms");
  resistance_ = type(motor, "resistance", 0.2, 5.0, "Ohm");
  if (chance(0.5)) hysteresis_ = type(motor, "hysteresis", 0.0, 0.05, "N.m");
  if (chance(0.5)) eddy_ = type(motor, "eddy", 0.0, 1e-4, "N.m.s/rad");
  if (chance(0.6)) { // the maker's peak point lies below Kt times its current
    rated_ = type(motor, "rated_current", 1.0, 10.0, "A");
    peak_ = rated_ * between(2.0, 4.0);
    motor.type("peak_current", exact(peak_) + " A");
    const double peak = kt_ * rated_ + between(0.4, 0.95) * kt_ * (peak_ - rated_);
    motor.type("peak_curve", "0 rad/s: " + exact(peak) + " N.m; 600 rad/s: " + exact(peak) + " N.m");
    peak_air_gap_ = peak + hysteresis_;            // curves are at the shaft
    if (peak_air_gap_ >= kt_ * peak_) peak_ = 0.0; // no less than Kt promises: nothing saturates
  }
  Section& drive = axis_["drive"];
  standby_ = type(drive, "standby", 0.0, 20.0, "W");
  drop_ = type(drive, "device_drop", 0.0, 2.0, "V");
  continuous_ = type(drive, "continuous_current", 1.0, 20.0, "A");
  drive.type("peak_current", exact(10.0 * continuous_) + " A");
  drive.type("peak_time", "2 s");
}

void DenseAxis::draw_process(Segment& segment, Section& section) {
  const bool torque = turning_ && !crank_;
  const double most = torque ? 2.0 : 100.0;
  const std::string unit = torque ? " N.m" : " N";
  if (chance(0.3)) segment.payload = type(section, "payload", 0.1, 10.0, "kg");
  const double kind = between(0.0, 1.0);
  if (kind < 0.5) return;
  if (kind < 0.75 || segment.dwell) {
    segment.process = segment.process_end = between(-most, most);
    section.type("process", exact(segment.process) + unit);
    if (chance(0.5)) {
      segment.process_end = between(-most, most);
      section.type("process_end", exact(segment.process_end) + unit);
    }
    return;
  }
  // a narrow spike somewhere on the way
  const double centre = segment.from + segment.distance * between(0.1, 0.9);
  const double half = std::abs(segment.distance) * std::pow(10.0, between(-3.5, -1.2));
  segment.curve = {{centre - half, 0.0}, {centre, between(-most, most)}, {centre + half, between(-5.0, 5.0)}};
  std::string text;
  for (const auto& [x, f] : segment.curve)
    text += (text.empty() ? "" : "; ") + exact(x) + (turning_ ? " rad: " : " m: ") + exact(f) + unit;
  section.type("process_curve", text);
}

void DenseAxis::draw_cycle() {
  const char* laws[] = {"trapezoid", "triangle",  "s_curve",       "parabolic",         "345",
                        "4567",      "cycloidal", "modified_sine", "modified_trapezoid"};
  const int moves = static_cast<int>(between(1.0, 3.99));
  double place = 0.0;
  for (int i = 0; i <= moves; ++i) {
    Segment s;
    s.from = place;
    s.distance = i == moves ? -place : between(-1.0, 1.0) * (crank_ ? 4.0 : turning_ ? 3.0 : 0.3);
    s.time = std::pow(10.0, between(-0.7, 0.5));
    s.law.name = laws[static_cast<std::size_t>(between(0.0, 8.99))];
    place += s.distance;
    Section move(*find_segment_spec("move", motion_of(axis_)));
    move.type("distance", exact(s.distance) + (turning_ ? " rad" : " m"));
    move.type("time", exact(s.time) + " s");
    move.type("law", s.law.name);
    if (s.law.name == "triangle") s.law.accel = s.law.decel = 0.5;
    if (s.law.name == "trapezoid" && chance(0.5)) {
      s.law.accel = type(move, "acceleration_share", 0.05, 0.6, "");
      s.law.decel = type(move, "deceleration_share", 0.05, 0.39, "");
    }
    draw_process(s, move);
    axis_.cycle.push_back(std::move(move));
    segments_.push_back(s);
    if (!chance(0.5)) continue;
    Segment rest;
    rest.dwell = true;
    rest.from = place;
    rest.time = between(0.05, 1.0);
    Section dwell(*find_segment_spec("dwell", motion_of(axis_)));
    dwell.type("time", exact(rest.time) + " s");
    draw_process(rest, dwell);
    axis_.cycle.push_back(std::move(dwell));
    segments_.push_back(rest);
  }
  number_sections(axis_);
}

double DenseAxis::process_at(const Segment& segment, double share, double position) const {
  const auto& curve = segment.curve;
  if (curve.empty()) return segment.process + share * (segment.process_end - segment.process);
  if (position <= curve.front().first) return curve.front().second;
  for (std::size_t i = 1; i < curve.size(); ++i)
    if (position <= curve[i].first) {
      const double u = (position - curve[i - 1].first) / (curve[i].first - curve[i - 1].first);
      return curve[i - 1].second + u * (curve[i].second - curve[i - 1].second);
    }
  return curve.back().second;
}

double DenseAxis::force(double position, double speed, double acceleration, double direction, double payload,
                        double process) const {
  const double body = mass_ + payload + riding_lifted_;
  const double uphill = sign(std::sin(angle_));
  const double balance = -uphill * (spring_ - uphill * rate_ * position);
  const double pressing = std::abs((body + carried_) * g * std::cos(angle_) + pressed_);
  return (body + riding_) * acceleration + body * g * std::sin(angle_) + balance +
         direction * (friction_ * pressing + seal_) + viscous_ * speed + own_process_ + process;
}

double DenseAxis::crank_slope(double angle) const {
  const double s = std::sin(angle), c = std::cos(angle);
  return -crank_radius_ * s - crank_radius_ * crank_radius_ * s * c /
                                  std::sqrt(rod_ * rod_ - crank_radius_ * crank_radius_ * s * s);
}

double DenseAxis::mechanism_torque(double x, double v, double a, double direction, double payload,
                                   double process, unsigned& signs) const {
  const auto note = [&](double value) {
    signs = 3 * signs + static_cast<unsigned>(1 + static_cast<int>(sign(value)));
  };
  const auto through = [&](double torque) { // what the efficiency makes of it
    note(torque * direction);
    return torque * direction > 0.0   ? torque / efficiency_
           : torque * direction < 0.0 ? torque * back_
                                      : torque;
  };
  if (crank_) {
    const double angle = start_ + x, slope = crank_slope(angle), r = crank_radius_;
    const double s = std::sin(angle), c = std::cos(angle), q = std::sqrt(rod_ * rod_ - r * r * s * s);
    const double bend = -r * c - r * r * ((c * c - s * s) / q + r * r * s * s * c * c / (q * q * q));
    note(slope);
    const double f =
        force(0.0, slope * v, slope * a + bend * v * v, direction * sign(slope), payload, process);
    return through(f * slope) + own_inertia_ * a + direction * drag_;
  }
  if (turning_) {
    const double weight =
        arm_ ? g * (moment_ + payload * payload_radius_) * std::cos(start_ + x) : load_torque_;
    return through((inertia_ + payload * payload_radius_ * payload_radius_) * a + direction * dry_ +
                   wet_ * v + weight + own_process_ + process);
  }
  const double f = force(x, v, a, direction, payload, process);
  if (collar_ > 0.0) note(f);
  return through(f * radius_) + own_inertia_ * a / radius_ + direction * (drag_ + std::abs(f) * collar_);
}

DenseState DenseAxis::at(std::size_t index, double tau) const {
  const Segment& s = segments_[index];
  DenseState out;
  double way = 0.0, v = 0.0, a = 0.0;
  if (!s.dwell) s.law.at(tau / s.time, way, v, a);
  const double x = out.position = s.from + s.distance * way;
  v *= s.distance / s.time;
  a *= s.distance / (s.time * s.time);
  const double direction = s.dwell ? 0.0 : sign(s.distance);
  const double process = process_at(s, s.dwell ? tau / s.time : way, x);
  double torque = mechanism_torque(x, v, a, direction, s.payload, process, out.signs);
  const auto note = [&](double value) {
    out.signs = 3 * out.signs + static_cast<unsigned>(1 + static_cast<int>(sign(value)));
  };
  double speed = turning_ ? v : v / radius_, acceleration = turning_ ? a : a / radius_;
  for (std::size_t k = 0; k < train_.size(); ++k) {
    const Stage& stage = train_[k];
    if (k + 1 == train_.size()) out.output = torque += coupling_ * acceleration;
    torque += stage.inertia_out * acceleration;
    speed *= stage.ratio;
    acceleration *= stage.ratio;
    const double power = torque * direction;
    note(power);
    torque = torque / stage.ratio * (power > 0.0 ? 1.0 / stage.efficiency : power < 0.0 ? stage.back : 1.0);
    torque += stage.inertia_in * acceleration + direction * stage.drag + stage.rise * speed;
  }
  torque += rotor_ * acceleration;
  const double against = direction != 0.0 ? direction : sign(torque);
  const double gap = torque + against * (hysteresis_ + eddy_ * std::abs(speed));
  out.current = std::abs(gap) / kt_;
  if (peak_ > 0.0 && std::abs(gap) > kt_ * rated_)
    out.current = rated_ + (std::abs(gap) - kt_ * rated_) * (peak_ - rated_) / (peak_air_gap_ - kt_ * rated_);
  out.torque = torque;
  out.speed = speed;
  out.bus = torque * speed + 1.5 * out.current * out.current * resistance_ +
            (hysteresis_ + eddy_ * std::abs(speed)) * std::abs(speed) + standby_ + drop_ * 2.70 * out.current;
  note(torque);
  note(gap);
  note(out.bus);
  note(out.current - rated_);
  note(out.current - continuous_);
  return out;
}

std::vector<double> DenseAxis::corners(const Segment& segment) const {
  if (segment.dwell) return {0.0, segment.time};
  std::vector<double> all;
  for (const double u : segment.law.corners()) all.push_back(u * segment.time);
  for (const auto& [x, f] : segment.curve) {
    const double share = (x - segment.from) / segment.distance;
    if (!(share > 0.0 && share < 1.0)) continue;
    double low = 0.0, high = 1.0, way = 0.0, v = 0.0, a = 0.0;
    for (int i = 0; i < 60; ++i) {
      const double middle = 0.5 * (low + high);
      segment.law.at(middle, way, v, a);
      (way < share ? low : high) = middle;
    }
    all.push_back(0.5 * (low + high) * segment.time);
  }
  std::sort(all.begin(), all.end());
  return all;
}

namespace {

/// The greatest value of a smooth curve near three places in a row, the middle one not less than the others.
double top_of(const std::function<double(double)>& f, double low, double high) {
  for (int i = 0; i < 60; ++i) {
    const double a = low + 0.382 * (high - low), b = low + 0.618 * (high - low);
    (f(a) < f(b) ? low : high) = f(a) < f(b) ? a : b;
  }
  return f(0.5 * (low + high));
}

std::array<double, 4> sizes(const DenseState& now) {
  return {std::abs(now.torque), std::abs(now.speed), now.current, now.bus};
}

} // namespace

/// Where no sign changes: its looks, rising, ends included.
struct DenseAxis::Part {
  std::size_t segment;
  std::array<double, 12> times;
  std::array<std::array<double, 4>, 12> values;
  bool one_sign = true; ///< at all looks
};

void DenseAxis::peaks(const std::vector<Part>& parts, DenseSums& sums) const {
  std::array<double, 4> best{0.0, 0.0, 0.0, -1e300};
  for (const Part& part : parts)
    for (const auto& value : part.values)
      for (std::size_t q = 0; q < 4; ++q) best[q] = std::max(best[q], value[q]);
  const std::array<double, 4> seen = best;
  for (const Part& part : parts)
    for (std::size_t q = 0; q < 4; ++q)
      for (std::size_t k = 0; k < part.times.size(); ++k) {
        const std::size_t left = k == 0 ? 0 : k - 1, right = std::min(k + 1, part.times.size() - 1);
        const double here = part.values[k][q];
        if (here < part.values[left][q] || here < part.values[right][q] || here < 0.9 * seen[q]) continue;
        const auto f = [&](double tau) { return sizes(at(part.segment, tau))[q]; };
        best[q] = std::max(best[q], top_of(f, part.times[left], part.times[right]));
      }
  sums.peak_torque = best[0];
  sums.peak_speed = best[1];
  sums.peak_current = best[2];
  sums.peak_bus = best[3];
}

DenseAxis::Part DenseAxis::add(std::size_t segment, double from, double to, DenseSums& sums,
                               double& gain) const {
  using Rule = boost::math::quadrature::gauss<double, 10>;
  Part part{segment, {}, {}};
  std::size_t count = 0;
  unsigned signs = 0;
  const double inset = 1e-9 * (to - from); // an end may lie on a corner
  const auto look = [&](double tau) {
    const DenseState now = at(segment, tau);
    part.times[count] = tau;
    part.values[count++] = sizes(now);
    if (count == 1) signs = now.signs;
    part.one_sign = part.one_sign && now.signs == signs;
    return now;
  };
  look(from + inset);
  double shaft = 0.0, bus = 0.0;
  for (int k = -5; k < 5; ++k) {
    const auto i = static_cast<std::size_t>(k < 0 ? -k - 1 : k);
    const double x = (k < 0 ? -1.0 : 1.0) * Rule::abscissa()[i];
    const DenseState now = look(0.5 * (from + to) + 0.5 * (to - from) * x);
    const double w = 0.5 * (to - from) * Rule::weights()[i];
    sums.torque_squared += w * now.torque * now.torque;
    sums.current_squared += w * now.current * now.current;
    sums.turns += w * std::abs(now.speed);
    sums.gear_cubed += w * std::pow(std::abs(now.output), 3.0) * std::abs(now.speed);
    shaft += w * now.torque * now.speed;
    bus += w * now.bus;
    gain += w * (now.current * now.current - continuous_ * continuous_);
  }
  look(to - inset);
  (shaft > 0.0 ? sums.driven : sums.returned) += std::abs(shaft);
  (bus > 0.0 ? sums.drawn : sums.given_back) += std::abs(bus);
  return part;
}

DenseSums& DenseSums::operator+=(const DenseSums& other) {
  for (double DenseSums::*sum :
       {&DenseSums::torque_squared, &DenseSums::current_squared, &DenseSums::turns, &DenseSums::driven,
        &DenseSums::returned, &DenseSums::drawn, &DenseSums::given_back, &DenseSums::gear_cubed})
    this->*sum += other.*sum;
  return *this;
}

DenseSums DenseAxis::integrate(int count) const {
  DenseSums sums;
  std::vector<double> gains; // of the overload integral, in order
  std::vector<Part> parts;
  for (std::size_t i = 0; i < segments_.size(); ++i) {
    const std::function<void(double, double, int)> cut = [&](double from, double to, int depth) {
      DenseSums more;
      double gain = 0.0;
      const Part part = add(i, from, to, more, gain);
      if (depth < 26 && !part.one_sign) {
        cut(from, 0.5 * (from + to), depth + 1);
        cut(0.5 * (from + to), to, depth + 1);
        return;
      }
      parts.push_back(part);
      sums += more;
      gains.push_back(gain);
    };
    const std::vector<double> ends = corners(segments_[i]);
    const int pieces = segments_[i].dwell ? 2 : count;
    for (std::size_t k = 1; k < ends.size(); ++k)
      for (int p = 0; p < pieces && ends[k] > ends[k - 1]; ++p)
        cut(ends[k - 1] + (ends[k] - ends[k - 1]) * p / pieces,
            ends[k - 1] + (ends[k] - ends[k - 1]) * (p + 1) / pieces, 0);
    sums.time += segments_[i].time;
  }
  peaks(parts, sums);
  double level = 0.0, sum = 0.0;
  for (const double gain : gains) sum += gain;
  if (sum > 0.0) sums.overload = HUGE_VAL;
  for (int round = 0; round < 2 && sum <= 0.0; ++round)
    for (const double gain : gains) {
      level = std::max(0.0, level + gain);
      sums.overload = std::max(sums.overload, level);
    }
  return sums;
}

double DenseAxis::rest_torque(double x, double payload, double process) const {
  double torque = 0.0;
  if (crank_) {
    const double f = (mass_ + payload) * g * std::sin(angle_) - sign(std::sin(angle_)) * spring_ + process;
    torque = f * crank_slope(start_ + x);
  } else if (turning_) {
    torque =
        (arm_ ? g * (moment_ + payload * payload_radius_) * std::cos(start_ + x) : load_torque_) + process;
  } else {
    const double uphill = sign(std::sin(angle_));
    torque = radius_ * ((mass_ + payload + riding_lifted_) * g * std::sin(angle_) -
                        uphill * (spring_ - uphill * rate_ * x) + process);
  }
  for (const Stage& stage : train_) torque /= stage.ratio;
  return torque;
}

double DenseAxis::holding() const {
  double low = 0.0, high = 0.0, payload = 0.0, least = 0.0, most = 0.0;
  for (std::size_t i = 0; i < segments_.size(); ++i) {
    const Segment& s = segments_[i];
    low = std::min(low, s.from + s.distance);
    high = std::max(high, s.from + s.distance);
    payload = std::max(payload, s.payload);
    for (const double tau : corners(s)) {
      double way = 0.0, v = 0.0, a = 0.0;
      if (!s.dwell) s.law.at(tau / s.time, way, v, a);
      const double process = process_at(s, s.dwell ? tau / s.time : way, s.from + s.distance * way);
      least = std::min(least, process);
      most = std::max(most, process);
    }
  }
  double worst = 0.0;
  for (const double m : {0.0, payload})
    for (const double push : {0.0, own_process_, own_process_ + least, own_process_ + most}) {
      const auto size = [&](double x) { return std::abs(rest_torque(x, m, push)); };
      constexpr int places = 720;
      for (int k = 0; k <= places; ++k) {
        const double step = (high - low) / places, x = low + k * step;
        worst = std::max(worst, size(x));
        if (!turning_ || !(crank_ || arm_) || step == 0.0) continue;
        const double before = std::max(low, x - step), after = std::min(high, x + step);
        if (size(x) >= size(before) && size(x) >= size(after))
          worst = std::max(worst, top_of(size, before, after));
      }
    }
  return worst;
}

} // namespace fulmox::testing
