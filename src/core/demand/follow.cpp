#include "core/demand/course.hpp"
#include "core/demand/electrical_law.hpp"
#include "core/demand/inner_roots.hpp"
#include "core/support/curved_integral.hpp"
#include "core/support/series_window.hpp"

#include <boost/container/small_vector.hpp>

#include <algorithm>
#include <cmath>
#include <optional>

namespace fulmox {
namespace {

Series shifted(Series series, double by) {
  series += by;
  return series;
}

/// Cuts what is smooth wherever the sign of torque, air gap, saturation or bus power changes, and integrates.
class Divider {
public:
  Divider(const AxisModel& model, std::vector<Stretch>& out)
      : model_(model), motor_(*model.motor), electric_(motor_.electric()), out_(out) {
    gap_is_torque_ = motor_.hysteresis == 0.0 && motor_.eddy == 0.0;
    if (!electric_) return;
    law_.emplace(model);
    shaped_ = motor_.speed_shapes_current();
  }

  void divide(Stretch&& smooth, const TorqueParts& energy) {
    const std::size_t first = out_.size();
    by_torque(std::move(smooth));
    out_[first].sums.energy = energy; // by cause it needs no division: it stands with the first part
  }

private:
  void by_torque(Stretch&& s) {
    const auto roots = inner_roots(s.torque);
    each(std::move(s), roots, [&](Stretch&& part) {
      if (!electric_ || part.braked) return finish(std::move(part));
      part.air_gap = air_gap_of(part);
      by_air_gap(std::move(part));
    });
  }

  void by_air_gap(Stretch&& s) {
    Series::Places roots;
    if (motor_.drag(1.0) > 0.0) roots = inner_roots(s.air_gap); // else torque itself, divided already
    each(std::move(s), roots, [&](Stretch&& part) { by_bends(std::move(part), 0); });
  }

  /// Where the current bends over the torque, the next bend after the other.
  void by_bends(Stretch&& s, std::size_t next) {
    const auto bends = law_->bends();
    if (next == bends.size()) return by_voltage(std::move(s));
    Series::Places roots;
    if (const double bend = bends[next]; s.air_gap.bound() > bend)
      roots = inner_roots(shifted(s.air_gap, s.air_gap(0.0) > 0.0 ? -bend : bend));
    each(std::move(s), roots, [&](Stretch&& part) { by_bends(std::move(part), next + 1); });
  }

  /// Where the voltage begins to ask for more current.
  void by_voltage(Stretch&& s) {
    Series::Places roots;
    if (shaped_ && s.direction != 0.0) {
      const std::size_t degree = 2 * (s.air_gap.size() + s.speed.size() - 2);
      roots = inner_roots(through(std::min(degree + 1, Series::most_terms), [&](double u) {
        return motor_.voltage_left(s.air_gap(u), s.speed(u), model_.least_volts);
      }));
    }
    each(std::move(s), roots, [&](Stretch&& part) {
      const auto turns = bus_turns(part);
      each(std::move(part), turns, [&](Stretch&& last) { finish(std::move(last)); });
    });
  }

  /// A function of the place in a stretch as the polynomial through so many of its values.
  template <class F> static Series through(std::size_t nodes, const F& f) {
    std::array<double, Series::most_terms> values{};
    const auto rule = gauss_rule(nodes);
    for (std::size_t j = 0; j < nodes; ++j) values[j] = f(rule[j].at);
    return Series::through({values.data(), nodes});
  }

  /// Calls `then` with each part between the roots.
  template <class F> void each(Stretch&& s, const Series::Places& roots, const F& then) {
    if (roots.empty()) return then(std::move(s));
    double left = -1.0;
    for (const double u : roots) {
      then(part_of(s, left, u));
      left = u;
    }
    then(part_of(s, left, 1.0));
  }

  [[nodiscard]] Stretch part_of(const Stretch& s, double from, double to) const {
    Stretch part;
    static_cast<Span&>(part) = s;
    part.nodes = s.nodes;
    part.from = from == -1.0 ? s.from : s.tau(from);
    part.to = to == 1.0 ? s.to : s.tau(to);
    SeriesWindow window(from, to);
    part.torque = window(s.torque);
    part.speed = window(s.speed);
    if (s.air_gap.size() > 0) part.air_gap = gap_is_torque_ ? part.torque : window(s.air_gap);
    return part;
  }

