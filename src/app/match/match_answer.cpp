#include "app/match/match_answer.hpp"

#include <algorithm>
#include <iterator>
#include <thread>

namespace fulmox::app {
namespace {

/// A picture of more shows no more than a picture of so many.
constexpr std::size_t most_dots = 3000;

/// Those of `more` that are not among `places`, rising.
std::vector<std::size_t> missing(std::vector<std::size_t> more, std::vector<std::size_t> places) {
  std::sort(more.begin(), more.end());
  std::sort(places.begin(), places.end());
  std::vector<std::size_t> out;
  std::set_difference(more.begin(), more.end(), places.begin(), places.end(), std::back_inserter(out));
  return out;
}

std::vector<std::size_t> dots_of(const MatchList& list) {
  const auto& order = list.order;
  if (order.size() <= most_dots) return order;
  constexpr std::size_t half = most_dots / 2;
  std::vector<std::size_t> dots(order.begin(), order.begin() + half);
  for (std::size_t i = 0; i < half; ++i) dots.push_back(order[half + i * (order.size() - half) / half]);
  const auto front = missing(list.front, dots);
  dots.insert(dots.end(), front.begin(), front.end());
  return dots;
}

std::vector<std::size_t> rows_of(const MatchList& list) {
  const std::size_t number = std::min(list.order.size(), longest_order);
  std::vector<std::size_t> rows(list.order.begin(), list.order.begin() + static_cast<std::ptrdiff_t>(number));
  if (number == list.order.size()) return rows;
  const auto pictured = missing(list.dots, rows);
  rows.insert(rows.end(), pictured.begin(), pictured.end());
  return rows;
}

} // namespace

const MatchList& MatchAnswer::list(const ListAsked& asked) const {
  if (last != nullptr && last->asked == asked) return *last;
  constexpr std::size_t settled_rows = 60; // as many as a tall window shows
  const bool same_ones = last != nullptr && last->asked.filter == asked.filter;
  const bool ordered = same_ones && last->asked.weights == asked.weights;
  // what weights put in another order lies where it lay
  const bool same_picture = same_ones && last->asked.across == asked.across && last->asked.up == asked.up;
  const unsigned threads = std::thread::hardware_concurrency();
  const auto list = std::make_shared<MatchList>();
  list->asked = asked;
  const std::span<Trial> fits = result.fits;
  list->order = ordered ? last->order
                        : ranked(space, fits, asked.weights, asked.filter, *settle, settled_rows, threads);
  list->front = same_picture
                    ? last->front
                    : best_front(space, fits, list->order, *asked.across, *asked.up, *settle, threads);
  list->dots = dots_of(*list);
  list->rows = rows_of(*list);
  last = list;
  return *last;
}

std::optional<std::size_t> MatchAnswer::place_of(const Combination& parts) const {
  const auto at =
      std::lower_bound(result.fits.begin(), result.fits.end(), parts,
                       [](const Trial& trial, const Combination& of) { return trial.parts < of; });
  if (at == result.fits.end() || !(at->parts == parts)) return std::nullopt;
  return static_cast<std::size_t>(at - result.fits.begin());
}

} // namespace fulmox::app
