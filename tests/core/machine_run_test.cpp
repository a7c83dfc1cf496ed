#include "core/bus/bus_run.hpp"
#include "core/machine/bus_on_axis.hpp"
#include "core/machine/staggering.hpp"
#include "core/machine/supply_choice.hpp"
#include "core/plan/blocks.hpp"
#include "core/plan/buses.hpp"
#include "core/project/merging.hpp"
#include "core/quantity/format.hpp"
#include "support/machines.hpp"

#include <catch2/catch.hpp>

#include <set>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

TEST_CASE("the demo's machine: every bus is judged, its energy closes, and only one hold-up is over") {
  const Document d = demo();
  const MachineRun run = run_of(d);
  REQUIRE(run.power.problem.what.empty());
  REQUIRE(run.complete);
  REQUIRE(run.buses.size() == 3);
  REQUIRE(run.power.remarks.size() == 1);
  CHECK_THAT(run.power.remarks[0].text(), Contains("Picker") && Contains("brake's coil is not told"));
  CHECK(run.power.schedule.cycle == Approx(9.69).epsilon(0.01));
  for (std::size_t b = 0; b < run.buses.size(); ++b) {
    const BusState& state = run.buses[b];
    CAPTURE(run.power.buses[b].name);
    CHECK_FALSE(state.low->collapsed);
    CHECK(std::abs(state.nominal->balance) < 1e-6 * state.nominal->supplied);
    // a machine cycle closes: what is supplied is drawn, or burnt, less what is used again
    CHECK(state.nominal->supplied - state.nominal->burnt - state.nominal->bled ==
          Approx(run.power.buses[b].drawn - run.power.buses[b].returned).epsilon(2e-3));
    for (const Limit& limit : state.limits) {
      CAPTURE(limit.id, limit.reason);
      CHECK(limit.state != LimitState::not_judged);
      if (limit.state == LimitState::over) CHECK(limit.id == "machine.hold_up");
    }
  }
  REQUIRE(run.rate);
  CHECK(run.rate->capacity == Approx(18.0 * 3600.0 / run.power.schedule.cycle));
  CHECK(run.worst_used() > 1.0);
}

TEST_CASE("on a bus of the machine an axis's own supply limits are judged there, not by itself") {
  Document d = demo();
  const auto has = [](const Evaluation& e, std::string_view id) {
    return std::any_of(e.limits.begin(), e.limits.end(), [&](const Limit& l) { return l.id == id; });
  };
  const Evaluation shared = evaluated(d.axes[0]);
  for (const char* id : {"supply.mean", "supply.peak", "supply.overvoltage"}) CHECK_FALSE(has(shared, id));
  d.axes[0]["surroundings"].type("shared_bus", "");
  const Evaluation alone = evaluated(d.axes[0]);
  for (const char* id : {"supply.mean", "supply.peak", "supply.overvoltage"}) CHECK(has(alone, id));
}

TEST_CASE("the same machine cut into two files and merged gives the same numbers") {
  const Document whole = demo();
  Document first = whole, second = whole;
  first.axes.resize(3);
  second.axes.erase(second.axes.begin(), second.axes.begin() + 3);
  const auto keep = [](Document& d) {
    std::vector<Section>& blocks = blocks_of(d);
    std::erase_if(blocks, [&](const Section& b) {
      return std::none_of(d.axes.begin(), d.axes.end(),
                          [&](const Axis& a) { return a.name == b.text("axis"); });
    });
  };
  keep(first);
  keep(second);
  number_sections(first);
  Document merged = first;
  take_axes(merged, second);
  number_sections(merged);
  REQUIRE(merged.axes.size() == whole.axes.size());
  const MachineRun a = run_of(whole), b = run_of(merged);
  REQUIRE(b.power.problem.what.empty());
  for (std::size_t i = 0; i < a.buses.size(); ++i) {
    CHECK(b.power.buses[i].mean == Approx(a.power.buses[i].mean).epsilon(1e-12));
    CHECK(b.power.buses[i].peak.watts == Approx(a.power.buses[i].peak.watts).epsilon(1e-12));
    CHECK(b.power.buses[i].window_1s.watts == Approx(a.power.buses[i].window_1s.watts).epsilon(1e-12));
    CHECK(b.buses[i].low->lowest == Approx(a.buses[i].low->lowest).epsilon(1e-9));
  }
  // taken twice, the names get a number and the blocks follow them
  take_axes(merged, second);
  number_sections(merged);
  CHECK(merged.axes.back().name == "Brush 2");
  CHECK(run_of(merged).power.axes.back().blocks.size() == 1);
}

