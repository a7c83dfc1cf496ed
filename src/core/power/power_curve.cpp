#include "core/power/power_curve.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

constexpr double one_moment = 1e-12; // s

PowerPiece part_of(const PowerPiece& piece, double from, double to) {
  if ((from <= piece.from && to >= piece.to) || piece.watts.size() < 2) return {from, to, piece.watts};
  return {from, to, piece.watts.part(std::max(-1.0, piece.share(from)), std::min(1.0, piece.share(to)))};
}

} // namespace

std::size_t PowerCurve::piece_at(double t) const {
  const auto after = std::upper_bound(pieces.begin(), pieces.end(), t,
                                      [](double time, const PowerPiece& piece) { return time < piece.to; });
  return after == pieces.end() ? pieces.size() - 1 : static_cast<std::size_t>(after - pieces.begin());
}

double PowerCurve::at(double t) const {
  if (pieces.empty()) return 0.0;
  double within = std::fmod(t, period());
  if (within < 0.0) within += period();
  const PowerPiece& piece = pieces[piece_at(within)];
  return piece.at(std::clamp(within, piece.from, piece.to));
}

PowerCurve constant_power(double watts, double period) {
  const std::array value{watts};
  return {{{0.0, period, Series::through(value)}}};
}

PowerCurve delayed(const PowerCurve& curve, double delay) {
  if (curve.pieces.empty()) return {};
  const double period = curve.period();
  double shift = std::fmod(delay, period);
  if (shift < 0.0) shift += period;
  if (shift < one_moment || period - shift < one_moment) return curve;
  const double cut = period - shift; // what is later than this comes back at the start
  PowerCurve out;
  out.pieces.reserve(curve.pieces.size() + 1);
  for (const PowerPiece& piece : curve.pieces)
    if (piece.to > cut + one_moment) {
      PowerPiece part = part_of(piece, std::max(piece.from, cut), piece.to);
      part.from = std::max(0.0, part.from - cut);
      part.to -= cut;
      out.pieces.push_back(std::move(part));
    }
  out.pieces.front().from = 0.0;
  out.pieces.back().to = shift;
  for (const PowerPiece& piece : curve.pieces)
    if (piece.from < cut - one_moment) {
      PowerPiece part = part_of(piece, piece.from, std::min(piece.to, cut));
      part.from += shift;
      part.to += shift;
      out.pieces.push_back(std::move(part));
    }
  out.pieces.back().to = period;
  for (std::size_t i = 1; i < out.pieces.size(); ++i) out.pieces[i].from = out.pieces[i - 1].to;
  return out;
}

PowerCurve sum_of(std::span<const PowerCurve* const> curves) {
  PowerCurve out;
  std::vector<double> times{0.0};
  for (const PowerCurve* curve : curves)
    for (const PowerPiece& piece : curve->pieces) times.push_back(piece.to);
  std::sort(times.begin(), times.end());
  const double period = times.back();
  std::vector<std::size_t> at(curves.size(), 0);
  double from = 0.0;
  out.pieces.reserve(times.size());
  for (double to : times) {
    if (period - to < one_moment) to = period;
    if (to - from < one_moment) continue;
    PowerPiece all{from, to, {}};
    for (std::size_t i = 0; i < curves.size(); ++i) {
      const auto& pieces = curves[i]->pieces;
      if (pieces.empty()) continue;
      while (at[i] + 1 < pieces.size() && pieces[at[i]].to < from + one_moment) ++at[i];
      all.watts += part_of(pieces[at[i]], from, to).watts;
    }
    out.pieces.push_back(std::move(all));
    from = to;
  }
  return out;
}

double mean_power(const PowerCurve& curve) {
  double energy = 0.0;
  for (const PowerPiece& piece : curve.pieces) energy += piece.energy();
  return energy / curve.period();
}

