// What the kept states of a machine may take, measured on the process itself: strict as released, so this
// stands apart from the tests that run under sanitizers only.

#include "core/project/history.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <fstream>
#include <string>
#include <unistd.h>

using namespace fulmox;
using namespace fulmox::testing;

TEST_CASE("five hundred states of a large machine take less than 200 MB") {
  const auto resident = [] {
    std::ifstream in("/proc/self/statm");
    long total = 0, pages = 0;
    in >> total >> pages;
    return static_cast<double>(pages) * static_cast<double>(::sysconf(_SC_PAGESIZE)) * 1e-6;
  };
  Document document = demo();
  Axis& axis = document.axes[0];
#ifdef FULMOX_SANITIZED
  constexpr double most = 800.0; // guarded, and kept for a while after it was freed
#else
  constexpr double most = 200.0;
#endif
  SECTION("two thousand segments") {
    for (int i = 0; i < 1000; ++i) {
      add_move(axis, i % 2 == 0 ? "100 mm" : "-100 mm", "0.4 s", "1/3", "1/3");
      add_dwell(axis, "0.1 s");
    }
    number_sections(axis);
    const double before = resident();
    History history(document);
    for (int i = 1; i <= 500; ++i) {
      Document next = history.now();
      next.axes[0].cycle[static_cast<std::size_t>(3 * i)].type("time", std::to_string(i) + " ms");
      history.change(std::move(next), "edit");
    }
    CHECK(resident() - before < most);
    int steps = 0;
    while (history.undo()) ++steps;
    CHECK(steps >= 200);
  }
  SECTION("a record of a hundred thousand points, changed itself") {
    std::string points = "0 ms: 0 mm";
    for (int i = 1; i <= 100000; ++i)
      points += "; " + std::to_string(i) + " ms: " + std::to_string(i % 7) + " mm";
    add_segment(axis, "profile", {{"points", points}});
    const double before = resident();
    History history(document);
#ifdef FULMOX_SANITIZED
    constexpr int edits = 10; // each reads a hundred thousand points: a second and more under sanitizers
#else
    constexpr int edits = 100;
#endif
    for (int i = 1; i <= edits; ++i) {
      Document next = history.now();
      const std::string text = points + "; " + std::to_string(100000 + i) + " ms: 1 mm";
      next.axes[0].cycle.back().type("points", text);
      history.change(std::move(next), "edit");
    }
    CHECK(resident() - before < most);
    CHECK(history.can_undo());
    CHECK(history.now().axes[0].cycle.back().text("points").ends_with(std::to_string(100000 + edits) +
                                                                      " ms: 1 mm"));
  }
}
