#include "core/power/alignment.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace fulmox {

double worst_peak(std::span<const PowerCurve* const> curves) {
  double sum = 0.0;
  for (const PowerCurve* curve : curves) sum += greatest_power(*curve).watts;
  return sum;
}

double worst_window(std::span<const PowerCurve* const> curves, double length) {
  double sum = 0.0;
  for (const PowerCurve* curve : curves) sum += greatest_window(*curve, length).watts;
  return sum;
}

namespace {

PowerCurve turned(const PowerCurve& curve) {
  PowerCurve out = curve;
  for (PowerPiece& piece : out.pieces) piece.watts *= -1.0;
  return out;
}

} // namespace

double worst_return(std::span<const PowerCurve* const> curves, const std::function<bool()>& wanted) {
  std::vector<PowerCurve> back;
  double longest = 0.0, shortest = HUGE_VAL;
  for (const PowerCurve* curve : curves) {
    if (mean_power(*curve) < 0.0) return std::numeric_limits<double>::infinity();
    back.push_back(turned(*curve));
    longest = std::max(longest, curve->period());
    for (const PowerPiece& piece : curve->pieces) shortest = std::min(shortest, piece.length());
  }
  // in the length w the sum is smooth between few corners: a fine net, then the best place halved down
  const auto returned = [&](double w) {
    double sum = 0.0;
    for (const PowerCurve& curve : back) sum += w * greatest_window(curve, w).watts;
    return sum;
  };
  constexpr int net = 120;
  const double first = std::clamp(shortest, 1e-4 * longest, 0.01 * longest);
  const double ratio = std::pow(longest / first, 1.0 / net);
  double best = 0.0, at = 0.0;
  for (int i = 0; i <= net && wanted(); ++i) {
    const double w = first * std::pow(ratio, i);
    if (const double value = returned(w); value > best) best = value, at = w;
  }
  if (at == 0.0) return 0.0;
  double low = at / ratio, high = std::min(longest, at * ratio);
  for (int i = 0; i < 24 && wanted(); ++i) {
    const double a = low + 0.382 * (high - low), b = low + 0.618 * (high - low);
    if (returned(a) < returned(b))
      low = a;
    else
      high = b;
  }
  return std::max(best, returned(0.5 * (low + high)));
}

namespace {

constexpr int ticks_of_cycle = 1000;
constexpr int coarse = 5; // ticks between starts that are tried first

/// The greatest of a curve within every tick.
std::vector<double> greatest_per_tick(const PowerCurve& power, double tick) {
  const auto count = static_cast<std::size_t>(std::ceil(power.period() / tick - 1e-9));
  std::vector<double> out(std::max<std::size_t>(count, 1), -HUGE_VAL);
  for (const PowerPiece& piece : power.pieces) {
    auto k = static_cast<std::size_t>(std::max(0.0, std::floor(piece.from / tick)));
    for (; k < out.size() && static_cast<double>(k) * tick < piece.to; ++k) {
      const double from = std::max(piece.from, static_cast<double>(k) * tick);
      const double to = std::min(piece.to, static_cast<double>(k + 1) * tick);
      if (to <= from) continue;
      const Series part = piece.watts.part(std::max(-1.0, piece.share(from)), std::min(1.0, piece.share(to)));
      for (const double u : part.turning_points()) out[k] = std::max(out[k], part(u));
    }
  }
  return out;
}

class Search {
public:
  explicit Search(const StaggerAsked& asked) : asked_(asked), blocks_(asked.blocks) {}

  Expected<Staggered> run() {
    const auto placed = place(blocks_, asked_.pace);
    if (!placed) return placed.problem();
    pace_ = asked_.pace;
    pace_.cycle = placed->cycle + asked_.longer;
    tick_ = pace_.cycle / ticks_of_cycle;
    for (std::size_t b = 0; b < blocks_.size(); ++b) tick_block(b);
    base_ = counted(asked_.base);
    Staggered out;
    out.cycle = pace_.cycle;
    out.before = peak(*placed, 0.0);
    out.before_with_jitter = peak(*placed, asked_.jitter);
    double best = out.before;
    for (int sweep = 0; sweep < 4; ++sweep) {
      bool moved = false;
      for (std::size_t b = 0; b < blocks_.size() && asked_.wanted(); ++b)
        if (asked_.moves.empty() || asked_.moves[b]) moved |= improve(b, best);
      if (!moved) break;
    }
    const auto after = place(blocks_, pace_);
    if (!after) return after.problem();
    out.peak = peak(*after, 0.0);
    out.with_jitter = peak(*after, asked_.jitter);
    out.bound = bound();
    for (const Block& block : blocks_) out.offsets.push_back(block.offset);
    return out;
  }

private:
  [[nodiscard]] double counted(double watts) const {
    return asked_.count_on_returns ? watts : std::max(0.0, watts);
  }