TEST_CASE("a machine taken into itself runs twice at the same times: each half waits for its own blocks") {
  Document d = demo();
  blocks_of(d)[0].type("name", "Cart");      // as its axis is called
  blocks_of(d)[1].type("name", "Pots in 2"); // as another one is called that is taken
  const Document other = d;
  take_axes(d, other);
  number_sections(d);
  const MachineRun once = run_of(other), twice = run_of(d);
  REQUIRE(twice.power.problem.what.empty());
  const std::size_t half = once.power.blocks.size();
  REQUIRE(twice.power.blocks.size() == 2 * half);
  for (std::size_t i = 0; i < half; ++i) {
    INFO(twice.power.blocks[half + i].name);
    CHECK(twice.power.schedule.blocks[i] == once.power.schedule.blocks[i]);
    CHECK(twice.power.schedule.blocks[half + i] == once.power.schedule.blocks[i]);
    for (const Block::After& after : twice.power.blocks[half + i].after) CHECK(after.block >= half);
  }
  std::set<std::string> names;
  for (const Block& block : twice.power.blocks) names.insert(block.name);
  CHECK(names.size() == 2 * half);
}

TEST_CASE("what is wrong with a machine is told by name and with a remedy, and the rest still works") {
  Document d = demo();
  SECTION("no schedule: every axis runs once from the start") {
    blocks_of(d).clear();
    const MachineRun run = run_of(d);
    CHECK(run.power.problem.what.empty());
    CHECK(run.power.blocks.size() == d.axes.size());
    CHECK(std::all_of(run.power.implied.begin(), run.power.implied.end(),
                      [](bool implied) { return implied; }));
  }
  SECTION("an axis without a cycle counts as idle") {
    d.axes[1].cycle.clear();
    const MachineRun run = run_of(d);
    CHECK(remarked(run, "Tray: it counts as idle"));
    CHECK(run.power.problem.what.empty());
    CHECK(mean_power(run.power.axes[1].placed) == 0.0);
  }
  SECTION("an axis with a fault counts as idle, its last good power is not used") {
    d.axes[0]["load"].type("moved_mass", "-6 kg");
    const MachineRun run = run_of(d);
    CHECK(remarked(run, "Picker: it counts as idle"));
  }
  SECTION("a bus that is not there, and an axis on none") {
    d.axes[0]["surroundings"].type("shared_bus", "60 V");
    d.axes[1]["surroundings"].type("shared_bus", "");
    const MachineRun run = run_of(d);
    CHECK(remarked(run, "Picker: its bus \"60 V\" is not in the machine"));
    CHECK(remarked(run, "Tray: it is on no bus"));
  }
  SECTION("two buses of one name, a bus without capacitance") {
    bus_of(d, 1).type("name", "48 V");
    CHECK(remarked(run_of(d), "two buses have this name"));
    Document bare = demo();
    bus_of(bare, 2).type("capacitance", "");
    for (Axis& axis : bare.axes)
      if (axis["drive"].has("capacitance")) axis["drive"].type("capacitance", "");
    const MachineRun run = run_of(bare);
    CHECK(remarked(run, "no capacitance is told"));
    CHECK(run.buses[2].limits.empty());
  }
  SECTION("an offset beyond a typed cycle, a circle, a segment that is not there") {
    d.pace.type("cycle", "9.7 s");
    blocks_of(d)[7].type("offset", "8 s");
    CHECK_THAT(run_of(d).power.problem.text(), Contains("shorter than its blocks"));
    d.pace.type("cycle", "");
    blocks_of(d)[2].type("after", "Pots away");
    CHECK_THAT(run_of(d).power.problem.text(), Contains("circle") && Contains("Gantry"));
    blocks_of(d)[2].type("after", "Nothing");
    CHECK_THAT(run_of(d).power.problem.text(), Contains("no block is called that"));
    blocks_of(d)[2].type("after", "Tray");
    blocks_of(d)[2].type("after_segment", "40");
    CHECK_THAT(run_of(d).power.problem.text(), Contains("segment 40"));
    CHECK_FALSE(run_of(d).power.problem.remedy.empty());
  }
  SECTION("a load beyond the cycle or on no bus") {
    std::vector<Section>& loads = d.lists.find("steady_loads")->second;
    loads[1].type("on_at", "90 s");
    loads[0].type("bus", "");
    const MachineRun run = run_of(d);
    CHECK(remarked(run, "Vacuum valves: it is switched at a time beyond"));
    CHECK(remarked(run, "Controller and sensors: it hangs on no bus"));
  }
  SECTION("a bus set higher than a drive bears") {
    bus_of(d, 0).type("volts", "75 V");
    bus_of(d, 0).type("chopper_on", "");
    bus_of(d, 0).type("chopper_off", "");
    CHECK(remarked(run_of(d), "set higher than its drive bears"));
  }
}