double rms_power(const PowerCurve& curve) {
  double sum = 0.0;
  for (const PowerPiece& piece : curve.pieces) {
    double square = 0.0;
    for (const auto& [u, weight] : gauss_rule(piece.watts.size()))
      square += weight * piece.watts(u) * piece.watts(u);
    sum += 0.5 * piece.length() * square;
  }
  return std::sqrt(sum / curve.period());
}

namespace {

/// Where sign·P is greatest.
PowerAt extreme(const PowerCurve& curve, double sign) {
  PowerAt best{-HUGE_VAL, 0.0};
  for (const PowerPiece& piece : curve.pieces) {
    if (piece.watts.bound() < best.watts) continue;
    for (const double u : piece.watts.turning_points())
      if (const double value = sign * piece.watts(u); value > best.watts) best = {value, piece.time(u)};
  }
  return {sign * best.watts, best.time};
}

/// Calls f(from, to, energy) for stretches of a piece, −1 … 1, in which P keeps its sign.
template <class F> void for_signs(const PowerPiece& piece, const F& f) {
  Series::Places cuts = piece.watts.crossings();
  if (cuts.empty()) return f(-1.0, 1.0, piece.energy());
  const Series sum = piece.watts.antiderivative();
  cuts.push_back(1.0);
  double from = -1.0, before = 0.0;
  for (const double to : cuts) {
    const double here = sum(to);
    f(from, to, 0.5 * piece.length() * (here - before));
    from = to;
    before = here;
  }
}

double energy_of(const PowerCurve& curve, double sign) {
  double sum = 0.0;
  for (const PowerPiece& piece : curve.pieces)
    for_signs(piece, [&](double, double, double energy) { sum += std::max(0.0, sign * energy); });
  return sum;
}

} // namespace

PowerCurve drawn_part(const PowerCurve& curve) {
  PowerCurve out;
  for (const PowerPiece& piece : curve.pieces)
    for_signs(piece, [&](double from, double to, double energy) {
      const Series nothing = Series::through(std::array{0.0});
      out.pieces.push_back(
          {piece.time(from), piece.time(to), energy > 0.0 ? piece.watts.part(from, to) : nothing});
    });
  for (std::size_t i = 1; i < out.pieces.size(); ++i) out.pieces[i].from = out.pieces[i - 1].to;
  return out;
}

PowerAt greatest_power(const PowerCurve& curve) { return extreme(curve, 1.0); }
PowerAt least_power(const PowerCurve& curve) { return extreme(curve, -1.0); }
double drawn_energy(const PowerCurve& curve) { return energy_of(curve, 1.0); }
double returned_energy(const PowerCurve& curve) { return energy_of(curve, -1.0); }

Reflected reflected_energy(const PowerCurve& curve) {
  std::vector<double> gains, ends;
  for (const PowerPiece& piece : curve.pieces)
    for_signs(piece, [&](double, double to, double energy) {
      gains.push_back(-energy);
      ends.push_back(piece.time(to));
    });
  return reflected(gains, ends);
}

/// W below and above which a piece surely does not go.
static std::array<double, 2> bounds_of(const PowerPiece& piece) {
  const double mean = piece.watts.mean(), swing = piece.watts.bound() - std::abs(mean);
  return {mean - swing, mean + swing};
}

/// s for which the piece is at most so high.
static double time_at_most(const PowerPiece& piece, double watts) {
  const auto [least, most] = bounds_of(piece);
  if (most <= watts) return piece.length();
  if (least > watts) return 0.0;
  Series over = piece.watts;
  over += -watts;
  Series::Places cuts = over.crossings();
  cuts.push_back(1.0);
  double from = -1.0, time = 0.0;
  for (const double to : cuts) {
    if (over(0.5 * (from + to)) <= 0.0) time += 0.5 * (to - from) * piece.length();
    from = to;
  }
  return time;
}

double share_at_most(const PowerCurve& curve, double watts) {
  double time = 0.0;
  for (const PowerPiece& piece : curve.pieces) time += time_at_most(piece, watts);
  return time / curve.period();
}

