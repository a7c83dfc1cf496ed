#include "core/motor/bench_winding.hpp"

#include "core/motor/constants.hpp"

#include <algorithm>
#include <cmath>
#include <functional>
#include <tuple>

namespace fulmox {
namespace {

using Verdict = std::pair<WindingKind, std::string_view>;

/// What the resistances alone say, the greatest first; nothing where they agree.
std::optional<Verdict> by_pairs(const std::array<double, 3>& sorted) {
  constexpr double alike = 0.02; // of three sound pairs
  if (sorted[0] <= (1.0 + alike) * sorted[2]) return std::nullopt;
  constexpr double doubtful = 0.06;
  const bool two_alike = sorted[1] <= (1.0 + doubtful) * sorted[2];
  // two windings in series between those leads, one alone between the others
  if (two_alike && std::abs(sorted[0] / sorted[2] - 2.0) <= 2.0 * doubtful)
    return Verdict{
        WindingKind::open_winding,
        "One pair has twice the resistance of the others: a delta with its winding between those two "
        "leads open. It heats like a wye, and must not run."};
  return Verdict{
      WindingKind::unknown,
      "The three pairs must agree within 2 %: clean the clips, use four wires below 10 Ω, look for "
      "shorted turns."};
}

Verdict by_heat(std::array<double, 3> rises) {
  std::sort(rises.begin(), rises.end(), std::greater<>());
  const double middle = rises[1] / rises[0], least = rises[2] / rises[0];
  if (middle < 0.1)
    return {WindingKind::unknown, "One winding hot, two cold fits no sound winding: look for an open one."};
  if (middle < 0.5) return {WindingKind::delta, "One winding hot, two warm (4 : 1 : 1 at first): a delta."};
  if (middle > 0.7 && least < 0.5) return {WindingKind::wye, "Two windings hot, one cold: a wye."};
  return {WindingKind::unknown,
          "The rises are too much alike: look within one or two minutes, later the heat has spread."};
}

} // namespace

ToldWinding told_winding(const BenchWinding& bench) {
  std::array<double, 3> sorted = bench.pairs;
  std::sort(sorted.begin(), sorted.end(), std::greater<>());
  ToldWinding out;
  const double mean = (sorted[0] + sorted[1] + sorted[2]) / 3.0;
  out.resistance = mean / warm_resistance(1.0, bench.temperature);
  out.spread = (sorted[0] - sorted[2]) / mean;
  constexpr double root3 = 1.7320508075688772;
  const double meter = 0.01 / root3, warmth = 2.0 / root3 * 0.00393, pairs = 0.5 * out.spread / root3;
  out.uncertainty = 2.0 * std::sqrt(meter * meter + warmth * warmth + pairs * pairs);
  if (const auto wrong = by_pairs(sorted)) {
    std::tie(out.kind, out.why) = *wrong;
    return out;
  }
  if (bench.heating) {
    std::tie(out.kind, out.why) = by_heat(*bench.heating);
    return out;
  }
  out.why = "The pairs agree. That does not tell wye from delta, and between leads nothing needs it.";
  return out;
}

} // namespace fulmox