TEST_CASE("contradictions of a bus are refused where they are typed") {
  const auto refused = [](std::initializer_list<std::pair<std::string_view, std::string_view>> values,
                          std::string_view field, std::size_t bus = 0) {
    Document d = demo();
    Section& section = bus_of(d, bus);
    for (const auto& [name, text] : values) section.type(name, text);
    const auto data = BusData::from(section);
    CAPTURE(field);
    REQUIRE_FALSE(data);
    CHECK(data.problem().where == section.path + "." + std::string(field));
    CHECK_FALSE(data.problem().remedy.empty());
  };
  refused({{"chopper_off", "54 V"}}, "chopper_off"); // no hysteresis
  refused({{"chopper_off", "60 V"}}, "chopper_off");
  refused({{"chopper_off", ""}}, "chopper_off");
  refused({{"chopper_off", "47 V"}}, "chopper_off"); // the supply alone would hold it on
  refused({{"resistor", ""}}, "resistor");
  refused({{"overload", "foldback"}}, "short_current");
  refused({{"overload", "foldback"}, {"short_current", "20 A"}}, "short_current");
  refused({{"overload", "hiccup"}}, "trip_time");
  refused({{"overload", "hiccup"}, {"trip_time", "50 ms"}}, "off_time");
  refused({{"overload", "hiccup"}, {"limit", ""}}, "limit");
  refused({{"name", ""}}, "name");
  refused({{"frequency", "120 Hz"}}, "frequency", 1);
  refused({{"chopper_off", "355 V"}}, "chopper_off", 1); // mains +10 % without load: 355.9 V
}

TEST_CASE("a bus's limits follow its numbers") {
  Document d = one_axis();
  const MachineRun run = run_of(d);
  REQUIRE(run.buses.size() == 1);
  const BusPower& power = run.power.buses[0];
  const BusState& state = run.buses[0];
  const double period = run.power.schedule.cycle;

  const Limit* mean = limit_of(run, 0, "machine.supply_mean");
  REQUIRE(mean != nullptr);
  CHECK(mean->demand == Approx(state.low->supplied / period));
  CHECK(mean->capacity == Approx(480.0));
  const Limit* low = limit_of(run, 0, "machine.bus_low");
  CHECK(low->demand == Approx(20.0)); // its drive works from 20 V
  CHECK(low->capacity == Approx(state.low->lowest));
  CHECK(low->moment->time == Approx(state.low->lowest_at));
  const Limit* high = limit_of(run, 0, "machine.bus_high");
  CHECK(high->capacity == Approx(60.0)); // the supply's own trip is below the drive's 72 V
  CHECK(limit_of(run, 0, "machine.chopper_margin")->used == Approx(48.0 / (0.99 * 52.0)));
  CHECK(limit_of(run, 0, "machine.resistor_low")->demand == Approx(72.0 / 10.0));
  const double returned = -least_power(run.power.axes[0].placed).watts;
  CHECK(limit_of(run, 0, "machine.resistor_high")->capacity == Approx(72.0 * 72.0 / returned));
  const Limit* hold = limit_of(run, 0, "machine.hold_up");
  CHECK(hold->kind == Kind::energy);
  CHECK(limit_of(run, 0, "machine.drop")->demand == Approx(state.low->most_current * power.data.cable));
  CHECK(power.data.cable == Approx(2.0 * 2.0 * 0.0172e-6 * (1.0 + 0.00393 * 50.0) / 1.5e-6));
  CHECK(limit_of(run, 0, "machine.stability")->used < 0.1);
  CHECK(limit_of(run, 0, "machine.brakes") == nullptr);

  SECTION("the capacitors' own rating binds where it is least") {
    bus_of(d).type("capacitor_volts", "55 V");
    CHECK(limit_of(run_of(d), 0, "machine.bus_high")->capacity == Approx(55.0));
  }
  SECTION("peak against the time it is told for, and against every moment without one") {
    const double window = limit_of(run, 0, "machine.supply_peak")->demand;
    CHECK(window == Approx(greatest_window(state.low->supply_power, 0.5).watts));
    bus_of(d).type("peak_time", "");
    const double moment = limit_of(run_of(d), 0, "machine.supply_peak")->demand;
    CHECK(moment > window);
    CHECK(moment == Approx(greatest_power(state.low->supply_power).watts));
  }
  SECTION("derating takes from the continuous power") {
    bus_of(d).type("derating", "50 %");
    CHECK(limit_of(run_of(d), 0, "machine.supply_mean")->capacity == Approx(240.0));
  }
  SECTION("what is missing is not judged, never passed") {
    for (const char* field : {"power", "peak", "limit", "inductance", "chopper_current", "resistor_power"})
      bus_of(d).type(field, "");
    const MachineRun open = run_of(d);
    for (const char* id :
         {"machine.supply_mean", "machine.supply_peak", "machine.supply_overload", "machine.start",
          "machine.stability", "machine.resistor_low", "machine.resistor_mean"}) {
      CAPTURE(id);
      REQUIRE(limit_of(open, 0, id) != nullptr);
      CHECK(limit_of(open, 0, id)->state == LimitState::not_judged);
      CHECK_FALSE(limit_of(open, 0, id)->input.empty());
    }
  }
  SECTION("a supply too small collapses: over, with its moment and no number after it") {
    bus_of(d).type("limit", "1 A");
    const MachineRun small = run_of(d);
    CHECK(small.buses[0].low->collapsed);
    const Limit* over = limit_of(small, 0, "machine.bus_low");
    CHECK(over->state == LimitState::over);
    CHECK(std::isinf(over->used));
    CHECK(over->moment);
    CHECK(std::isnan(small.fed[0].low));
    // what it would deliver is no number either
    CHECK(std::isnan(small.buses[0].supplied_watts));
    const auto all_words = [&](const std::vector<std::string>& lines) {
      std::string all;
      for (const std::string& line : lines) all += line + "\n";
      return all;
    };
    CHECK_THAT(all_words(supply_schools(small, 0, d)), Contains("is not known, since the bus collapses"));
    CHECK_THAT(all_words(installer_words(small, 0)), Contains("Power from the mains: not known"));
  }
  SECTION("a hiccup supply in its limit for longer than it bears") {
    bus_of(d).type("limit", "3 A");
    bus_of(d).type("overload", "hiccup");
    bus_of(d).type("trip_time", "5 ms");
    bus_of(d).type("off_time", "0.5 s");
    const MachineRun trips = run_of(d);
    CHECK(limit_of(trips, 0, "machine.supply_overload")->state == LimitState::over);
  }
  SECTION("a bus that hovers at its threshold does not start") {
    d.lists.find("steady_loads")->second.emplace_back(steady_load_section());
    Section& load = d.lists.find("steady_loads")->second.back();
    load.type("bus", "48 V");
    load.type("power", "300 W");
    bus_of(d).type("limit", "10 A");
    const MachineRun hovers = run_of(d);
    CHECK(limit_of(hovers, 0, "machine.start")->state == LimitState::over);
    CHECK_FALSE(hovers.buses[0].start->up);
    bus_of(d).type("limit", "40 A");
    CHECK(limit_of(run_of(d), 0, "machine.start")->state == LimitState::clear);
  }
}

