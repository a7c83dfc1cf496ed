#include "core/machine/supply_choice.hpp"
#include "core/plan/blocks.hpp"
#include "core/power/stop_power.hpp"
#include "support/machines.hpp"

#include <catch2/catch.hpp>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

/// The picker alone on 48 V, a stop of 100 ms of which 40 ms are for slowing down and 50 ms for the brake.
Document stopping() {
  Document d = one_axis();
  ask_for_stop(d, "100 ms", "40 ms");
  return d;
}

void add_load(Document& d, const std::string& bus, const std::string& power) {
  Section load(steady_load_section());
  load.type("name", "One more");
  load.type("bus", bus);
  load.type("power", power);
  d.lists.find("steady_loads")->second.push_back(load);
}

} // namespace

TEST_CASE("hold-up is the energy of a controlled stop where slowing down is told, else the time") {
  Document d = stopping();
  const MachineRun run = run_of(d);
  const BusState& state = run.buses[0];
  REQUIRE(state.stop);
  const ControlledStop& stop = *state.stop;
  CHECK(stop.ramp == Approx(0.04));
  CHECK(stop.brake == Approx(0.05)); // the picker's
  CHECK(stop.notice == Approx(0.01));

  // each share worked out beside
  const AxisPower& axis = run.power.axes[0];
  const StopPower alone = stop_power(*axis.model, 0.04);
  CHECK(stop.slowing == Approx(greatest_power(alone.needed).watts));
  CHECK(stop.returned == Approx(greatest_power(alone.returned).watts));
  CHECK(stop.pushed == Approx(greatest_power(alone.pushed).watts));
  CHECK(stop.going_on == Approx(greatest_window(drawn_part(run.power.buses[0].total), 0.01).watts));
  CHECK(stop.steady == 0.0);
  CHECK(stop.holding == Approx(axis.holding));
  CHECK(axis.holding > 0.0);

  const Limit* hold = limit_of(run, 0, "machine.hold_up");
  REQUIRE(hold != nullptr);
  CHECK(hold->kind == Kind::energy);
  CHECK(hold->demand == Approx(0.01 * stop.going_on + stop.slowing + 0.05 * stop.holding));
  const double low = state.low->lowest;
  CHECK(hold->capacity == Approx(0.5 * state.capacitance * (low * low - 20.0 * 20.0))); // its drive's least
  CHECK(hold->moment->time == Approx(stop.slowing_at));

  SECTION("what else hangs on the bus is counted until all is over") {
    add_load(d, "48 V", "30 W");
    const MachineRun loaded = run_of(d);
    CHECK(limit_of(loaded, 0, "machine.hold_up")->demand == Approx(hold->demand + 30.0 * 0.1).epsilon(1e-6));
  }
  SECTION("a stop shorter than its parts is taken as long as they are") {
    d.pace.type("stop_time", "60 ms");
    const MachineRun shorter = run_of(d);
    CHECK(shorter.buses[0].stop->notice == 0.0);
    CHECK(limit_of(shorter, 0, "machine.hold_up")->demand == Approx(stop.slowing + 0.05 * stop.holding));
    d.pace.type("stop_time", "");
    CHECK(run_of(d).buses[0].stop->notice == 0.0);
  }
  SECTION("without slowing down the time decides") {
    d.pace.type("stop_ramp", "");
    const MachineRun by_time = run_of(d);
    CHECK_FALSE(by_time.buses[0].stop);
    const Limit* time = limit_of(by_time, 0, "machine.hold_up");
    CHECK(time->demand == Approx(0.1));
    CHECK(time->capacity == Approx(by_time.buses[0].ride));
    CHECK(limit_of(by_time, 0, "machine.stop_returned") == nullptr);
    CHECK(limit_of(by_time, 0, "machine.stop_torque") == nullptr);
    d.pace.type("stop_time", "");
    CHECK(limit_of(run_of(d), 0, "machine.hold_up") == nullptr);
  }
}

TEST_CASE("what a stop gives back goes into the resistor, or into the capacitors where there is none") {
  Document d = stopping();
  const MachineRun run = run_of(d);
  const ControlledStop& stop = *run.buses[0].stop;
  REQUIRE(stop.returned > 0.0);
  const Limit* back = limit_of(run, 0, "machine.stop_returned");
  REQUIRE(back != nullptr);
  CHECK(back->kind == Kind::power);
  CHECK(back->demand == Approx(stop.pushed));
  CHECK(back->capacity == Approx(60.0 * 60.0 / 8.0)); // the supply trips first, at 60 V
  for (const char* field : {"chopper_on", "chopper_off", "chopper_current", "resistor", "resistor_power",
                            "resistor_peak", "resistor_pulse"})
    bus_of(d).type(field, "");
  const MachineRun bare = run_of(d);
  const Limit* store = limit_of(bare, 0, "machine.stop_returned");
  CHECK(store->kind == Kind::energy);
  CHECK(store->demand == Approx(stop.returned));
  const double high = bare.buses[0].high->highest;
  CHECK(store->capacity == Approx(0.5 * bare.buses[0].capacitance * (60.0 * 60.0 - high * high)));
  bus_of(d).type("backfed_trip", "");
  bus_of(d).type("capacitor_volts", "");
  d.axes[0]["drive"].type("overvoltage", "");
  d.axes[0]["drive"].type("bus_max", "");
  CHECK(limit_of(run_of(d), 0, "machine.stop_returned")->state == LimitState::not_judged);
}

