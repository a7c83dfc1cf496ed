#include "core/match/sieve.hpp"
#include "core/match/yardstick_reader.hpp"
#include "core/support/in_parts.hpp"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <limits>
#include <numeric>
#include <optional>
#include <set>
#include <tuple>

namespace fulmox {
namespace {

struct Dot {
  double x, y;
  std::size_t place;
};

/// Those of `dots` that none of `by` further left beats, and few that one does: by columns, each against the
/// lowest of all columns before it. Putting millions in order takes longer than anything else of a picture.
std::vector<Dot> not_beaten(const std::vector<Dot>& dots, const std::vector<Dot>& by) {
  if (dots.empty()) return dots;
  const auto [first, last] =
      std::minmax_element(dots.begin(), dots.end(), [](const Dot& a, const Dot& b) { return a.x < b.x; });
  const double left = first->x, width = last->x - first->x;
  if (!(width > 0.0)) return dots;
  constexpr std::size_t columns = 4096;
  const auto column = [&](const Dot& dot) { // never falls where x rises
    const double at = std::clamp((dot.x - left) / width * columns, 0.0, columns - 1.0);
    return static_cast<std::size_t>(at);
  };
  std::vector<double> lowest(columns + 1, std::numeric_limits<double>::infinity()); // before each column
  for (const Dot& dot : by) {
    double& there = lowest[column(dot) + 1];
    there = std::min(there, dot.y);
  }
  std::partial_sum(lowest.begin(), lowest.end(), lowest.begin(),
                   [](double a, double b) { return std::min(a, b); });
  std::vector<Dot> left_over;
  std::copy_if(dots.begin(), dots.end(), std::back_inserter(left_over),
               [&](const Dot& dot) { return dot.y < lowest[column(dot)]; });
  return left_over;
}

/// Dots that are known for good, rising in x and falling in y: what lies right of one and not below is
/// beaten.
class Stair {
public:
  void add(const Dot& dot) { steps_.push_back(dot); }
  [[nodiscard]] bool beats(const Dot& dot) const {
    const auto right = std::lower_bound(steps_.begin(), steps_.end(), dot.x,
                                        [](const Dot& step, double x) { return step.x < x; });
    return right != steps_.begin() && std::prev(right)->y <= dot.y;
  }

private:
  std::vector<Dot> steps_;
};

/// Over two yardsticks.
struct Measures {
  const YardstickReader &along, &up;
  [[nodiscard]] Dot operator()(std::size_t place, const Trial& trial) const {
    return {along(trial), up(trial), place};
  }
  /// Nothing of a block lies left of it or below; not told where either is not.
  [[nodiscard]] std::optional<Dot> least(const FitBlock& block) const {
    const Dot corner{along.least(block), up.least(block), 0};
    return std::isfinite(corner.x) && std::isfinite(corner.y) ? std::optional(corner) : std::nullopt;
  }
};

/// Those that pass and that no stair beats, by rising place.
std::vector<Dot> dots_of(const Fits& fits, const Sieve& sieve, const Measures& measured, const Stair& stair,
                         unsigned threads) {
  return in_parts(fits.size(), threads, many_trials, [&](std::size_t from, std::size_t to) {
    std::vector<Dot> dots;
    const auto add = [&](std::size_t place, const Trial& trial) {
      const Dot dot = measured(place, trial);
      if (std::isfinite(dot.x) && std::isfinite(dot.y) && !stair.beats(dot)) dots.push_back(dot);
    };
    fits.each(
        from, to,
        [&](std::size_t place, const Trial& trial) {
          if (sieve.passes(trial.parts)) add(place, trial);
        },
        [&](const Fits::Part& part) {
          const auto corner = measured.least(part.block());
          if (corner && stair.beats(*corner)) return;
          sieve.passing(part, [&](std::uint32_t drive) { add(part.place(drive), part.trial(drive)); });
        });
    return dots;
  });
}

/// `parts_at` tells the parts of a place.
template <class PartsAt>
std::vector<std::size_t> front_of(const std::vector<Dot>& dots, const PartsAt& parts_at) {
  std::vector<Dot> some = not_beaten(dots, dots);
  std::sort(some.begin(), some.end(), [&](const Dot& a, const Dot& b) {
    if (a.x != b.x || a.y != b.y) return std::tie(a.x, a.y) < std::tie(b.x, b.y);
    return parts_at(a.place) < parts_at(b.place);
  });
  std::vector<std::size_t> front;
  double least = std::numeric_limits<double>::infinity();
  for (const Dot& dot : some)
    if (dot.y < least) {
      least = dot.y;
      front.push_back(dot.place);
    }
  return front;
}

/// The front of dots of which some are not known yet: those on it are settled, until all of it are.
std::vector<std::size_t> settled_front(std::vector<Dot> dots, Fits& fits, const Measures& measured,
                                       Settler& settle) {
  std::set<std::size_t> known_before;
  // what is beaten even at the least it may be worth is beaten; what is not must be known
  for (;;) {
    auto front = front_of(dots, [&](std::size_t place) { return fits.parts(place); });
    bool moved = false;
    std::vector<Dot> known;
    for (const std::size_t place : front) {
      const bool fresh = known_before.insert(place).second;
      const Trial trial = fits.settle(place, settle);
      if (!trial.settled) continue;
      moved = moved || fresh;
      const auto dot = std::lower_bound(dots.begin(), dots.end(), place,
                                        [](const Dot& a, std::size_t b) { return a.place < b; });
      const Dot settled = measured(place, trial);
      if (std::isfinite(settled.x) && std::isfinite(settled.y))
        known.push_back(*dot = settled);
      else
        dot->y = std::numeric_limits<double>::infinity(); // is nowhere in the picture
    }
    if (!moved) return front;
    dots = not_beaten(dots, known); // for good: what is not known yet only gets worse
  }
}

/// The front of some of those that pass, as many as cost little: it beats most of the others before they are
/// looked at closely.
Stair stair_of_some(Fits& fits, const Sieve& sieve, const Measures& measured, Settler& settle) {
  constexpr std::size_t few = 2000;
  Stair stair;
  if (fits.size() < 8 * few) return stair;
  std::vector<Dot> some;
  for (std::size_t place = 0; place < fits.size(); place += fits.size() / few) {
    const Trial trial = fits[place];
    if (!sieve.passes(trial.parts)) continue;
    const Dot dot = measured(place, trial);
    if (std::isfinite(dot.x) && std::isfinite(dot.y)) some.push_back(dot);
  }
  for (const std::size_t place : settled_front(std::move(some), fits, measured, settle))
    if (const Trial trial = fits[place]; trial.settled) stair.add(measured(place, trial));
  return stair;
}

} // namespace

std::vector<std::size_t> best_front(const MatchSpace& space, std::span<const Trial> trials,
                                    std::span<const std::size_t> places, const Yardstick& x,
                                    const Yardstick& y) {
  std::vector<Dot> dots;
  for (const std::size_t place : places) {
    const Dot dot{x.value(space, trials[place]), y.value(space, trials[place]), place};
    if (std::isfinite(dot.x) && std::isfinite(dot.y)) dots.push_back(dot);
  }
  return front_of(dots, [&](std::size_t place) { return trials[place].parts; });
}

std::vector<std::size_t> best_front(const MatchSpace& space, Fits& fits, const Filter& filter,
                                    const Yardstick& x, const Yardstick& y, Settler& settle,
                                    unsigned threads) {
  const YardstickReader along(space, x, fits), up(space, y, fits);
  const Sieve sieve(space, filter);
  const Measures measured{along, up};
  const Stair stair = stair_of_some(fits, sieve, measured, settle);
  return settled_front(dots_of(fits, sieve, measured, stair, threads), fits, measured, settle);
}

} // namespace fulmox