TEST_CASE("brakes that open together load their own bus") {
  Document d = demo();
  d.axes[0]["brake"].type("power", "11 W");
  const MachineRun run = run_of(d);
  const Limit* brakes = limit_of(run, 2, "machine.brakes");
  REQUIRE(brakes != nullptr);
  CHECK(brakes->demand == Approx(11.0 + 35.0 + 18.0));
  CHECK(brakes->capacity == Approx(360.0));
  // the coil draws while the axis moves and while it waits held by the motor
  CHECK(mean_power(run.power.axes[0].brake) == Approx(11.0));
  d.axes[0]["surroundings"].type("waiting", "braked");
  const MachineRun braked = run_of(d);
  const double share = 3.0 * braked.power.axes[0].own.period() / braked.power.schedule.cycle;
  CHECK(mean_power(braked.power.axes[0].brake) == Approx(11.0 * share));
  CHECK(braked.power.axes[0].waiting < run.power.axes[0].waiting); // it carries 6 kg
  d.axes[0]["surroundings"].type("waiting", "off");
  CHECK(run_of(d).power.axes[0].waiting == Approx(braked.power.axes[0].waiting));
}

TEST_CASE("each axis is fed by what its bus has while it moves") {
  Document d = demo();
  const MachineRun run = run_of(d);
  for (std::size_t i = 0; i < d.axes.size(); ++i) {
    const BusState& state = run.buses[*run.power.axes[i].bus];
    CAPTURE(d.axes[i].name);
    CHECK(run.fed[i].low >= state.low->lowest - 1e-9);
    CHECK(run.fed[i].low <= state.low->highest);
    CHECK(run.fed[i].high == state.high->highest);
    const Axis fed = as_fed(d.axes[i], run.fed[i]);
    CHECK(fed["surroundings"].term("bus_low") == Approx(run.fed[i].low).epsilon(1e-5));
    CHECK(fed["surroundings"].entry("bus_low").origin == Origin::measured);
  }
  CHECK(run.fed[0].low < 48.0);
  d.axes[0]["surroundings"].type("shared_bus", "");
  const MachineRun without = run_of(d);
  CHECK(std::isnan(without.fed[0].low));
  CHECK(as_fed(d.axes[0], without.fed[0]) == d.axes[0]);
}