double percentile(const PowerCurve& curve, double q) {
  double low = least_power(curve).watts, high = greatest_power(curve).watts;
  const double settled = 1e-6 * (high - low), wanted = (q - 1e-12) * curve.period();
  if (share_at_most(curve, low) * curve.period() >= wanted) return low;
  std::vector<const PowerPiece*> open; // those not yet known to lie on one side of what is looked for
  for (const PowerPiece& piece : curve.pieces) open.push_back(&piece);
  double below = 0.0; // s of those below it
  while (high - low > settled) {
    const double middle = 0.5 * (low + high);
    double time = below;
    for (const PowerPiece* piece : open) time += time_at_most(*piece, middle);
    (time >= wanted ? high : low) = middle;
    std::erase_if(open, [&](const PowerPiece* piece) {
      const auto [least, most] = bounds_of(*piece);
      if (most <= low) below += piece->length();
      return most <= low || least > high;
    });
  }
  return high;
}

PowerAt greatest_window(const PowerCurve& curve, double length) {
  const double period = curve.period();
  const double whole = std::floor(length / period + 1e-12);
  const double rest = length - whole * period;
  const double cycles = whole * mean_power(curve) * period;
  if (rest < 1e-9 * period) return {cycles / length, period};

  // `ahead` and `behind` move through the same cycle, one stretch apart; the energy between them is greatest
  // where both powers are equal or where one of them jumps
  const auto& pieces = curve.pieces;
  std::size_t ahead = 0, behind = curve.piece_at(period - rest);
  double t = 0.0, back = period - rest; // where they stand
  double energy = 0.0;                  // J, of back … period (= 0 … t of the next cycle)
  for (std::size_t i = behind; i < pieces.size(); ++i)
    energy += part_of(pieces[i], std::max(back, pieces[i].from), pieces[i].to).energy();
  PowerAt best{energy, t};
  const auto offer = [&](double value, double time) {
    if (value > best.watts) best = {value, time};
  };
  while (ahead < pieces.size()) {
    const double step = std::min(pieces[ahead].to - t, pieces[behind].to - back);
    if (step > one_moment) {
      const PowerPiece out = part_of(pieces[behind], back, back + step);
      const PowerPiece in = part_of(pieces[ahead], t, t + step);
      // looked into only where it can be more than the best so far
      if (energy + step * (in.watts.bound() + out.watts.bound()) > best.watts) {
        Series gain = out.watts;
        gain *= -1.0;
        gain += in.watts;
        const Series sum = gain.antiderivative();
        for (const double u : gain.crossings())
          offer(energy + 0.5 * step * sum(u), t + 0.5 * step * (u + 1.0));
      }
      energy += in.energy() - out.energy();
      offer(energy, t + step);
    }
    const bool ahead_ends = pieces[ahead].to - t <= step + one_moment;
    const bool behind_ends = pieces[behind].to - back <= step + one_moment;
    t += step;
    back += step;
    if (ahead_ends && ++ahead < pieces.size()) t = pieces[ahead].from;
    if (behind_ends) {
      behind = (behind + 1) % pieces.size();
      back = pieces[behind].from;
    }
  }
  return {(best.watts + cycles) / length, best.time};
}

PowerAt greatest_heat(const PowerCurve& power, double time_constant) {
  double u = mean_power(power);
  PowerAt best{u, 0.0};
  for (int round = 0; round < 2; ++round) {
    // the second round starts from what the first ended with, corrected for what of its start is left
    if (round == 1) {
      const double left = std::exp(-power.period() / time_constant);
      u = left < 1.0 ? (u - left * mean_power(power)) / (1.0 - left) : u;
      best = {u, 0.0};
    }
    for (const PowerPiece& piece : power.pieces) {
      const double p = piece.watts.mean();
      u = p + (u - p) * std::exp(-piece.length() / time_constant);
      if (round == 1 && u > best.watts) best = {u, piece.to};
    }
  }
  return best;
}

} // namespace fulmox
