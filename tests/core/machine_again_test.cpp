#include "core/machine/controlled_stop.hpp"
#include "support/machines.hpp"

#include <catch2/catch.hpp>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

Document with_stop() {
  Document d = demo();
  ask_for_stop(d, "120 ms", "50 ms");
  return d;
}

MachineRun run_again(const Document& d, const MachineResult& results, const MachineRun& before) {
  MachineRun run = begin_machine(d, results, &before);
  finish_machine(run, d);
  return run;
}

void check_same(const MachineRun& a, const MachineRun& b) {
  REQUIRE(a.buses.size() == b.buses.size());
  for (std::size_t i = 0; i < a.buses.size(); ++i) {
    CHECK(a.power.buses[i].mean == b.power.buses[i].mean);
    CHECK(a.power.buses[i].peak.watts == b.power.buses[i].peak.watts);
    CHECK(a.buses[i].low->lowest == b.buses[i].low->lowest);
    REQUIRE(a.buses[i].limits.size() == b.buses[i].limits.size());
    for (std::size_t k = 0; k < a.buses[i].limits.size(); ++k) {
      const Limit &x = a.buses[i].limits[k], &y = b.buses[i].limits[k];
      INFO(a.power.buses[i].name << ", " << x.label);
      CHECK(x.id == y.id);
      CHECK((x.used == y.used || (std::isnan(x.used) && std::isnan(y.used))));
    }
  }
  REQUIRE(a.fed.size() == b.fed.size());
  for (std::size_t i = 0; i < a.fed.size(); ++i)
    CHECK((a.fed[i].low == b.fed[i].low || std::isnan(a.fed[i].low)));
}

} // namespace

TEST_CASE("a machine worked out again keeps its axes that did not change, and nothing else") {
  Document d = with_stop();
  const MachineResult first = evaluate(d);
  const MachineRun before = run_machine(d, first);
  REQUIRE(before.power.axes[0].stops != nullptr);

  SECTION("one axis typed anew") {
    d.axes[1]["load"].type("moved_mass", "31 kg");
    const MachineResult results = evaluate(d, first);
    const MachineRun again = run_again(d, results, before);
    check_same(again, run_machine(d, results));
    CHECK(again.power.axes[0].stops == before.power.axes[0].stops);
    CHECK(again.power.axes[1].stops != before.power.axes[1].stops);
    CHECK(again.power.axes[1].own.pieces.front().watts.mean() !=
          before.power.axes[1].own.pieces.front().watts.mean());
  }
  SECTION("what an axis does while it waits") {
    d.axes[0]["surroundings"].type("waiting", "off");
    const MachineResult results = evaluate(d, first);
    const MachineRun again = run_again(d, results, before);
    check_same(again, run_machine(d, results));
    CHECK(again.power.axes[0].waiting != before.power.axes[0].waiting);
  }
  SECTION("axes in another order, one gone") {
    std::swap(d.axes[0], d.axes[2]);
    std::swap(d.axes[3], d.axes.back());
    d.axes.pop_back();
    blocks_of(d).clear();
    number_sections(d);
    const MachineResult results = evaluate(d, first);
    const MachineRun again = run_again(d, results, before);
    check_same(again, run_machine(d, results));
    CHECK(again.power.axes[2].stops == before.power.axes[0].stops);
    CHECK(again.power.axes[2].name == d.axes[2].name);
  }
  SECTION("another time for slowing down") {
    d.pace.type("stop_ramp", "30 ms");
    const MachineResult results = evaluate(d, first);
    const MachineRun again = run_again(d, results, before);
    check_same(again, run_machine(d, results));
    CHECK(again.power.axes[0].stops->ramp == Approx(0.03));
    CHECK(again.buses[0].stop->slowing != before.buses[0].stop->slowing);
  }
  SECTION("other buses and house rules") {
    d.axes[0]["surroundings"].type("shared_bus", "Mains");
    d.house_rules.type("attention", "60 %");
    const MachineResult results = evaluate(d, first);
    check_same(run_again(d, results, before), run_machine(d, results));
  }
}

TEST_CASE("a controlled stop that nobody waits for is given up between axes") {
  const Document d = with_stop();
  MachineRun run = begin_machine(d, evaluate(d));
  int asked = 0;
  keep_stops(run.power, d.pace, [&] { return ++asked <= 2; });
  int known = 0;
  for (const AxisPower& axis : run.power.axes)
    if (axis.stops != nullptr) ++known;
  CHECK(known == 2);
}

TEST_CASE("a bus that was not run is empty and never missing") {
  const BusState state;
  REQUIRE(state.low != nullptr);
  CHECK(state.low == state.high);
  CHECK(state.low->samples.empty());
  const Document d = demo();
  const MachineRun run = run_of(d);
  for (std::size_t b = 0; b < run.buses.size(); ++b) // a regulated supply does not follow the mains
    CHECK((run.buses[b].low == run.buses[b].high) == (run.power.buses[b].data.swing == 0.0));
}
