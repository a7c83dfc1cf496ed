#include "core/demand/inner_roots.hpp"
#include "core/demand/load_side.hpp"

#include <algorithm>
#include <cmath>
#include <functional>
#include <map>
#include <tuple>

namespace fulmox {
namespace {

/// How far the last two terms of a fitted curve must have died away, as a share of the greatest value met;
/// the first one left out is about a tenth of that.
constexpr double fine = 2e-8;
constexpr std::size_t most_nodes = 10, curved_nodes = most_nodes;
constexpr int deepest = 40;
constexpr int most_samplings = 500; ///< at a piece between two cuts; a smooth curve needs some ten at most

/// A function of the instant at whose change of sign the torque bends. They stand in an order: each is smooth
/// where those before it keep their sign.
struct Corner {
  std::function<double(const LoadInstant&)> value;
  bool is_speed = false; ///< else a force or torque
  double scale = 0.0;    ///< the greatest magnitude met so far
};

std::vector<Corner> corners_of(const LoadSide& side) {
  std::vector<Corner> all;
  if (side.mechanism->position_matters())
    all.push_back({[](const LoadInstant& now) { return now.output.load_speed; }, true});
  all.push_back({[](const LoadInstant& now) { return now.crossings[0]; }});
  for (std::size_t k = side.stages.size(); k-- > 0;)
    if (side.stages[k].efficiency != 1.0 || side.stages[k].back_efficiency != 1.0)
      all.push_back({[k](const LoadInstant& now) { return now.crossings[k + 1]; }});
  // the gearhead that may follow
  all.push_back({[](const LoadInstant& now) { return now.output.torque * now.output.direction; }});
  return all;
}

/// Cuts one cycle into stretches.
class LoadFollower {
public:
  explicit LoadFollower(const LoadSide& side) : side_(side), corners_(corners_of(side)) {}

  std::vector<LoadStretch> follow() {
    out_.reserve(2 * side_.cycle.pieces.size());
    for (const MotionPiece& piece : side_.cycle.pieces) {
      std::vector<double> cuts{0.0};
      cuts.insert(cuts.end(), piece.cuts.begin(), piece.cuts.end());
      cuts.push_back(piece.duration);
      std::sort(cuts.begin(), cuts.end());
      for (std::size_t i = 1; i < cuts.size(); ++i)
        if (cuts[i] - cuts[i - 1] > 1e-12 * piece.duration) {
          samplings_left_ = most_samplings;
          part(piece, cuts[i - 1], cuts[i], 0, nodes_for(piece), 0);
        }
    }
    return std::move(out_);
  }

private:
  /// Points that leave one term of the torque's polynomial to spare, which must then come out as nothing: a
  /// mechanism that bends it more than told is found out and fitted like a curve.
  [[nodiscard]] std::size_t nodes_for(const MotionPiece& piece) const {
    const SegmentFacts& facts = side_.cycle.facts[piece.segment];
    const bool steady = facts.effort_curve.empty() && facts.effort_first == facts.effort_last;
    if (piece.rest()) return steady ? 1 : 3;
    if (std::isfinite(side_.mechanism->smooth_travel()) || piece.path.amplitude != 0.0) return curved_nodes;
    const bool plain = steady && !side_.mechanism->position_matters();
    return piece.path.degree() + (plain ? 1 : 2);
  }

  void sample(const MotionPiece& piece, double from, double to, std::size_t nodes) {
    const auto rule = gauss_rule(nodes);
    const double middle = 0.5 * (from + to), half = 0.5 * (to - from);
    seen_.resize(nodes);
    for (std::size_t j = 0; j < nodes; ++j)
      seen_[j] = side_.at(piece.index, middle + half * rule[j].at, silent_);
    --samplings_left_;
    set_floors();
  }

  /// Parts that cancel leave their rounding: no curve is followed finer than these.
  void set_floors() {
    double torque = 0.0, turning = 0.0, moving = 0.0;
    for (const double part : seen_.front().output.parts.values) torque += std::abs(part);
    for (const LoadInstant& now : seen_) {
      turning = std::max(turning, std::abs(now.output.speed.value));
      moving = std::max(moving, std::abs(now.load.speed.value));
    }
    constexpr double cancelled = 1e-5;
    const auto raise = [](double& scale, double least) { scale = std::max(scale, cancelled * least); };
    if (moving > 0.0)
      for (Corner& corner : corners_)
        if (!corner.is_speed) raise(corner.scale, torque * turning / moving);
    for (std::size_t i = 0; i < 2; ++i) raise(scales_[i], torque);
  }

