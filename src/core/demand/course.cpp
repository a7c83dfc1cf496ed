#include "core/demand/course.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace fulmox {
namespace {

/// Symmetric cycles tie up to rounding: the first moment stands for all that beat it by no more than this.
constexpr double tie = 1e-9;
/// How far the last two terms of a fitted curve must have died away, as a share of the greatest value met;
/// the first one left out is about a tenth of that.
constexpr double fine = 2e-8;
constexpr std::size_t curved_nodes = Stretch::most_nodes;
constexpr int deepest = 40;
constexpr int most_looks = 500; ///< at a piece between two cuts; a smooth curve needs some ten at most

/// A function of the instant whose sign changes mark a corner in some integrand. They stand in an order: each
/// is smooth where those before it keep their sign.
struct Corner {
  enum class Of { speed, power, torque };
  Of of;
  std::function<double(const Instant&)> value;
  double scale = 0.0; ///< the greatest magnitude met so far
};

std::vector<Corner> corners_of(const AxisModel& model) {
  std::vector<Corner> all;
  if (model.mechanism->position_matters())
    all.push_back({Corner::Of::speed, [](const Instant& now) { return now.output.load_speed; }});
  all.push_back({Corner::Of::power, [](const Instant& now) { return now.crossings[0]; }});
  for (std::size_t k = model.stages.size(); k-- > 0;)
    if (model.stages[k].efficiency != 1.0 || model.stages[k].back_efficiency != 1.0)
      all.push_back({Corner::Of::power, [k](const Instant& now) { return now.crossings[k + 1]; }});
  if (model.gear.fitted)
    all.push_back({Corner::Of::power, [](const Instant& now) { return now.crossings.back(); }});
  all.push_back({Corner::Of::torque, [](const Instant& now) { return now.torque.value; }});
  if (!model.motor.has_kt()) return all;
  const ServoMotor& motor = model.motor;
  all.push_back({Corner::Of::torque, [&motor](const Instant& now) {
                   return motor.air_gap(now.torque, now.speed, now.input.direction);
                 }});
  if (motor.saturates())
    all.push_back({Corner::Of::torque, [&motor](const Instant& now) {
                     return std::abs(motor.air_gap(now.torque, now.speed, now.input.direction)) -
                            motor.rated_torque();
                   }});
  return all;
}

/// Cuts one cycle into stretches.
class Follower {
public:
  explicit Follower(const AxisModel& model) : model_(model), corners_(corners_of(model)) {}

  Course follow() {
    course_.stretches.reserve(2 * model_.cycle.pieces.size());
    for (const Piece& piece : model_.cycle.pieces) {
      std::vector<double> cuts{0.0};
      cuts.insert(cuts.end(), piece.cuts.begin(), piece.cuts.end());
      cuts.push_back(piece.duration);
      std::sort(cuts.begin(), cuts.end());
      for (std::size_t i = 1; i < cuts.size(); ++i)
        if (cuts[i] - cuts[i - 1] > 1e-12 * piece.duration) {
          looks_ = most_looks;
          part(piece, cuts[i - 1], cuts[i], 0, nodes_for(piece), 0);
        }
    }
    return std::move(course_);
  }

private:
  /// Points that leave one term of the torque's polynomial to spare, which must then come out as nothing: a
  /// mechanism that bends it more than told is found out and fitted like a curve.
  [[nodiscard]] std::size_t nodes_for(const Piece& piece) const {
    const SegmentFacts& facts = model_.cycle.facts[piece.segment];
    const bool steady = facts.effort_curve.empty() && facts.effort_first == facts.effort_last;
    if (piece.rest()) return steady ? 1 : 3;
    if (std::isfinite(model_.mechanism->smooth_travel()) || piece.path.amplitude != 0.0) return curved_nodes;
    const bool plain = steady && !model_.mechanism->position_matters();
    return piece.path.degree() + (plain ? 1 : 2);
  }

  void look(const Piece& piece, double from, double to, std::size_t nodes) {
    const auto rule = gauss_rule(nodes);
    const double middle = 0.5 * (from + to), half = 0.5 * (to - from);
    seen_.resize(nodes);
    for (std::size_t j = 0; j < nodes; ++j)
      seen_[j] = model_.at(piece.index, middle + half * rule[j].at, silent_);
    --looks_;
    set_floors();
  }