  /// T + s·(k_h + k_e·|ω|), which is T + s·k_h + k_e·ω.
  [[nodiscard]] Series air_gap_of(const Stretch& stretch) const {
    const double torque = stretch.torque.mean();
    const double against = stretch.direction != 0.0 ? stretch.direction : (torque > 0.0) - (torque < 0.0);
    Series gap =
        motor_.hysteresis == 0.0 ? stretch.torque : shifted(stretch.torque, against * motor_.hysteresis);
    if (motor_.eddy == 0.0) return gap;
    Series eddy = stretch.speed;
    eddy *= motor_.eddy;
    gap += eddy;
    return gap;
  }

  /// Where power from the bus turns into power returned: only braking can do that.
  [[nodiscard]] Series::Places bus_turns(const Stretch& stretch) const {
    if (stretch.direction == 0.0 || stretch.torque(0.0) * stretch.direction >= 0.0) return {};
    // torque times speed, current squared and drag times speed are polynomials
    const std::size_t torque = stretch.torque.size(), speed = stretch.speed.size();
    const std::size_t exact =
        std::max({torque + speed, 2 * speed, 2 * std::max(torque, stretch.air_gap.size())}) - 1;
    if (!shaped_) return inner_roots(straight_power(stretch, std::min(exact, Series::most_terms)));
    return inner_roots(through(Series::most_terms, [&](double u) {
      const double speed_there = stretch.speed(u);
      return model_.bus_power(stretch.torque(u), speed_there,
                              model_.current(stretch.air_gap(u), speed_there, stretch.direction));
    }));
  }

  /// Power from the bus through so many of its values, the current straight in the torque.
  [[nodiscard]] Series straight_power(const Stretch& stretch, std::size_t nodes) const {
    std::array<double, Series::most_terms> torque, speed, current; // filled below
    stretch.torque.at_gauss(nodes, torque.data());
    stretch.speed.at_gauss(nodes, speed.data());
    law_->amperes(stretch.air_gap, false).at_gauss(nodes, current.data());
    for (std::size_t j = 0; j < nodes; ++j) {
      const double iron = motor_.drag(speed[j]) * std::abs(speed[j]);
      torque[j] = torque[j] * speed[j] + iron + law_->copper(1.0, current[j], current[j] * current[j]) +
                  law_->drive(1.0, current[j]);
    }
    return Series::through({torque.data(), nodes});
  }

  void finish(Stretch&& s) {
    Sums& sums = s.sums;
    const double half = 0.5 * s.length();
    sums.torque_squared = half * product_integral(s.torque, s.torque);
    sums.turns = s.length() * std::abs(s.speed.mean()); // it keeps its sign
    sums.speed_squared = half * product_integral(s.speed, s.speed);
    sums.shaft_work = half * product_integral(s.torque, s.speed);
    if (!electric_)
      sums.bus_work = sums.shaft_work;
    else if (shaped_)
      take_shaped(s);
    else
      take_straight(s);
    out_.push_back(std::move(s));
  }

  /// Integrals of a current that runs straight in the torque.
  void take_straight(Stretch& s) const {
    const Series current = law_->amperes(s.air_gap, s.direction == 0.0);
    Sums& sums = s.sums;
    const double charge = s.length() * current.mean();
    sums.current_squared = 0.5 * s.length() * product_integral(current, current);
    sums.copper = law_->copper(s.length(), charge, sums.current_squared);
    const double iron = motor_.hysteresis * sums.turns + motor_.eddy * sums.speed_squared;
    sums.bus_work = sums.shaft_work + iron + sums.copper + law_->drive(s.length(), charge);
  }