TEST_CASE("an axis is told the worst of its bus, and what breaks at the voltage it gets there") {
  Document d = demo();
  const auto told = [&](std::size_t axis, const Document& typed, double volts) {
    // the whole is given by hand: at which voltage the axes are judged
    const MachineResult results = evaluate(typed);
    MachineRun run = run_machine(typed, results);
    MachineResult fed(typed.axes.size());
    for (std::size_t i = 0; i < fed.size(); ++i) {
      if (!std::isnan(volts)) run.fed[i].low = volts;
      fed[i] = work_out(as_fed(typed.axes[i], run.fed[i]), typed.house_rules, typed.units);
    }
    const auto found = bus_on_axis(run, results, fed, axis);
    REQUIRE(found);
    std::pair<std::string, std::string> out;
    if (found->of_bus != nullptr) {
      out.first = found->of_bus->id;
      for (const Limit& limit : run.buses[found->bus].limits) CHECK_FALSE(limit.used > found->of_bus->used);
    }
    if (found->own != nullptr) {
      out.second = found->own->id;
      CHECK(found->own->state == LimitState::over);
      // as typed it does not break
      for (const Limit& limit : results[axis]->evaluation->limits)
        if (limit.id == found->own->id) CHECK(limit.state != LimitState::over);
    }
    CHECK(found->low == run.fed[axis].low);
    return out;
  };
  const double real = std::nan("");
  const auto calm = told(0, d, real);
  CHECK_FALSE(calm.first.empty());
  CHECK(calm.second.empty());
  // a bus far below the one typed: the drive does not even come on
  CHECK_FALSE(told(0, d, 15.0).second.empty());
  // on no bus of the machine nothing is told
  d.axes[0]["surroundings"].type("shared_bus", "");
  const MachineResult results = evaluate(d);
  CHECK_FALSE(bus_on_axis(run_machine(d, results), results, {}, 0));
  // before the buses are worked out neither is known
  const MachineRun begun = begin_machine(d, results);
  const auto early = bus_on_axis(begun, results, {}, 1);
  REQUIRE(early);
  CHECK(early->of_bus == nullptr);
  CHECK(early->own == nullptr);
}

TEST_CASE("a machine's power is that of its axes laid out in time") {
  const Document d = demo();
  const MachineRun run = run_of(d);
  for (std::size_t i = 0; i < run.power.axes.size(); ++i) {
    const AxisPower& axis = run.power.axes[i];
    CAPTURE(axis.name);
    REQUIRE(axis.placed.period() == Approx(run.power.schedule.cycle));
    double energy = 0.0, busy = 0.0;
    for (const std::size_t b : axis.blocks) {
      const Block& block = run.power.blocks[b];
      energy += static_cast<double>(block.repeats) * mean_power(axis.own) * axis.own.period();
      busy += block.duration();
      const double at = run.power.schedule.blocks[b].start + 0.37 * block.length();
      CHECK(axis.placed.at(at) == Approx(axis.own.at(0.37 * block.length())).margin(1e-6));
      CHECK(*own_time(run.power, i, at) == Approx(0.37 * block.length()).margin(1e-9));
    }
    energy += axis.waiting * (run.power.schedule.cycle - busy);
    CHECK(mean_power(axis.placed) * run.power.schedule.cycle == Approx(energy).epsilon(1e-9));
  }
}

TEST_CASE("cycles overlap, or run on their own until they meet again") {
  Document d = one_axis();
  d.axes.push_back(d.axes[0]);
  d.axes[1].name = "Twin";
  d.pace.type("cycles", "overlap");
  d.pace.type("cycle", "1.6 s");
  blocks_of(d).emplace_back(block_section());
  blocks_of(d).back().type("axis", "Twin");
  blocks_of(d).back().type("offset", "0.9 s");
  number_sections(d);
  const MachineRun lapped = run_of(d);
  REQUIRE(lapped.power.problem.what.empty());
  CHECK(lapped.power.schedule.cycle == Approx(1.6));
  CHECK(lapped.power.axes[1].placed.at(0.2) == Approx(lapped.power.axes[1].own.at(0.9)).margin(1e-6));
  d.pace.type("cycles", "free");
  d.axes[1].cycle.back().type("time", "0.9 s"); // 1.55 s and 1.85 s
  const MachineRun own = run_of(d);
  REQUIRE(own.power.problem.what.empty());
  CHECK(own.power.schedule.cycle == Approx(57.35)); // 37 · 1.55 = 31 · 1.85
  CHECK(own.buses[0].nominal->supplied > 0.0);
}

