#include "core/demand/course.hpp"

#include <boost/container/small_vector.hpp>

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

namespace fulmox {
namespace {

/// The greatest magnitude, which seldom reaches the bound.
double greatest_of(const Series& series) {
  double most = 0.0;
  for (const double u : series.turning_points()) most = std::max(most, std::abs(series(u)));
  return most;
}

} // namespace

Sums& Sums::operator+=(const Sums& other) {
  torque_squared += other.torque_squared;
  current_squared += other.current_squared;
  turns += other.turns;
  speed_squared += other.speed_squared;
  shaft_work += other.shaft_work;
  bus_work += other.bus_work;
  copper += other.copper;
  for (std::size_t i = 0; i < torque_part_count; ++i) energy.values[i] += other.energy.values[i];
  return *this;
}

Sums Course::sums() const {
  Sums all;
  for (const Stretch& stretch : stretches) all += stretch.sums;
  return all;
}

Moment greatest_magnitude(const AxisModel& model, const Course& course, Series Stretch::*what) {
  return greatest_magnitude(model.load->cycle, course.stretches, what);
}

namespace {
using Places = boost::container::small_vector<double, 32>;

/// Where a stretch not slower and not faster than this passes some speeds, rising, and its end.
Places ends_at(const Stretch& stretch, double slowest, double fastest, const std::vector<double>& speeds) {
  Places all;
  for (const double speed : speeds) {
    if (stretch.direction == 0.0 || stretch.speed.size() < 2 || speed > fastest || speed < slowest) continue;
    Series miss = stretch.speed;
    miss += -stretch.direction * speed;
    const auto roots = miss.crossings();
    all.insert(all.end(), roots.begin(), roots.end());
  }
  all.push_back(1.0);
  std::sort(all.begin(), all.end());
  return all;
}

/// What torque and speed of a stretch are at most: of all of it, and closer between two places.
struct Bounded {
  double torque, slowest, fastest; ///< magnitudes

  explicit Bounded(const Stretch& stretch) : torque(stretch.torque.bound()), fastest(stretch.speed.bound()) {
    slowest = std::max(0.0, 2.0 * std::abs(stretch.speed.mean()) - fastest);
  }
  /// The greatest torque seldom reaches its bound; worth its price only where it counts.
  void look_closer(const Stretch& stretch) { torque = std::min(torque, greatest_of(stretch.torque)); }
};

/// What a quantity is at most between two places of a stretch: torque and speed leave the chord between their
/// values there by no more than an eighth of the square of the distance times their greatest bend.
class BoundBetween {
public:
  BoundBetween(const MotorQuantity& quantity, const Stretch& stretch, const Bounded& whole)
      : quantity_(quantity), stretch_(stretch), whole_(whole), torque_bend_(bend_of(stretch.torque)),
        speed_bend_(bend_of(stretch.speed)) {}

  double operator()(double from, double to) const {
    const double share = 0.125 * (to - from) * (to - from);
    const double torque = std::max(std::abs(stretch_.torque(from)), std::abs(stretch_.torque(to)));
    const double before = stretch_.direction * stretch_.speed(from);
    const double after = stretch_.direction * stretch_.speed(to);
    return quantity_.bound(
        stretch_, std::min(whole_.torque, torque + share * torque_bend_),
        std::max(whole_.slowest, std::min(before, after) - share * speed_bend_),
        std::clamp(std::max(before, after) + share * speed_bend_, whole_.slowest, whole_.fastest));
  }

private:
  static double bend_of(const Series& series) {
    return series.size() < 3 ? 0.0 : series.derivative().derivative().bound();
  }