  /// Integrals of a current that is no polynomial.
  void take_shaped(Stretch& s) const {
    const auto current = [&](double u) {
      return s.air_gap.size() > 0 ? model_.current(s.air_gap(u), s.speed(u), s.direction) : 0.0;
    };
    const double half = 0.5 * s.length();
    s.sums.current_squared = half * curved_integral([&](double u) {
                               const double amperes = current(u);
                               return amperes * amperes;
                             });
    s.sums.bus_work = half * curved_integral([&](double u) {
                        return model_.bus_power(s.torque(u), s.speed(u), current(u));
                      });
  }

  const AxisModel& model_;
  const Motor& motor_;
  bool electric_, shaped_ = false, gap_is_torque_ = false;
  std::optional<ElectricalLaw> law_;
  std::vector<Stretch>& out_;
};

/// A stretch of the load's side seen through gearhead and rotor: a stage takes what it is given times a
/// factor that follows from the direction in which power crosses it, its own inertia and its drag.
class Through {
public:
  explicit Through(const AxisModel& model) : gear_(model.gear), rotor_(model.rotor) {
    own_ = gear_.fitted ? gear_.input_inertia.value : 0.0;
    drag_ = gear_.fitted ? gear_.no_load.value : 0.0;
    rising_ = gear_.fitted ? gear_.no_load_rise.value : 0.0;
    ratio_ = gear_.fitted ? gear_.ratio.value : 1.0;
  }

  [[nodiscard]] Stretch stretch(const LoadStretch& load) const {
    Stretch out;
    static_cast<Span&>(out) = load;
    out.nodes = load.nodes;
    out.speed = load.speed;
    out.speed *= ratio_;
    if (load.braked) return out;
    out.torque = load.output;
    out.torque *= factor(load);
    Series inertia = load.acceleration;
    inertia *= (own_ + rotor_) * ratio_;
    out.torque += inertia;
    if (drag_ != 0.0) out.torque += load.direction * drag_;
    if (rising_ != 0.0) {
      Series with_speed = out.speed;
      with_speed *= rising_;
      out.torque += with_speed;
    }
    return out;
  }

  [[nodiscard]] TorqueParts energy(const LoadStretch& load) const {
    if (load.braked) return {};
    TorqueParts out = load.energy; // torque over the ratio, speed times the ratio
    const double spin = load.spin * ratio_ * ratio_;
    out[TorquePart::gearhead] += own_ * spin;
    out[TorquePart::drag] += drag_ * ratio_ * load.turns + rising_ * ratio_ * ratio_ * load.rush;
    out[TorquePart::losses] += (factor(load) * ratio_ - 1.0) * load.work;
    out[TorquePart::rotor] += rotor_ * spin;
    return out;
  }

private:
  /// Torque at the input for one at the output.
  [[nodiscard]] double factor(const LoadStretch& load) const {
    if (!gear_.fitted) return 1.0;
    const double crossing = load.output(0.0) * load.direction;
    if (crossing > 0.0) return 1.0 / (ratio_ * gear_.efficiency);
    return crossing < 0.0 ? gear_.back_efficiency / ratio_ : 1.0 / ratio_;
  }

  const Gearhead& gear_;
  double rotor_, own_, drag_, rising_, ratio_;
};

/// Adds the same stretches once more, in another piece.
void repeat(std::vector<Stretch>& all, std::size_t from, std::size_t to, std::size_t piece) {
  for (std::size_t i = from; i < to; ++i) {
    Stretch again = all[i];
    again.piece = piece;
    again.again = true;
    all.push_back(again);
  }
}

} // namespace

Stretch seen_by_motor(const AxisModel& model, const LoadStretch& load) {
  return Through(model).stretch(load);
}

Course follow(const AxisModel& model) {
  Course course;
  course.stretches.reserve(2 * model.load->stretches.size());
  const Through through(model);
  Divider divider(model, course.stretches);
  const auto& loads = model.load->stretches;
  boost::container::small_vector<std::size_t, 64> begins; // of the parts of each
  for (std::size_t i = 0; i < loads.size(); ++i) {
    begins.push_back(course.stretches.size());
    if (loads[i].like == i)
      divider.divide(through.stretch(loads[i]), through.energy(loads[i]));
    else
      repeat(course.stretches, begins[loads[i].like], begins[loads[i].like + 1], loads[i].piece);
  }
  return course;
}

} // namespace fulmox