  template <class F> Series fit(const F& value) const {
    std::array<double, most_nodes> values{};
    for (std::size_t j = 0; j < seen_.size(); ++j) values[j] = value(seen_[j]);
    return Series::through({values.data(), seen_.size()});
  }

  /// Exact, or fitted closely enough against the greatest value met so far. What is no number is never split.
  bool resolved(const Series& series, double& scale) const {
    scale = std::max(scale, series.bound());
    return series.size() < seen_.size() || seen_.size() == 1 || !(series.tail() > fine * scale);
  }

  [[nodiscard]] bool may_split(int depth) const { return depth < deepest && samplings_left_ > 0; }

  /// Looks at part of a piece; those corners before `first` are known to keep their sign in it.
  void part(const MotionPiece& piece, double from, double to, std::size_t first, std::size_t nodes,
            int depth) {
    sample(piece, from, to, nodes);
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
    LoadStretch smooth = stretch_of(piece, from, to);
    // all four are asked, whatever the first says: each widens its scale
    const std::array good{resolved(smooth.output, scales_[0]), resolved(smooth.mechanism, scales_[1]),
                          resolved(smooth.speed, scales_[2]), resolved(smooth.acceleration, scales_[3])};
    if (good != std::array{true, true, true, true} && may_split(depth)) return closer(corners_.size());
    integrate(smooth);
    out_.push_back(std::move(smooth));
  }

  void cut(const MotionPiece& piece, double from, double to, const Series::Places& roots, std::size_t next,
           std::size_t nodes, int depth) {
    double left = from;
    for (const double u : roots) {
      const double right = 0.5 * (from + to) + 0.5 * (to - from) * u;
      part(piece, left, right, next, nodes, depth);
      left = right;
    }
    part(piece, left, to, next, nodes, depth);
  }

  [[nodiscard]] LoadStretch stretch_of(const MotionPiece& piece, double from, double to) const {
    LoadStretch out;
    out.piece = piece.index;
    out.from = from;
    out.to = to;
    out.direction = piece.direction;
    out.braked = piece.braked;
    out.output = fit([](const LoadInstant& now) { return now.output.torque.value; });
    out.mechanism = fit([](const LoadInstant& now) { return now.at_mechanism; });
    out.speed = fit([](const LoadInstant& now) { return now.output.speed.value; });
    out.acceleration = fit([](const LoadInstant& now) { return now.output.acceleration.value; });
    out.nodes = seen_.size();
    return out;
  }

  void integrate(LoadStretch& out) const {
    const auto rule = gauss_rule(seen_.size());
    for (std::size_t j = 0; j < seen_.size(); ++j) {
      const ShaftState& now = seen_[j].output;
      const double weight = 0.5 * (out.to - out.from) * rule[j].weight;
      out.work += weight * now.torque * now.speed;
      out.spin += weight * now.acceleration * now.speed;
      out.turns += weight * std::abs(now.speed);
      out.rush += weight * now.speed * now.speed;
      for (std::size_t i = 0; i < torque_part_count; ++i)
        out.energy.values[i] += weight * now.parts.values[i] * now.speed;
    }
  }

  const LoadSide& side_;
  std::vector<Corner> corners_;
  std::array<double, 4> scales_{};
  int samplings_left_ = 0; ///< left for this part of a piece
  std::vector<LoadInstant> seen_;
  std::vector<LoadStretch> out_;
  Recorder silent_{false};
};

bool alike(const LoadStretch& a, const LoadStretch& b) {
  const auto whole = [](const LoadStretch& s) {
    return std::tie(s.from, s.to, s.direction, s.braked, s.nodes, s.output, s.speed, s.acceleration,
                    s.mechanism, s.work, s.spin, s.turns, s.rush, s.energy.values);
  };
  return whole(a) == whole(b);
}

/// Where each stretch was met first.
void find_likes(std::vector<LoadStretch>& all) {
  std::map<std::array<double, 5>, std::size_t> known; // by a few figures, so that few are compared
  for (std::size_t i = 0; i < all.size(); ++i) {
    LoadStretch& s = all[i];
    s.like = i;
    const std::array<double, 5> figures{s.from, s.to, s.output.mean(), s.speed.mean(), s.acceleration.mean()};
    if (std::any_of(figures.begin(), figures.end(), [](double x) { return std::isnan(x); })) continue;
    const std::size_t first = known.emplace(figures, i).first->second;
    if (alike(all[first], s)) s.like = first;
  }
}

} // namespace

std::vector<LoadStretch> follow_load(const LoadSide& side) {
  auto all = LoadFollower(side).follow();
  find_likes(all);
  return all;
}

} // namespace fulmox