TEST_CASE("starts that are taken lower the peak that the machine then has") {
  Document d = demo();
  const MachineRun run = run_of(d);
  const StaggerAsked asked = stagger_question(run.power, 0, d);
  const auto front = stagger_front(asked);
  REQUIRE_FALSE(front.empty());
  const Staggered& found = front.front().found;
  CHECK(found.before >= run.power.buses[0].peak.watts - 1e-9);
  CHECK(found.peak < 0.95 * found.before);
  CHECK(found.with_jitter >= found.peak);
  take_starts(d, run.power, asked, found);
  number_sections(d);
  const MachineRun after = run_of(d);
  REQUIRE(after.power.problem.what.empty());
  CHECK(after.power.buses[0].peak.watts <= found.peak + 1e-6);
  CHECK(after.power.schedule.cycle == Approx(run.power.schedule.cycle));
  // longer cycles only where they bring something, and each brings more
  for (std::size_t i = 1; i < front.size(); ++i) {
    CHECK(front[i].found.peak < front[i - 1].found.peak);
    CHECK(front[i].found.cycle > front[i - 1].found.cycle);
  }
}

TEST_CASE("supplies are tried on the machine: kinds by calculation, parts of the library, with reasons") {
  const Document d = demo();
  const MachineRun run = run_of(d);
  std::size_t first = 0;
  const auto trials = supply_trials(
      run, 0, d, library(), [] { return true; }, [&](const auto& kinds) { first = kinds.size(); });
  REQUIRE(trials.size() > 6);
  CHECK(first == 5);           // the kinds by calculation are told before the library is tried
  CHECK(trials[0].fits);       // regulated, sized for it
  CHECK_FALSE(trials[1].fits); // twice the mean, and off in overload
  std::size_t tried = 0;
  for (const SupplyTrial& trial : trials) {
    CAPTURE(trial.title);
    CHECK_FALSE(trial.reasons.empty());
    if (!trial.bus || tried++ % every(1) != 0) continue;
    // what is told of it is what the bus has once it is put in
    Document with = d;
    for (Section& bus : with.lists.find("buses")->second)
      if (bus.text("name") == trial.bus->text("name")) bus = *trial.bus;
    const MachineRun after = run_of(with);
    const bool there = after.power.buses[0].name == trial.bus->text("name"); // else it is refused
    const bool over = std::any_of(after.buses[0].limits.begin(), after.buses[0].limits.end(),
                                  [](const Limit& l) { return l.state == LimitState::over; });
    CHECK((there && !over) == trial.fits);
  }
  // of the library the smallest that is enough stands first
  const auto part =
      std::find_if(trials.begin(), trials.end(), [](const SupplyTrial& t) { return !t.part.empty(); });
  REQUIRE(part != trials.end());
  CHECK(part->fits);
  CHECK(part->bus->term("volts") == Approx(48.0));
  std::string all;
  for (const auto& lines : {supply_schools(run, 0, d), brake_ways(run, 0, d), installer_words(run, 1)})
    for (const std::string& line : lines) all += line + "\n";
  CHECK_THAT(all, Contains("Power balance") && Contains("Capacitor instead") && Contains("licensed") &&
                      Contains("down to 60 V") && Contains("Brake resistor"));
  const auto wired = installer_words(run, 0);
  CHECK(std::any_of(wired.begin(), wired.end(),
                    [](const std::string& line) { return line.find("cable") != std::string::npos; }));
}

TEST_CASE("ratings of a supply count at its place, and a limit's working leads to them") {
  Document d = one_axis();
  bus_of(d).type("derating", "75 %");
  const MachineRun run = run_of(d);
  CHECK(limit_of(run, 0, "machine.supply_mean")->capacity == Approx(0.75 * 480.0));
  CHECK(limit_of(run, 0, "machine.supply_peak")->capacity == Approx(0.75 * 720.0));
  const std::vector<Step>& steps = run.buses[0].steps;
  const auto step = [&](std::string_view id) {
    const auto found = std::find_if(steps.begin(), steps.end(), [&](const Step& s) { return s.id == id; });
    REQUIRE(found != steps.end());
    return *found;
  };
  // what is compared is what the steps before it give
  const Step mean = step("limit.machine.supply_mean");
  CHECK(mean.title == "Supply, mean");
  CHECK(step(mean.terms[0].ref).value == Approx(run.buses[0].low->supplied / run.power.schedule.cycle));
  CHECK(step(mean.terms[1].ref).value == Approx(360.0));
  const Step drop = step("limit.machine.drop");
  CHECK(step(drop.terms[0].ref).value ==
        Approx(run.buses[0].low->most_current * run.power.buses[0].data.cable));
  CHECK(step(drop.terms[1].ref).value == Approx(0.03 * 48.0));
  const Step stable = step("limit.machine.stability");
  CHECK(step(step(stable.terms[1].ref).terms[0].ref).id == "machine.stable_power");
  for (const Limit& limit : run.buses[0].limits)
    if (limit.state != LimitState::not_judged && !limit.step.empty())
      CHECK(step(limit.step).title == limit.label);
}