  const MotorQuantity& quantity_;
  const Stretch& stretch_;
  const Bounded& whole_;
  double torque_bend_, speed_bend_;
};

double bound_of(const MotorQuantity& quantity, const Stretch& stretch, const Bounded& whole) {
  return quantity.bound(stretch, whole.torque, whole.slowest, whole.fastest);
}

double value_at(const MotorQuantity& quantity, const Stretch& stretch, double u) {
  return quantity.value(stretch, stretch.torque(u), stretch.speed(u));
}

/// The greatest value beyond `to_beat` on a stretch cut at places that end at 1; of several that tie the
/// first. The likeliest part is searched first: it spares most others the search.
template <class F>
Extreme greatest_in_parts(const F& value, const Places& ends, std::size_t nodes, double to_beat,
                          const BoundBetween& bound) {
  const auto from = [&](std::size_t i) { return i == 0 ? -1.0 : ends[i - 1]; };
  const auto search = [&](std::size_t i, double beaten) {
    return greatest(value, from(i), ends[i], nodes, beaten, bound);
  };
  if (ends.size() == 1) return search(0, to_beat);
  boost::container::small_vector<double, 64> bounds;
  std::size_t likely = 0;
  double most = 0.0;
  for (std::size_t i = 0; i < ends.size(); ++i) {
    bounds.push_back(bound(from(i), ends[i]));
    if (bounds[i] <= most) continue;
    if (const double there = value(0.5 * (from(i) + ends[i])); there > most) {
      most = there;
      likely = i;
    }
  }
  const Extreme likeliest = search(likely, to_beat);
  Extreme best{-1.0, to_beat};
  for (std::size_t i = 0; i < ends.size(); ++i) {
    const double beaten = std::max((1.0 - tied) * likeliest.value, best.value);
    if (bounds[i] <= beaten) continue;
    if (const Extreme found = i == likely ? likeliest : search(i, beaten); found.value > beaten) best = found;
  }
  return best;
}
} // namespace

Moment greatest_of(const AxisModel& model, const Course& course, const MotorQuantity& quantity) {
  struct Candidate {
    Bounded whole;
    double bound = 0.0;
  };
  boost::container::small_vector<Candidate, 64> candidates;
  candidates.reserve(course.stretches.size());
  std::optional<std::vector<double>> corners;
  std::size_t likely = 0;
  for (const Stretch& stretch : course.stretches) {
    Candidate c{Bounded(stretch)};
    if (!stretch.again) c.bound = bound_of(quantity, stretch, c.whole); // of equals the first stands for all
    if (!candidates.empty() && c.bound > candidates[likely].bound) likely = candidates.size();
    candidates.push_back(c);
  }
  const auto search = [&](std::size_t i, double to_beat) {
    const Stretch& stretch = course.stretches[i];
    Candidate& c = candidates[i];
    c.whole.look_closer(stretch);
    c.bound = bound_of(quantity, stretch, c.whole);
    if (c.bound <= to_beat) return Extreme{-1.0, to_beat};
    const auto value = [&](double u) { return value_at(quantity, stretch, u); };
    // where an end is as great as anything can be there, nothing is left to look for
    const double left = value(-1.0), right = value(1.0);
    if (std::max(left, right) >= c.bound) return left >= right ? Extreme{-1.0, left} : Extreme{1.0, right};
    if (!corners) corners = quantity.corners();
    return greatest_in_parts(value, ends_at(stretch, c.whole.slowest, c.whole.fastest, *corners),
                             std::clamp<std::size_t>(2 * stretch.nodes, 8, Series::most_terms), to_beat,
                             BoundBetween(quantity, stretch, c.whole));
  };
  // the likeliest first: it spares most others a closer look
  const Extreme likeliest = search(likely, 0.0);
  const double seen = (1.0 - tied) * likeliest.value;
  Moment best = moment_of(model.load->cycle, course.stretches.front(), -1.0, 0.0);
  for (std::size_t i = 0; i < candidates.size(); ++i) {
    const double to_beat = std::max(seen, beyond(best.value));
    if (candidates[i].bound <= to_beat) continue;
    if (const Extreme found = i == likely ? likeliest : search(i, to_beat); found.value > to_beat)
      best = moment_of(model.load->cycle, course.stretches[i], found.at, found.value);
  }
  return best;
}

bool stays_below(const Course& course, const MotorQuantity& quantity, double value) {
  constexpr int deepest = 5;
  const auto below = [&](const Stretch& stretch) {
    Bounded whole(stretch);
    if (bound_of(quantity, stretch, whole) < value) return true;
    whole.look_closer(stretch);
    const BoundBetween bound(quantity, stretch, whole);
    const auto between = [&](const auto& self, double from, double to, int depth) -> bool {
      if (bound(from, to) < value) return true;
      const double middle = 0.5 * (from + to);
      if (depth == deepest || !(value_at(quantity, stretch, middle) < value)) return false;
      return self(self, from, middle, depth + 1) && self(self, middle, to, depth + 1);
    };
    return between(between, -1.0, 1.0, 0);
  };
  return std::all_of(course.stretches.begin(), course.stretches.end(),
                     [&](const Stretch& stretch) { return stretch.again || below(stretch); });
}

} // namespace fulmox