  /// Parts that cancel leave their rounding: no curve is followed finer than these.
  void set_floors() {
    double torque = 0.0, speed = 0.0;
    for (const double part : seen_.front().parts.values) torque += std::abs(part);
    for (const Instant& now : seen_) speed = std::max(speed, std::abs(now.speed));
    constexpr double cancelled = 1e-5;
    const auto raise = [](double& scale, double least) { scale = std::max(scale, cancelled * least); };
    for (Corner& corner : corners_)
      if (corner.of != Corner::Of::speed)
        raise(corner.scale, corner.of == Corner::Of::power ? torque * speed : torque);
    for (std::size_t i = 0; i < 3; ++i) raise(scales_[i], torque);
  }

  [[nodiscard]] bool may_split(int depth) const { return depth < deepest && looks_ > 0; }

  template <class F> Series fit(const F& value) const {
    std::array<double, Stretch::most_nodes> values{};
    for (std::size_t j = 0; j < seen_.size(); ++j) values[j] = value(seen_[j]);
    return Series::through({values.data(), seen_.size()});
  }

  /// Exact, or fitted closely enough against the greatest value met so far. What is no number is never split.
  bool resolved(const Series& series, double& scale) const {
    scale = std::max(scale, series.bound());
    return series.size() < seen_.size() || seen_.size() == 1 || !(series.tail() > fine * scale);
  }

  /// Looks at part of a piece; those corners before `first` are known to keep their sign in it.
  void part(const Piece& piece, double from, double to, std::size_t first, std::size_t nodes, int depth) {
    look(piece, from, to, nodes);
    const auto closer = [&](std::size_t from_corner) {
      if (nodes < curved_nodes) return part(piece, from, to, from_corner, curved_nodes, depth);
      const double middle = 0.5 * (from + to);
      part(piece, from, middle, from_corner, nodes, depth + 1);
      part(piece, middle, to, from_corner, nodes, depth + 1);
    };
    for (std::size_t k = first; k < corners_.size(); ++k) {
      const Series series = fit(corners_[k].value);
      if (!resolved(series, corners_[k].scale) && may_split(depth)) return closer(k);
      if (series.bound() <= 1e-13 * corners_[k].scale) continue; // rounding has roots, too
      if (const auto roots = inner(series); !roots.empty())
        return cut(piece, from, to, roots, k + 1, nodes, depth);
    }
    Stretch stretch = stretch_of(piece, from, to);
    const bool good = resolved(stretch.torque, scales_[0]) & resolved(stretch.output, scales_[1]) &
                      resolved(stretch.mechanism, scales_[2]) & resolved(stretch.speed, scales_[3]);
    if (!good && may_split(depth)) return closer(corners_.size());
    if (first <= corners_.size())
      if (const auto roots = bus_turns(stretch); !roots.empty())
        return cut(piece, from, to, roots, corners_.size() + 1, nodes, depth);
    course_.stretches.push_back(std::move(stretch));
  }

  /// Roots that are not an end once more: the curve was cut there because it is zero there.
  static Series::Places inner(const Series& series) {
    Series::Places roots = series.crossings();
    const auto end = [](double u) { return std::abs(u) > 1.0 - 1e-9; };
    roots.erase(std::remove_if(roots.begin(), roots.end(), end), roots.end());
    return roots;
  }

  void cut(const Piece& piece, double from, double to, const Series::Places& roots, std::size_t next,
           std::size_t nodes, int depth) {
    double left = from;
    for (const double u : roots) {
      const double right = 0.5 * (from + to) + 0.5 * (to - from) * u;
      part(piece, left, right, next, nodes, depth);
      left = right;
    }
    part(piece, left, to, next, nodes, depth);
  }

  /// Where power from the bus turns into power returned: only braking can do that.
  Series::Places bus_turns(const Stretch& stretch) const {
    if (!model_.motor.has_kt() || stretch.direction == 0.0) return {};
    if (stretch.torque(0.0) * stretch.direction >= 0.0) return {};
    std::array<double, Series::most_terms> values{};
    const std::size_t nodes = std::min(2 * stretch.nodes + 2, Series::most_terms);
    const auto rule = gauss_rule(nodes);
    for (std::size_t j = 0; j < nodes; ++j)
      values[j] = model_.electrical(stretch.torque(rule[j].at), stretch.speed(rule[j].at), stretch.direction)
                      .bus_power;
    return inner(Series::through({values.data(), nodes}));
  }