TEST_CASE("a transformer is judged by its apparent power at its place, three phases by √3") {
  Document d = one_axis();
  Section& bus = bus_of(d);
  Section fed(transformer_bus_section());
  for (const auto& [field, text] :
       std::initializer_list<std::pair<const char*, const char*>>{{"name", "48 V"},
                                                                  {"volts", "30 V"},
                                                                  {"amps", "20 A"},
                                                                  {"regulation", "6 %"},
                                                                  {"capacitance", "47 mF"},
                                                                  {"capacitor_ripple", "20 A"},
                                                                  {"derating", "80 %"}})
    fed.type(field, text);
  fed.path = bus.path;
  bus = fed;
  const MachineRun one = run_of(d);
  REQUIRE_FALSE(one.buses[0].low->collapsed);
  const Limit* limit = limit_of(one, 0, "machine.transformer");
  REQUIRE(limit != nullptr);
  CHECK(limit->capacity == Approx(0.8 * 600.0));
  const double pulses = std::max(one.buses[0].low->rms_current, one.buses[0].high->rms_current);
  CHECK(limit->demand == Approx(30.0 * pulses));
  const Limit* ripple = limit_of(one, 0, "machine.capacitor");
  REQUIRE(ripple != nullptr);
  const double rms = one.buses[0].low->rms_current;
  const double through = one.buses[0].low->supplied / one.power.schedule.cycle / one.buses[0].low->lowest;
  CHECK(ripple->demand == Approx(std::sqrt(rms * rms - through * through)));
  bus.type("phases", "3");
  const MachineRun three = run_of(d);
  limit = limit_of(three, 0, "machine.transformer");
  CHECK(limit->capacity == Approx(std::sqrt(3.0) * 0.8 * 600.0));
  const double line =
      std::sqrt(2.0 / 3.0) * std::max(three.buses[0].low->rms_current, three.buses[0].high->rms_current);
  CHECK(limit->demand == Approx(std::sqrt(3.0) * 30.0 * line));
}

TEST_CASE("a lost phase leaves the pulses of one, and is told to the installer") {
  Document d = demo();
  CHECK_FALSE(run_of(d).buses[1].lost_phase); // one phase has none to lose
  bus_of(d, 1).type("phases", "3");
  const MachineRun run = run_of(d);
  const BusState& state = run.buses[1];
  REQUIRE(state.lost_phase);
  // the same source behind one bridge, worked out for itself
  BusModel one = run.power.buses[1].data.at(0.0, run.power.buses[1].drives);
  CHECK(one.supply.phases == 3);
  one.supply.phases = 1;
  const BusRun alone = run_bus(one, run.power.buses[1].total, 1e-6);
  CHECK(state.lost_phase->lowest == Approx(alone.lowest).epsilon(1e-3));
  CHECK(state.lost_phase->lowest < state.nominal->lowest);
  CHECK(state.lost_phase->rms_current > 1.2 * state.nominal->rms_current);
  const auto told = [&](const MachineRun& of) {
    std::string all;
    for (const std::string& line : installer_words(of, 1)) all += line + "\n";
    return all;
  };
  CHECK_THAT(told(run),
             Contains("If one phase is lost the bus sags to") && Contains("monitor of the phases"));

  // a drive that needs more than what is left trips; a load that one phase cannot carry is told by its moment
  MachineRun other = run;
  other.power.buses[1].under = 1.01 * state.lost_phase->lowest;
  CHECK_THAT(told(other), Contains("drives trip"));
  other.power.buses[1].under = 0.99 * state.lost_phase->lowest;
  CHECK_THAT(told(other), Contains("run on unnoticed"));
  other.buses[1].lost_phase->collapsed = true;
  other.buses[1].lost_phase->collapsed_at = 1.25;
  CHECK_THAT(told(other), Contains("collapses at 1.25 s"));
}

