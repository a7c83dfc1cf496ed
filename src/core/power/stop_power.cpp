#include "core/power/stop_power.hpp"

#include "core/power/fit_power.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace fulmox {
namespace {

/// One stop: J, J, W.
struct Stop {
  double needed = 0.0, returned = 0.0, pushed = 0.0;

  [[nodiscard]] std::array<double, 3> figures() const { return {needed, returned, pushed}; }
};

/// V: without mains the bus is not higher than at its lowest.
double lowest_bus(const Surroundings& room) { return std::isnan(room.bus_low) ? room.bus : room.bus_low; }

class Stops {
public:
  Stops(const AxisModel& model, double ramp)
      : model_(model), ramp_(ramp), supply_(model.supply_at(lowest_bus(model.surroundings))), silent_(false) {
  }

  StopPower operator()() {
    if (!model_.motor->has_peak()) out_.effort = std::numeric_limits<double>::quiet_NaN();
    out_.ramp = ramp_;
    std::vector<Part> parts;
    for (std::size_t p = 0; p < model_.load->cycle.pieces.size(); ++p) cut(p, parts);
    for (Part& part : parts)
      for (std::size_t i = 0; i < part.seen.size(); ++i) {
        part.seen[i] = from(part.piece, part.begin + 0.5 * static_cast<double>(i) * (part.end - part.begin));
        widen(part.seen[i]);
      }
    for (const Part& part : parts) bound(part, 0);
    return std::move(out_);
  }

private:
  static constexpr double shortest = 1e-12; // s
  static constexpr double near = 0.03;      // of the greatest: how far a bound may lie above
  static constexpr int deepest = 4;

  /// Part of a piece, with stops from its begin, middle and end. s from the start of the piece.
  struct Part {
    std::size_t piece = 0;
    double begin = 0.0, end = 0.0;
    std::array<Stop, 3> seen{};
  };

  /// Where the place matters, a part goes through little of what changes with it.
  void cut(std::size_t index, std::vector<Part>& parts) const {
    const MotionPiece& piece = model_.load->cycle.pieces[index];
    if (!(piece.duration > shortest)) return;
    constexpr double most_parts = 64.0;
    const double travel = std::abs(piece.position(piece.duration) - piece.position(0.0));
    const double number =
        std::clamp(std::ceil(travel / model_.load->mechanism->smooth_travel()), 1.0, most_parts);
    for (double i = 0.0; i < number; i += 1.0)
      parts.push_back({index, piece.duration * i / number, piece.duration * (i + 1.0) / number, {}});
  }

  Stop from(std::size_t piece, double tau) {
    const LoadInstant load = model_.load->at(piece, tau, silent_);
    if (load.load.speed != 0.0) return moving(load.load, model_.load->cycle.pieces[piece].start + tau);
    const Instant now = model_.at(piece, tau, silent_);
    return {ramp_ * std::max(0.0, now.bus_power), 0.0, 0.0};
  }

  /// The motor after `t` s of a stop.
  Instant slowing(const LoadState& begin, double t) {
    const double speed = begin.speed;
    LoadState now = begin;
    now.position += speed * t * (1.0 - 0.5 * t / ramp_);
    now.speed = {speed * (1.0 - t / ramp_), ""};
    now.acceleration = {-speed / ramp_, ""};
    return model_.driving(model_.load->moved(now, silent_), silent_);
  }

  Stop moving(const LoadState& begin, double time) {
    const auto watts = [&](double t) {
      const Instant now = slowing(begin, t);
      note_effort(now, time);
      return model_.electrical(now.torque, now.speed, now.input.direction).bus_power;
    };
    const double most =
        std::max({std::abs(watts(0.0)), std::abs(watts(0.5 * ramp_)), std::abs(watts(ramp_))});
    const double fine = 1e-3 * most;
    PowerCurve power;
    fit_power(watts, 0.0, ramp_, fine, power.pieces);
    return {drawn_energy(power) + fine * ramp_, returned_energy(power) + fine * ramp_,
            std::max(0.0, -least_power(power).watts) + fine};
  }

  void note_effort(const Instant& now, double time) {
    const double most = model_.motor->peak_torque(std::abs(now.speed), supply_, now.braking());
    const double effort = std::abs(now.torque) / most;
    if (effort > out_.effort) {
      out_.effort = effort;
      out_.effort_at = time;
    }
  }

  void widen(const Stop& stop) {
    const auto figures = stop.figures();
    for (std::size_t i = 0; i < figures.size(); ++i) greatest_[i] = std::max(greatest_[i], figures[i]);
  }

  /// Over a part: not below what is seen, as much above it as the middle lies off the line of its ends.
  /// Halved until that is little.
  void bound(const Part& part, int depth) {
    const auto& [piece, begin, end, seen] = part;
    const auto first = seen[0].figures(), second = seen[1].figures(), last = seen[2].figures();
    std::array<double, 3> most{};
    bool wide = false;
    for (std::size_t i = 0; i < most.size(); ++i) {
      const double greatest = std::max({first[i], second[i], last[i]});
      most[i] = greatest + std::abs(second[i] - 0.5 * (first[i] + last[i]));
      wide = wide || most[i] - std::min({first[i], second[i], last[i]}) > near * greatest_[i];
    }
    if (wide && depth < deepest) {
      const double middle = 0.5 * (begin + end);
      bound({piece, begin, middle, {seen[0], from(piece, 0.5 * (begin + middle)), seen[1]}}, depth + 1);
      bound({piece, middle, end, {seen[1], from(piece, 0.5 * (middle + end)), seen[2]}}, depth + 1);
      return;
    }
    const double start = model_.load->cycle.pieces[piece].start;
    const auto add = [&](PowerCurve& curve, double value) {
      curve.pieces.push_back({start + part.begin, start + part.end, Series::through(std::array{value})});
    };
    add(out_.needed, most[0]);
    add(out_.returned, most[1]);
    add(out_.pushed, most[2]);
  }

  const AxisModel& model_;
  double ramp_;
  MotorSupply supply_;
  Recorder silent_;
  std::array<double, 3> greatest_{};
  StopPower out_;
};

} // namespace

StopPower stop_power(const AxisModel& model, double ramp) { return Stops(model, ramp)(); }

} // namespace fulmox