  void tick_block(std::size_t b) {
    const double waiting = counted(asked_.waiting[b]);
    const std::vector<double> one = greatest_per_tick(asked_.powers[b], tick_);
    std::vector<double> above; // of what its axis takes while it waits
    for (std::size_t r = 0; r < asked_.blocks[b].repeats && above.size() < 4 * ticks_of_cycle; ++r)
      for (const double watts : one) above.push_back(counted(watts) - waiting);
    ticked_.push_back(std::move(above));
  }

  /// The greatest sum of every tick; a start between two ticks counts in both.
  double peak(const Schedule& schedule, double jitter) {
    sum_.assign(ticks_of_cycle, base_);
    const auto around = static_cast<std::ptrdiff_t>(std::ceil(jitter / tick_ - 1e-9));
    for (std::size_t b = 0; b < blocks_.size(); ++b) {
      const std::vector<double>& above = ticked_[b];
      const double start = schedule.blocks[b].start / tick_;
      const auto first = static_cast<std::ptrdiff_t>(std::floor(start + 1e-6));
      const bool between = start - static_cast<double>(first) > 1e-6;
      const std::ptrdiff_t before = around, after = around + (between ? 1 : 0);
      const auto n = static_cast<std::ptrdiff_t>(above.size());
      if (before == 0 && after == 0) {
        for (std::ptrdiff_t k = 0; k < n; ++k) at(first + k) += above[static_cast<std::size_t>(k)];
        continue;
      }
      for (std::ptrdiff_t k = -before; k < n + after; ++k) { // the greatest of the starts it may have
        double most = k - after < 0 || k + before >= n ? 0.0 : -HUGE_VAL;
        for (std::ptrdiff_t j = std::max<std::ptrdiff_t>(0, k - after); j <= std::min(n - 1, k + before); ++j)
          most = std::max(most, above[static_cast<std::size_t>(j)]);
        at(first + k) += most;
      }
    }
    return *std::max_element(sum_.begin(), sum_.end());
  }

  double& at(std::ptrdiff_t tick) {
    const auto n = static_cast<std::ptrdiff_t>(ticks_of_cycle);
    return sum_[static_cast<std::size_t>(((tick % n) + n) % n)];
  }

  /// Moves one block to the start that gives the least peak; false where it stays.
  bool improve(std::size_t b, double& best) {
    const double old = blocks_[b].offset;
    double kept = old;
    const auto look = [&](double offset) {
      blocks_[b].offset = std::max(0.0, offset);
      const auto placed = place(blocks_, pace_);
      if (!placed) return;
      if (const double value = peak(*placed, 0.0); value < best * (1.0 - 1e-9)) {
        best = value;
        kept = blocks_[b].offset;
      }
    };
    for (int k = 0; k < ticks_of_cycle && asked_.wanted(); k += coarse) look(k * tick_);
    const double around = kept;
    for (int k = 1 - coarse; k < coarse; ++k) look(around + k * tick_);
    blocks_[b].offset = kept;
    return kept != old;
  }

  /// No offsets bring the peak below the mean, nor below one block's peak with all others at their least.
  [[nodiscard]] double bound() const {
    double mean = base_, single = base_;
    for (std::size_t b = 0; b < ticked_.size(); ++b) {
      const auto& above = ticked_[b];
      const PowerCurve& power = asked_.powers[b];
      const double once = asked_.count_on_returns ? mean_power(power) * power.period() : drawn_energy(power);
      mean += (once * static_cast<double>(blocks_[b].repeats) -
               counted(asked_.waiting[b]) * blocks_[b].duration()) /
              pace_.cycle;
      double others = base_;
      for (std::size_t k = 0; k < ticked_.size(); ++k)
        if (k != b && blocks_[k].axis != blocks_[b].axis)
          others += std::min(0.0, *std::min_element(ticked_[k].begin(), ticked_[k].end()));
      single = std::max(single, others + *std::max_element(above.begin(), above.end()));
    }
    return std::max(mean, single);
  }

  const StaggerAsked& asked_;
  std::vector<Block> blocks_;
  std::vector<std::vector<double>> ticked_; ///< W of every block above waiting, the greatest in every tick
  std::vector<double> sum_;
  Pace pace_;
  double tick_ = 0.0, base_ = 0.0;
};

} // namespace

Expected<Staggered> stagger(const StaggerAsked& asked) { return Search(asked).run(); }

} // namespace fulmox