TEST_CASE("the adding school: three two-phase motors of 2 A") {
  // common practice: 12 A, 8.5 A with microstepping
  const std::array amps{2.0, 2.0, 2.0};
  CHECK(adding_school(amps, false) == Approx(12.0));
  CHECK(adding_school(amps, true) == Approx(8.485).epsilon(1e-3));
}

TEST_CASE("the habit of adding rated powers is told beside the balance, with its numbers") {
  const Document d = one_axis();
  const MachineRun run = run_of(d);
  // the picker's motor, by its continuous curve
  double rated = 0.0;
  for (const CurvePoint& point : d.axes[0]["motor"].entry("continuous_curve").curve)
    rated = std::max(rated, point[0] * point[1]);
  REQUIRE(rated > 100.0);
  const auto schools = supply_schools(run, 0, d);
  const auto habit = std::find_if(schools.begin(), schools.end(), [](const std::string& school) {
    return school.find("Rated powers added") != std::string::npos;
  });
  REQUIRE(habit != schools.end());
  CHECK_THAT(*habit, Contains("1 motor of " + format(rated, Kind::power).text()));
  CHECK_THAT(*habit, Contains(format(0.5 * rated, Kind::power).text() + " to " +
                              format(0.7 * rated, Kind::power).text()));
  CHECK_THAT(*habit, Contains("never used"));
}

TEST_CASE("a drive comes on at its own voltage, not at the highest of all") {
  Document d = one_axis();
  d.axes.push_back(d.axes[0]);
  d.axes[1].name = "Twin";
  d.axes[0]["drive"].type("bus_min", "12 V");
  d.axes[1]["drive"].type("bus_min", "30 V");
  const MachineRun run = run_of(d);
  const auto loads = starting_loads(run.power, 0);
  REQUIRE(loads.size() == 2);
  CHECK(loads[0].on == Approx(12.0));
  CHECK(loads[1].on == Approx(30.0));
  CHECK(limit_of(run, 0, "machine.bus_low")->demand == Approx(30.0));
}

TEST_CASE("what one drive of a bus does not tell is no pass for it") {
  Document d = demo();
  d.axes[1]["drive"].type("bus_min", "");
  d.axes[1]["drive"].type("overvoltage", "");
  d.axes[1]["drive"].type("bus_max", "");
  d.axes[1]["drive"].type("capacitance", "");
  const MachineRun run = run_of(d);
  CHECK(limit_of(run, 0, "machine.bus_low")->state == LimitState::not_judged);
  CHECK(limit_of(run, 0, "machine.bus_high")->state == LimitState::not_judged);
  CHECK(remarked(run, "Tray: its drive's capacitance is not told"));
  bus_of(d).type("backfed_trip", "48.1 V"); // what is told is broken already
  CHECK(limit_of(run_of(d), 0, "machine.bus_high")->state == LimitState::over);
}

TEST_CASE("what would take for ever or fill the memory is refused by name") {
  SECTION("a block that repeats a hundred thousand times") {
    Document d = demo();
    blocks_of(d)[3].type("repeats", "100000");
    CHECK_THAT(run_of(d).power.problem.text(), Contains("Picker") && Contains("200 000"));
  }
  SECTION("a chopper on next to no capacitance") {
    Document d = one_axis();
    bus_of(d).type("capacitance", "0.02 uF");
    bus_of(d).type("chopper_on", "52.01 V");
    d.axes[0]["drive"].type("capacitance", "");
    const MachineRun run = run_of(d);
    CHECK(run.complete);
    CHECK_THAT(run.power.buses[0].problem, Contains("too many steps"));
    CHECK(run.buses[0].limits.empty());
    CHECK(std::isnan(run.fed[0].low));
  }
  SECTION("two blocks of an axis that repeats on its own") {
    Document d = demo();
    d.pace.type("cycles", "free");
    CHECK_FALSE(run_of(d).power.problem.what.empty());
  }
}

TEST_CASE("axes that repeat on their own are staggered within what they repeat after") {
  Document d = one_axis();
  d.axes.push_back(d.axes[0]);
  d.axes[1].name = "Twin";
  d.pace.type("cycles", "free");
  const MachineRun run = run_of(d);
  REQUIRE(run.power.problem.what.empty());
  CHECK(run.power.schedule.cycle == Approx(1.55));
  const auto found = stagger(stagger_question(run.power, 0, d));
  REQUIRE(found);
  CHECK(found->cycle == Approx(1.55));
  CHECK(found->before >= run.power.buses[0].peak.watts - 1e-9);
  CHECK(found->peak < 0.8 * found->before); // twins need not meet
}
