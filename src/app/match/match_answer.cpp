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

/// So many of some, an even way apart.
void add_some(std::vector<std::size_t>& dots, std::span<const std::size_t> some, std::size_t number) {
  for (std::size_t i = 0; i < number; ++i) dots.push_back(some[i * some.size() / number]);
}

std::vector<std::size_t> dots_of(const MatchList& list) {
  const auto& order = list.order;
  if (order.size() <= most_dots) return order;
  constexpr std::size_t half = most_dots / 2;
  std::vector<std::size_t> dots(order.begin(), order.begin() + half);
  // as many of those in order as they are among all
  const std::size_t near = half * (order.size() - half) / (list.passing - half);
  add_some(dots, std::span(order).subspan(half), near);
  add_some(dots, list.others, std::min(half - near, list.others.size()));
  const auto front = missing(list.front, dots);
  dots.insert(dots.end(), front.begin(), front.end());
  return dots;
}

std::vector<std::size_t> rows_of(const MatchList& list) {
  std::vector<std::size_t> rows = list.order;
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
  Fits& fits = result.fits;
  if (ordered) {
    list->order = last->order;
    list->others = last->others;
    list->passing = last->passing;
  } else {
    Ranked found = ranked(space, fits, asked.weights, asked.filter, *settle, settled_rows, threads);
    list->order = std::move(found.order);
    list->others = std::move(found.others);
    list->passing = found.passing;
  }
  list->front = same_picture
                    ? last->front
                    : best_front(space, fits, asked.filter, *asked.across, *asked.up, *settle, threads);
  list->dots = dots_of(*list);
  list->rows = rows_of(*list);
  last = list;
  return *last;
}

} // namespace fulmox::app