  Stretch stretch_of(const Piece& piece, double from, double to) const {
    Stretch out;
    out.piece = piece.index;
    out.from = from;
    out.to = to;
    out.direction = piece.direction;
    out.braked = piece.braked;
    out.torque = fit([](const Instant& now) { return now.torque.value; });
    out.output = fit([](const Instant& now) { return now.output.torque.value; });
    out.mechanism = fit([](const Instant& now) { return now.at_mechanism; });
    out.speed = fit([](const Instant& now) { return now.speed; });
    out.air_gap = air_gap_of(out);
    out.nodes = seen_.size();
    const auto rule = gauss_rule(out.nodes);
    for (std::size_t j = 0; j < out.nodes; ++j) {
      add(out.sums, seen_[j], 0.5 * (to - from) * rule[j].weight);
      out.torques[j] = seen_[j].torque;
    }
    return out;
  }

  /// T + s·(k_h + k_e·|ω|), which is T + s·k_h + k_e·ω.
  Series air_gap_of(const Stretch& stretch) const {
    const ServoMotor& motor = model_.motor;
    if (!motor.has_kt() || stretch.braked) return {};
    const double torque = stretch.torque.mean();
    const double against = stretch.direction != 0.0 ? stretch.direction : (torque > 0.0) - (torque < 0.0);
    const double hysteresis = against * motor.hysteresis;
    Series gap = stretch.torque;
    gap += Series::through({&hysteresis, 1});
    if (motor.eddy == 0.0) return gap;
    Series eddy = stretch.speed;
    eddy *= motor.eddy;
    gap += eddy;
    return gap;
  }

  static void add(Sums& sums, const Instant& now, double weight) {
    const double speed = std::abs(now.speed);
    sums.torque_squared += weight * now.torque * now.torque;
    sums.current_squared += weight * now.current * now.current;
    sums.turns += weight * speed;
    sums.speed_squared += weight * speed * speed;
    sums.shaft_work += weight * now.shaft_power;
    sums.bus_work += weight * now.bus_power;
    for (std::size_t i = 0; i < torque_part_count; ++i)
      sums.energy.values[i] += weight * now.parts.values[i] * now.speed;
  }

  const AxisModel& model_;
  std::vector<Corner> corners_;
  std::array<double, 4> scales_{};
  int looks_ = 0; ///< left for this part of a piece
  std::vector<Instant> seen_;
  Course course_;
  Recorder silent_{false};
};

Moment moment_of(const AxisModel& model, const Stretch& stretch, double u, double value) {
  Moment moment;
  moment.piece = stretch.piece;
  moment.tau = u == -1.0 ? stretch.from : u == 1.0 ? stretch.to : stretch.tau(u);
  moment.time = model.cycle.pieces[stretch.piece].start + moment.tau;
  moment.value = value;
  return moment;
}

/// The least value that beats `best`.
double beyond(double best) { return best + tie * std::abs(best); }

} // namespace

Sums& Sums::operator+=(const Sums& other) {
  torque_squared += other.torque_squared;
  current_squared += other.current_squared;
  turns += other.turns;
  speed_squared += other.speed_squared;
  shaft_work += other.shaft_work;
  bus_work += other.bus_work;
  for (std::size_t i = 0; i < torque_part_count; ++i) energy.values[i] += other.energy.values[i];
  return *this;
}

Sums Course::sums() const {
  Sums all;
  for (const Stretch& stretch : stretches) all += stretch.sums;
  return all;
}

Course follow(const AxisModel& model) { return Follower(model).follow(); }

Moment greatest_magnitude(const AxisModel& model, const Course& course, Series Stretch::*what) {
  Moment best = moment_of(model, course.stretches.front(), -1.0, 0.0);
  for (const Stretch& stretch : course.stretches) {
    const Series& series = stretch.*what;
    if (series.bound() <= beyond(best.value)) continue;
    for (const double u : series.turning_points())
      if (const double value = std::abs(series(u)); value > beyond(best.value))
        best = moment_of(model, stretch, u, value);
  }
  return best;
}

namespace {
/// Where the speed of a stretch passes some values, rising, and its end.
std::vector<double> ends_at(const Stretch& stretch, const std::vector<double>& speeds) {
  std::vector<double> all;
  const double rate = stretch.direction;
  for (const double speed : speeds) {
    if (rate == 0.0 || stretch.speed.size() < 2 || speed > stretch.speed.bound()) continue;
    Series miss = stretch.speed;
    const double shift = -rate * speed;
    miss += Series::through({&shift, 1});
    const auto roots = miss.crossings();
    all.insert(all.end(), roots.begin(), roots.end());
  }
  all.push_back(1.0);
  std::sort(all.begin(), all.end());
  return all;
}
} // namespace

