#include "core/demand/course.hpp"

#include <algorithm>
#include <cmath>
#include <functional>

namespace fulmox {
namespace {

/// How far the last two terms of a fitted curve must have died away, as a share of the greatest value met;
/// the first one left out is about a tenth of that.
constexpr double fine = 2e-8;
constexpr std::size_t curved_nodes = Stretch::most_nodes;
constexpr int deepest = 40;
constexpr int most_looks = 500; ///< at a piece between two cuts; a smooth curve needs some ten at most

/// A function of the instant at whose change of sign the torque bends. They stand in an order: each is smooth
/// where those before it keep their sign.
struct Corner {
  std::function<double(const Instant&)> value;
  bool is_speed = false; ///< else a force or torque
  double scale = 0.0;    ///< the greatest magnitude met so far
};

std::vector<Corner> corners_of(const AxisModel& model) {
  std::vector<Corner> all;
  if (model.mechanism->position_matters())
    all.push_back({[](const Instant& now) { return now.output.load_speed; }, true});
  all.push_back({[](const Instant& now) { return now.crossings[0]; }});
  for (std::size_t k = model.stages.size(); k-- > 0;)
    if (model.stages[k].efficiency != 1.0 || model.stages[k].back_efficiency != 1.0)
      all.push_back({[k](const Instant& now) { return now.crossings[k + 1]; }});
  if (model.gear.fitted) all.push_back({[](const Instant& now) { return now.crossings.back(); }});
  return all;
}

/// Roots that are not an end once more: the curve was cut there because it is zero there.
Series::Places inner_roots(const Series& series) {
  Series::Places roots = series.crossings();
  const auto end = [](double u) { return std::abs(u) > 1.0 - 1e-9; };
  roots.erase(std::remove_if(roots.begin(), roots.end(), end), roots.end());
  return roots;
}

Series shifted(Series series, double by) {
  series += by;
  return series;
}

/// Cuts what is smooth wherever the sign of torque, air gap, saturation or bus power changes, and integrates.
class Divider {
public:
  Divider(const AxisModel& model, std::vector<Stretch>& out)
      : model_(model), motor_(*model.motor), electric_(motor_.electric()), out_(out) {
    if (electric_) bends_ = motor_.bends();
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
    if (next == bends_.size()) {
      const auto turns = bus_turns(s);
      return each(std::move(s), turns, [&](Stretch&& last) { finish(std::move(last)); });
    }
    Series::Places roots;
    if (const double bend = bends_[next]; s.air_gap.bound() > bend)
      roots = inner_roots(shifted(s.air_gap, s.air_gap(0.0) > 0.0 ? -bend : bend));
    each(std::move(s), roots, [&](Stretch&& part) { by_bends(std::move(part), next + 1); });
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

  static Stretch part_of(const Stretch& s, double from, double to) {
    Stretch part = s;
    part.from = from == -1.0 ? s.from : s.tau(from);
    part.to = to == 1.0 ? s.to : s.tau(to);
    for (Series Stretch::*series :
         {&Stretch::torque, &Stretch::output, &Stretch::mechanism, &Stretch::speed, &Stretch::air_gap})
      part.*series = (s.*series).part(from, to);
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
    const std::size_t nodes =
        std::min(std::max({torque + speed, 2 * speed, 2 * std::max(torque, stretch.air_gap.size())}) - 1,
                 Series::most_terms);
    std::array<double, Series::most_terms> values{};
    const auto rule = gauss_rule(nodes);
    for (std::size_t j = 0; j < nodes; ++j)
      values[j] = model_.bus_power(stretch.torque(rule[j].at), stretch.speed(rule[j].at),
                                   motor_.current(stretch.air_gap(rule[j].at)));
    return inner_roots(Series::through({values.data(), nodes}));
  }

  void finish(Stretch&& s) {
    Sums& sums = s.sums;
    const auto rule = gauss_rule(s.nodes);
    for (std::size_t j = 0; j < s.nodes; ++j) {
      const double torque = s.torque(rule[j].at), speed = s.speed(rule[j].at);
      const double current = s.air_gap.size() > 0 ? motor_.current(s.air_gap(rule[j].at)) : 0.0;
      const double weight = 0.5 * s.length() * rule[j].weight;
      s.torques[j] = torque;
      sums.torque_squared += weight * torque * torque;
      sums.current_squared += weight * current * current;
      sums.turns += weight * std::abs(speed);
      sums.speed_squared += weight * speed * speed;
      sums.shaft_work += weight * torque * speed;
      sums.bus_work += weight * model_.bus_power(torque, speed, current);
    }
    out_.push_back(std::move(s));
  }

  const AxisModel& model_;
  const Motor& motor_;
  bool electric_;
  std::vector<double> bends_;
  std::vector<Stretch>& out_;
};

/// Cuts one cycle into stretches.
class Follower {
public:
  explicit Follower(const AxisModel& model)
      : model_(model), corners_(corners_of(model)), divider_(model, course_.stretches) {}

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
      seen_[j] = model_.mechanics_at(piece.index, middle + half * rule[j].at, silent_);
    --looks_;
    set_floors();
  }

  /// Parts that cancel leave their rounding: no curve is followed finer than these.
  void set_floors() {
    double torque = 0.0, turning = 0.0, moving = 0.0;
    for (const double part : seen_.front().parts.values) torque += std::abs(part);
    for (const Instant& now : seen_) {
      turning = std::max(turning, std::abs(now.speed));
      moving = std::max(moving, std::abs(now.load.speed.value));
    }
    constexpr double cancelled = 1e-5;
    const auto raise = [](double& scale, double least) { scale = std::max(scale, cancelled * least); };
    if (moving > 0.0)
      for (Corner& corner : corners_)
        if (!corner.is_speed) raise(corner.scale, torque * turning / moving);
    for (std::size_t i = 0; i < 3; ++i) raise(scales_[i], torque);
  }

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

  [[nodiscard]] bool may_split(int depth) const { return depth < deepest && looks_ > 0; }

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
      if (const auto roots = inner_roots(series); !roots.empty())
        return cut(piece, from, to, roots, k + 1, nodes, depth);
    }
    Stretch smooth = stretch_of(piece, from, to);
    const bool good = resolved(smooth.torque, scales_[0]) & resolved(smooth.output, scales_[1]) &
                      resolved(smooth.mechanism, scales_[2]) & resolved(smooth.speed, scales_[3]);
    if (!good && may_split(depth)) return closer(corners_.size());
    divider_.divide(std::move(smooth), energy_of(from, to));
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

  [[nodiscard]] Stretch stretch_of(const Piece& piece, double from, double to) const {
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
    out.nodes = seen_.size();
    return out;
  }

  /// What each cause takes of the energy at the motor shaft.
  [[nodiscard]] TorqueParts energy_of(double from, double to) const {
    TorqueParts energy;
    const auto rule = gauss_rule(seen_.size());
    for (std::size_t j = 0; j < seen_.size(); ++j)
      for (std::size_t i = 0; i < torque_part_count; ++i)
        energy.values[i] += 0.5 * (to - from) * rule[j].weight * seen_[j].parts.values[i] * seen_[j].speed;
    return energy;
  }

  const AxisModel& model_;
  std::vector<Corner> corners_;
  std::array<double, 4> scales_{};
  int looks_ = 0; ///< left for this part of a piece
  std::vector<Instant> seen_;
  Course course_;
  Divider divider_;
  Recorder silent_{false};
};

} // namespace

Course follow(const AxisModel& model) { return Follower(model).follow(); }

} // namespace fulmox
