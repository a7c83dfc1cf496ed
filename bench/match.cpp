// Measures the search of Match on a large seeded library made of the shipped parts with their figures moved:
// combinations decided a second with one thread and two, and the share that fits, which decides the time more
// than the size does. Prints; judges nothing.
//   bench_match [MOTORS HEADS DRIVES [AXIS]]

#include "bench/large_library.hpp"
#include "bench/times.hpp"
#include "core/library/catalogue.hpp"
#include "core/match/ranking.hpp"
#include "core/match/try_again.hpp"
#include "core/project/document.hpp"
#include "core/support/data_folder.hpp"

#include <cstdlib>
#include <fstream>

using namespace fulmox;
using namespace fulmox::bench;

namespace {

/// MB that the process has used at most.
double most_memory() {
  std::ifstream status("/proc/self/status");
  for (std::string word; status >> word;)
    if (word == "VmHWM:") {
      double kilobytes = 0.0;
      status >> kilobytes;
      return kilobytes / 1024.0;
    }
  return 0.0;
}

} // namespace

int main(int argc, char** argv) {
  const auto number = [&](int place, std::size_t usual) {
    return argc > place ? static_cast<std::size_t>(std::atoll(argv[place])) : usual;
  };
  const std::size_t motors = number(1, 400), heads = number(2, 60), drives = number(3, 60),
                    axis = number(4, 1);
  const auto shipped = load_library(data_folder() / "library");
  const auto demo = load_document(data_folder() / "demo" / "transplanter.fulmox");
  if (!shipped || !demo || axis >= demo->axes.size()) return 1;
  const Library library = large_library(*shipped, motors, heads, drives);
  const MatchSpace space = match_space(demo->axes[axis], library);
  for (const unsigned threads : {1U, 2U}) {
    MatchRun run;
    run.threads = threads;
    run.misses = 100;
    run.settle = 0;
    const auto begin = Clock::now();
    double first = 0.0, some = 0.0;
    run.some = [&](const MatchResult&) { some = milliseconds(Clock::now() - begin); };
    run.first = [&](const MatchResult&) { first = milliseconds(Clock::now() - begin); };
    MatchResult result = search(demo->axes[axis], demo->house_rules, space, run);
    const double all = milliseconds(Clock::now() - begin);
    std::printf(
        "search, %u thread%s: %.3g combinations, %.2f %% fit, some after %.0f ms, list after %.0f ms, "
        "whole after %.0f ms, %.3g a second, at most %.0f MB\n",
        threads, threads > 1 ? "s" : " ", result.tried,
        100.0 * static_cast<double>(result.fits.size()) / result.tried, some, first, all,
        result.tried / all * 1000.0, most_memory());
    if (threads > 1) {
      Settler settle(demo->axes[axis], demo->house_rules, space);
      repeat("other weights, 100 best settled of " + std::to_string(result.fits.size()), 20, [&] {
        const auto order =
            ranked(space, result.fits, {{"price", 1.0}, {"mass", 2.0}}, {}, settle, 100, threads).order;
        if (order.empty() && !result.fits.empty()) std::abort();
      });
      const auto by_usual = ranked(space, result.fits, usual_weights(), {}, settle, 100).order;
      std::vector<Combination> best;
      for (std::size_t i = 0; i < std::min<std::size_t>(by_usual.size(), 400); ++i)
        best.push_back(result.fits.parts(by_usual[i]));
      Axis edited = demo->axes[axis];
      edited["surroundings"].type("ambient", "31 degC"); // another axis than the one that was searched
      repeat("  the first list after an edit: of " + std::to_string(best.size()) + " what still fits", 20,
             [&] { (void)try_again(edited, demo->house_rules, space, best, run); });
      repeat("  best front of price and worst limit", 20, [&] {
        (void)best_front(space, result.fits, {}, *find_yardstick("price"), *find_yardstick("used"), settle,
                         threads);
      });
      Filter cheap;
      cheap.most_price = 2000.0;
      repeat("another filter: the list", 20,
             [&] { (void)ranked(space, result.fits, usual_weights(), cheap, settle, 100, threads); });
      repeat("  what each value of every filter leaves", 20,
             [&] { (void)facet_counts(space, result.fits, cheap, threads); });
    }
  }
  return 0;
}
