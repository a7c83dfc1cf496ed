#include "core/match/sieve.hpp"
#include "core/match/yardstick_reader.hpp"
#include "core/support/in_parts.hpp"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <limits>
#include <numeric>
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

/// Those that no stair beats, by rising place, which is the order in which they lie in memory: that of the
/// list leads all over it.
std::vector<Dot> dots_of(std::span<const Trial> trials, std::span<const std::size_t> places,
                         const YardstickReader& along, const YardstickReader& up, unsigned threads,
                         const Stair& stair = {}) {
  std::vector<bool> looked_at(trials.size(), places.size() == trials.size());
  if (places.size() < trials.size())
    for (const std::size_t place : places) looked_at[place] = true;
  return in_parts(trials.size(), threads, many_trials, [&](std::size_t from, std::size_t to) {
    std::vector<Dot> dots;
    for (std::size_t place = from; place < to; ++place) {
      if (!looked_at[place]) continue;
      const Dot dot{along(trials[place]), up(trials[place]), place};
      if (std::isfinite(dot.x) && std::isfinite(dot.y) && !stair.beats(dot)) dots.push_back(dot);
    }
    return dots;
  });
}

std::vector<std::size_t> front_of(const std::vector<Dot>& dots, std::span<const Trial> trials) {
  std::vector<Dot> some = not_beaten(dots, dots);
  std::sort(some.begin(), some.end(), [&](const Dot& a, const Dot& b) {
    return std::tie(a.x, a.y, trials[a.place].parts) < std::tie(b.x, b.y, trials[b.place].parts);
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
std::vector<std::size_t> settled_front(std::vector<Dot> dots, std::span<Trial> trials,
                                       const YardstickReader& along, const YardstickReader& up,
                                       Settler& settle) {
  // what is beaten even at the least it may be worth is beaten; what is not must be known
  for (;;) {
    auto front = front_of(dots, trials);
    bool moved = false;
    std::vector<Dot> known;
    for (const std::size_t place : front) {
      const bool before = trials[place].settled;
      if (!before) settle(trials[place]);
      if (!trials[place].settled) continue;
      moved = moved || !before;
      const auto dot = std::lower_bound(dots.begin(), dots.end(), place,
                                        [](const Dot& a, std::size_t b) { return a.place < b; });
      const Dot settled{along(trials[place]), up(trials[place]), place};
      if (std::isfinite(settled.x) && std::isfinite(settled.y))
        known.push_back(*dot = settled);
      else
        dot->y = std::numeric_limits<double>::infinity(); // is nowhere in the picture
    }
    if (!moved) return front;
    dots = not_beaten(dots, known); // for good: what is not known yet only gets worse
  }
}

/// The front of some of the places, as many as cost little: it beats most of the others before they are
/// looked at closely.
Stair stair_of_some(std::span<Trial> trials, std::span<const std::size_t> places,
                    const YardstickReader& along, const YardstickReader& up, Settler& settle) {
  constexpr std::size_t few = 2000;
  Stair stair;
  if (places.size() < 8 * few) return stair;
  std::vector<std::size_t> some;
  for (std::size_t i = 0; i < places.size(); i += places.size() / few) some.push_back(places[i]);
  for (const std::size_t place :
       settled_front(dots_of(trials, some, along, up, 1), trials, along, up, settle))
    if (trials[place].settled) stair.add({along(trials[place]), up(trials[place]), place});
  return stair;
}

} // namespace

std::vector<std::size_t> best_front(const MatchSpace& space, std::span<const Trial> trials,
                                    std::span<const std::size_t> places, const Yardstick& x,
                                    const Yardstick& y) {
  return front_of(dots_of(trials, places, YardstickReader(space, x), YardstickReader(space, y), 1), trials);
}

std::vector<std::size_t> best_front(const MatchSpace& space, std::span<Trial> trials,
                                    std::span<const std::size_t> places, const Yardstick& x,
                                    const Yardstick& y, Settler& settle, unsigned threads) {
  const YardstickReader along(space, x), up(space, y);
  const Stair stair = stair_of_some(trials, places, along, up, settle);
  return settled_front(dots_of(trials, places, along, up, threads, stair), trials, along, up, settle);
}

} // namespace fulmox