Moment greatest_of(const AxisModel& model, const Course& course, const MotorQuantity& quantity) {
  const auto value = [&](const Stretch& stretch, double u) {
    return quantity.value(stretch, stretch.torque(u), stretch.speed(u));
  };
  // a look at both ends of all stretches first: most of them need no closer one
  double seen = 0.0;
  for (const Stretch& stretch : course.stretches)
    seen = std::max({seen, value(stretch, -1.0), value(stretch, 1.0)});
  seen *= 1.0 - tie;
  Moment best = moment_of(model, course.stretches.front(), -1.0, 0.0);
  for (const Stretch& stretch : course.stretches) {
    const double most = stretch.torque.bound(), fastest = stretch.speed.bound();
    const double slowest = std::max(0.0, 2.0 * std::abs(stretch.speed.mean()) - fastest);
    const double to_beat = std::max(seen, beyond(best.value));
    if (quantity.bound(stretch, most, slowest, fastest) <= to_beat) continue;
    const double torque_slope = stretch.torque.derivative().bound();
    const double speed_slope = stretch.speed.derivative().bound();
    const auto bound = [&](double from, double to) {
      const double middle = 0.5 * (from + to), half = 0.5 * (to - from);
      const double speed = std::abs(stretch.speed(middle));
      return quantity.bound(stretch, std::min(most, std::abs(stretch.torque(middle)) + half * torque_slope),
                            std::max(slowest, speed - half * speed_slope),
                            std::min(fastest, speed + half * speed_slope));
    };
    const std::size_t nodes = std::clamp<std::size_t>(2 * stretch.nodes, 8, Series::most_terms);
    double from = -1.0;
    for (const double to : ends_at(stretch, quantity.corners)) {
      const double now = std::max(seen, beyond(best.value));
      const Extreme found =
          greatest([&](double u) { return value(stretch, u); }, from, to, nodes, now, bound);
      if (found.value > now) best = moment_of(model, stretch, found.at, found.value);
      from = to;
    }
  }
  return best;
}

Moment greatest_at(const AxisModel& model, const Course& course,
                   const std::function<double(const Instant&)>& f) {
  Recorder silent(false);
  const auto value_at = [&](const Stretch& stretch, double u) {
    const double tau = u == -1.0 ? stretch.from : u == 1.0 ? stretch.to : stretch.tau(u);
    return f(model.at(stretch.piece, tau, silent));
  };
  double scale = 0.0;
  for (const Stretch& stretch : course.stretches)
    scale = std::max({scale, std::abs(value_at(stretch, 0.0)), std::abs(value_at(stretch, 1.0))});
  Moment best = moment_of(model, course.stretches.front(), -1.0, 0.0);
  for (const Stretch& stretch : course.stretches) {
    const auto value = [&](double u) { return value_at(stretch, u); };
    const Extreme found = greatest(value, -1.0, 1.0, std::max<std::size_t>(stretch.nodes, 4),
                                   beyond(best.value), no_bound, 1e-12 * scale);
    if (found.value > beyond(best.value)) best = moment_of(model, stretch, found.at, found.value);
  }
  return best;
}

Moment greatest_acceleration(const AxisModel& model, double sign) {
  Moment best;
  for (const Piece& piece : model.cycle.pieces) {
    const Extreme found = piece.path.greatest(2, sign, 0.0, piece.duration, beyond(best.value));
    if (found.value > beyond(best.value)) best = {piece.index, found.at, piece.start + found.at, found.value};
  }
  return best;
}

Reflected reflected(std::span<const double> gains, std::span<const double> ends) {
  Reflected out;
  double sum = 0.0, size = 0.0;
  for (const double gain : gains) {
    sum += gain;
    size += std::abs(gain);
  }
  if (sum > 1e-12 * size) { // rounding is no growth
    out.greatest = std::numeric_limits<double>::infinity();
    return out;
  }
  // the first cycle from nothing ends where every later one does: the sum from any start within one cycle
  // back is the greatest
  double level = 0.0;
  for (int round = 0; round < 2; ++round)
    for (std::size_t i = 0; i < gains.size(); ++i) {
      level = std::max(0.0, level + gains[i]);
      if (level > out.greatest) out = {level, ends[i]};
    }
  return out;
}

} // namespace fulmox
