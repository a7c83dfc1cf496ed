#include "core/demand/spans.hpp"

#include <boost/math/tools/minima.hpp>
#include <boost/math/tools/toms748_solve.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <span>

namespace fulmox {
namespace {

/// Functions of time whose sign changes mark a corner in some integrand; those of stages that are not there
/// stay unused.
using Corners = std::array<double, stage_limit + 2 + 5>;
std::size_t corner_count(const AxisModel& model) { return 5 + model.stages.size() + 2; }

Corners corners(const AxisModel& model, const Instant& now) {
  const double rated = model.motor.has_kt() ? model.motor.kt * model.motor.rated_current
                                            : std::numeric_limits<double>::quiet_NaN();
  const double air_gap = now.torque + model.motor.drag_torque(now.speed, now.input.direction);
  Corners all{now.torque.value, air_gap, now.bus_power, now.output.load_speed,
              std::isnan(rated) ? 1.0 : std::abs(air_gap) - rated};
  // mechanism and stages in a row, the gearhead at the very end
  const auto stages = static_cast<std::ptrdiff_t>(model.stages.size());
  const auto gear = std::copy_n(now.crossings.begin(), stages + 1, all.begin() + 5);
  *gear = now.crossings.back();
  return all;
}

/// Whether a curve through three values of one sign may reach zero between them: the parabola's bottom comes
/// near.
bool may_dip(const std::array<double, 3>& t, const std::array<double, 3>& f) {
  if (!(f[0] * f[1] > 0.0 && f[1] * f[2] > 0.0)) return false;
  // bent away from zero: most are, and need no division
  if (!(((f[0] - f[1]) * (t[2] - t[1]) + (f[2] - f[1]) * (t[1] - t[0])) * f[1] > 0.0)) return false;
  const double first = (f[1] - f[0]) / (t[1] - t[0]);
  const double bend = ((f[2] - f[1]) / (t[2] - t[1]) - first) / (t[2] - t[0]);
  if (!(bend * f[1] > 0.0)) return false;
  // f = f0 + first·(t − t0) + bend·(t − t0)(t − t1)
  const double bottom = 0.5 * (t[0] + t[1] - first / bend);
  if (!(bottom > t[0] && bottom < t[2])) return false;
  const double value = f[0] + first * (bottom - t[0]) + bend * (bottom - t[0]) * (bottom - t[1]);
  constexpr double near = 0.3;
  return value * f[1] < near * f[1] * f[1];
}

/// Finds the corners within one piece.
class Cutter {
public:
  Cutter(const AxisModel& model, const Piece& piece, std::span<const Instant> samples)
      : model_(model), piece_(piece) {
    times_.reserve(samples.size());
    seen_.reserve(samples.size());
    for (const Instant& now : samples) {
      times_.push_back(std::min(now.time - piece.start, piece.duration));
      seen_.push_back(corners(model, now));
    }
  }

  void cut(std::vector<double>& cuts) {
    for (std::size_t k = 0; k < corner_count(model_); ++k)
      for (std::size_t i = 1; i < times_.size(); ++i) {
        const double before = seen_[i - 1][k], here = seen_[i][k];
        if (before * here < 0.0)
          cuts.push_back(root(k, times_[i - 1], times_[i], before, here));
        else if (i + 1 < times_.size() &&
                 may_dip({times_[i - 1], times_[i], times_[i + 1]}, {before, here, seen_[i + 1][k]}))
          cut_dip(k, i, cuts);
      }
  }

private:
  double value(std::size_t k, double tau) {
    return corners(model_, model_.at(piece_.index, tau, silent_))[k];
  }

  double root(std::size_t k, double from, double to, double at_from, double at_to) {
    std::uintmax_t tries = 60;
    const auto bracket =
        boost::math::tools::toms748_solve([&](double tau) { return value(k, tau); }, from, to, at_from, at_to,
                                          boost::math::tools::eps_tolerance<double>(48), tries);
    return 0.5 * (bracket.first + bracket.second);
  }

  /// It may touch zero and come back between two looks.
  void cut_dip(std::size_t k, std::size_t i, std::vector<double>& cuts) {
    const double sign = seen_[i][k] > 0.0 ? 1.0 : -1.0;
    constexpr int bits = 20;
    const auto low = boost::math::tools::brent_find_minima([&](double tau) { return sign * value(k, tau); },
                                                           times_[i - 1], times_[i + 1], bits);
    if (low.second >= 0.0) return;
    cuts.push_back(root(k, times_[i - 1], low.first, seen_[i - 1][k], sign * low.second));
    cuts.push_back(root(k, low.first, times_[i + 1], sign * low.second, seen_[i + 1][k]));
  }

  const AxisModel& model_;
  const Piece& piece_;
  std::vector<double> times_;
  std::vector<Corners> seen_;
  Recorder silent_{false};
};

/// Where forces follow the position, one rule only reaches as far as they stay smooth.
void cut_by_travel(const AxisModel& model, const Piece& piece, std::vector<double>& cuts) {
  const double smooth = model.mechanism->smooth_travel();
  if (std::isfinite(smooth)) {
    const int count = looks_over_travel(piece, smooth);
    for (int i = 1; i < count; ++i) cuts.push_back(piece.duration * i / count);
  } else if (model.mechanism->position_matters()) {
    cuts.push_back(0.5 * piece.duration); // the square of a high law's travel is too much for one rule
  }
}

} // namespace

int looks_over_travel(const Piece& piece, double smooth) {
  constexpr int least = 10;
  const double travel = std::abs(piece.position(piece.duration) - piece.position(0.0));
  // half the steps may fall on a fast stretch: twice as many keep each within the smooth travel
  return std::max(least, 2 * static_cast<int>(std::ceil(travel / smooth)));
}

std::vector<Span> spans_of(const AxisModel& model, const Trace& trace) {
  std::vector<Span> all;
  std::size_t sample = 0;
  for (const Piece& piece : model.cycle.pieces) {
    const std::size_t first = sample;
    while (sample < trace.samples.size() && trace.samples[sample].piece == piece.index) ++sample;
    std::vector<double> cuts{0.0, piece.duration};
    cuts.insert(cuts.end(), piece.cuts.begin(), piece.cuts.end());
    if (!piece.rest()) {
      cut_by_travel(model, piece, cuts);
      Cutter(model, piece, std::span(trace.samples).subspan(first, sample - first)).cut(cuts);
    }
    std::sort(cuts.begin(), cuts.end());
    for (std::size_t i = 1; i < cuts.size(); ++i)
      if (cuts[i] - cuts[i - 1] > 1e-12 * piece.duration) all.push_back({piece.index, cuts[i - 1], cuts[i]});
  }
  return all;
}

} // namespace fulmox