TEST_CASE("a stop harder than the motor is told, and what is not known is no pass") {
  Document d = stopping();
  const auto torque = [&] { return *limit_of(run_of(d), 0, "machine.stop_torque"); };
  CHECK(torque().state == LimitState::clear);
  d.pace.type("stop_ramp", "2 ms");
  const Limit over = torque();
  CHECK(over.state == LimitState::over);
  CHECK(over.used == Approx(run_of(d).buses[0].stop->efforts[0].share));
  CHECK_THAT(over.rule, Contains(d.axes[0].name));
  CHECK(over.input == "pace.stop_ramp");
  d.pace.type("stop_ramp", "40 ms");
  d.axes[0]["motor"].type("peak_curve", "");
  d.axes[0]["motor"].type("peak_current", "");
  CHECK(torque().state == LimitState::not_judged);
}

TEST_CASE("a drive that does not tell where it trips is no help in a stop") {
  Document d = demo();
  const MachineRun told = run_of(d);
  REQUIRE(told.buses[0].trip == Approx(20.0));
  d.axes[1]["drive"].type("bus_min", "");
  CHECK(run_of(d).buses[0].trip == Approx(24.0)); // half of 48 V: it may trip before the others
  REQUIRE(limit_of(told, 0, "machine.stop_returned")->state == LimitState::clear);
  d.axes[1]["drive"].type("overvoltage", "");
  d.axes[1]["drive"].type("bus_max", "");
  CHECK(limit_of(run_of(d), 0, "machine.stop_returned")->state == LimitState::not_judged);
}

TEST_CASE("steppers keep their factor in a stop") {
  Document d = demo();
  d.pace.type("stop_ramp", "50 ms");
  const MachineRun run = run_of(d);
  const auto stepper = std::find_if(run.power.axes.begin(), run.power.axes.end(), [](const AxisPower& axis) {
    return axis.model != nullptr && axis.model->motor->keeps_current();
  });
  REQUIRE(stepper != run.power.axes.end());
  const std::size_t bus = *stepper->bus;
  const Limit* torque = limit_of(run, bus, "machine.stop_torque");
  REQUIRE(torque != nullptr);
  const double factor = Rules(d.house_rules).term("pullout_factor");
  double worst = 0.0;
  for (const StopEffort& effort : run.buses[bus].stop->efforts) {
    const bool keeps = run.power.axes[effort.axis].model->motor->keeps_current();
    worst = std::max(worst, keeps ? factor * effort.share : effort.share);
  }
  CHECK(torque->used == Approx(worst));
  CHECK(factor > 1.0);
}

TEST_CASE("brakes have a coil that is counted, or said to be missing") {
  Document d = demo();
  d.pace.type("stop_time", "200 ms");
  CHECK(remarked(run_of(d), "brake's coil"));
  d.axes[0]["brake"].type("power", "11 W");
  const MachineRun run = run_of(d);
  CHECK_FALSE(remarked(run, "brake's coil"));
  const ControlledStop& stop = *run.buses[2].stop; // 24 V feeds the picker's brake
  CHECK(stop.brake == Approx(0.05));
  CHECK(stop.steady == Approx(35.0 + 18.0 + 11.0));
}

TEST_CASE("supplies are tried with the stop they must bear") {
  Document d = stopping();
  d.pace.type("stop_ramp", "600 ms");
  d.pace.type("stop_time", "");
  const MachineRun run = run_of(d);
  REQUIRE(limit_of(run, 0, "machine.hold_up")->state == LimitState::over);
  const std::string way_out = limit_of(run, 0, "machine.hold_up")->rule;
  CHECK_THAT(way_out, Contains("in all instead of") && Contains("would be enough"));
  const auto trials = supply_trials(run, 0, d, library());
  // by calculation with the capacitors it takes, which do once they are put in
  REQUIRE(trials[0].fits);
  CHECK_THAT(trials[0].title, Contains(", with ") && Contains("mF"));
  Document with = d;
  bus_of(with) = *trials[0].bus;
  const MachineRun paid = run_of(with);
  CHECK(limit_of(paid, 0, "machine.hold_up")->state != LimitState::over);
  const double farads = capacitance_for_stop(run.buses[0]);
  CHECK(paid.buses[0].capacitance > farads);
  CHECK(paid.buses[0].capacitance < 1.5 * farads);
  // a part of the library alone does not, and says why
  const auto part =
      std::find_if(trials.begin(), trials.end(), [](const SupplyTrial& t) { return !t.part.empty(); });
  REQUIRE(part != trials.end());
  CHECK_FALSE(part->fits);
  std::string reasons;
  for (const std::string& reason : part->reasons) reasons += reason + "\n";
  CHECK_THAT(reasons, Contains("Hold-up") && Contains("The capacitors decide that"));
}

TEST_CASE("a supply by calculation comes up under its loads") {
  Document d = demo();
  add_load(d, "24 V", "60 W");
  const MachineRun run = run_of(d);
  const auto trials = supply_trials(run, 2, d, Library());
  CHECK(trials[0].fits);
  CHECK(trials[0].bus->term("limit") >= 113.0 / 6.0); // all at a quarter of 24 V
}
