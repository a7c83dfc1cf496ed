// What a search excludes, passes or puts in order without judging it in full: no bound may say more than the
// limits do.

#include "core/match/judge.hpp"
#include "core/match/ranking.hpp"
#include "core/match/screen.hpp"
#include "core/match/settler.hpp"
#include "core/quantity/format.hpp"
#include "reference/dense_axis.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

constexpr double same = 1e-9;

std::vector<Axis> many_axes(unsigned seed) {
  std::vector<Axis> axes = demo().axes;
  for (const std::string_view mechanism : all_mechanisms())
    axes.push_back(DenseAxis(++seed, std::string(mechanism)).axis());
  for (std::size_t i = 0; i < axes.size(); i += 2)
    axes[i]["surroundings"].type("shared_bus", ""); // then the supply's limits are its own
  return axes;
}

std::vector<PartChoice> some(const std::vector<PartChoice>& all, std::size_t number, std::mt19937& random) {
  std::vector<PartChoice> out;
  std::sample(all.begin(), all.end(), std::back_inserter(out), number, random);
  return out;
}

std::uint32_t any(std::size_t number, std::mt19937& random) {
  return std::uniform_int_distribution<std::uint32_t>(0, static_cast<std::uint32_t>(number) - 1)(random);
}

/// Drives that differ in what they bear, lose and store, all feeding as the one they are made from.
void add_variants(std::vector<PartChoice>& drives, std::mt19937& random) {
  std::vector<PartChoice> more;
  std::uniform_real_distribution<double> factor(0.5, 2.0);
  for (const PartChoice& drive : drives) {
    if (drive.section.has("current_setting")) continue; // each current has a pull-out curve of its own: slow
    PartChoice other = drive;
    for (const char* field :
         {"continuous_current", "peak_current", "standby", "device_drop", "capacitance"}) {
      if (!other.section.has(field) || other.section.blank(field)) continue;
      const FieldSpec& spec = other.section.spec().fields[*other.section.spec().index_of(field)];
      other.section.type(
          field, format(other.section.term(field) * factor(random), spec.kind, UnitSet::si, 9).text());
    }
    other.number += "/v";
    more.push_back(std::move(other));
  }
  drives.insert(drives.end(), more.begin(), more.end());
}

/// A bus that is at its limits with what the axis draws: supplies decide then.
void tighten_supply(Axis& axis, const Demand& demand, std::mt19937& random) {
  std::uniform_real_distribution<double> factor(0.99, 1.01);
  if (!std::isfinite(demand.mean_bus_current) || !std::isfinite(demand.peak_bus_current)) return;
  Section& s = axis["surroundings"];
  s.type("supply_current", std::to_string(demand.mean_bus_current * factor(random)) + " A");
  s.type("supply_peak", std::to_string(demand.peak_bus_current * factor(random)) + " A");
}

/// One that fits, where any does, or nearly.
Combination likely(const Axis& axis, const MatchSpace& space, std::mt19937& random) {
  MatchRun run;
  run.settle = 0;
  run.misses = 20;
  const MatchResult found = search(axis, house_rules(), space, run);
  if (!found.fits.empty() && any(4, random) > 0) return found.fits[any(found.fits.size(), random)].parts;
  if (!found.misses.empty()) return found.misses[any(found.misses.size(), random)].trial.parts;
  return {};
}

} // namespace

TEST_CASE("what one drive tells of the others of its class is what judging them in full tells") {
  std::mt19937 random(3301);
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  int looked = 0, fits = 0, fails = 0, open = 0, exact = 0;
  for (Axis axis : many_axes(9500)) {
    MatchSpace space = match_space(axis, library());
    space.motors = some(space.motors, 14, random);
    add_variants(space.drives, random);
    for (int round = 0; round < 3; ++round) {
      const Combination first = likely(axis, space, random);
      const BenchOfParts bench(axis, space);
      Judge judge(axis, space, bench, rules);
      if (!bench.runs(first.motor, bench.class_of(first.drive))) continue;
      REQUIRE(judge(first));
      if (round == 1) { // from now on the supply decides, too
        const AxisModel model = bench.model(first);
        tighten_supply(axis, judge_all(model, with_parts(axis, space, first), rules).demand, random);
        continue;
      }
      DriveSweep sweep = judge.sweep();
      std::vector<std::uint32_t> drives = bench.classes()[bench.class_of(first.drive)].drives;
      std::shuffle(drives.begin(), drives.end(), random);
      drives.resize(std::min<std::size_t>(drives.size(), 12));
      for (const std::uint32_t drive : drives) {
        Combination parts = first;
        parts.drive = drive;
        const double beyond = looked % 3 == 0 ? 1e12 : 1.0;
        const auto outlook = sweep(bench.drive(drive), space.drives[drive].section, beyond);
        const auto full = judge(parts);
        REQUIRE(full);
        const Trial plain = trial_of(parts, *full);
        INFO(axis.name << ", " << name_of(space, parts) << ": " << plain.worst << " " << plain.used);
        ++looked;
        CHECK(outlook.least <= plain.used * (1.0 + same));
        CHECK((outlook.fails() || plain.used <= outlook.most * (1.0 + same)));
        if (outlook.fails()) {
          ++fails;
          CHECK_FALSE(plain.fits);
          continue;
        }
        if (!outlook.fits()) {
          ++open;
          continue;
        }
        ++fits;
        CHECK(plain.fits);
        const Trial told = sweep.trial(parts, outlook);
        CHECK(told.fits);
        CHECK(told.wanted.empty() == plain.wanted.empty());
        CHECK(std::isnan(told.energy) == std::isnan(plain.energy));
        CHECK_FALSE(told.energy > plain.energy * (1.0 + same) + 1e-12);
        CHECK_FALSE(told.winding > plain.winding);
        if (!outlook.exact) continue;
        ++exact;
        CHECK(told.settled);
        CHECK(told.used == Approx(plain.used).epsilon(same));
        CHECK(told.worst == plain.worst);
        if (!std::isnan(plain.energy)) CHECK(told.energy == Approx(plain.energy).epsilon(same));
        if (!std::isnan(plain.winding)) CHECK(told.winding == Approx(plain.winding).epsilon(same));
      }
    }
  }
  // every way it can end was seen, and few were left open
  CHECK(looked > 200);
  CHECK(fits > 30);
  CHECK(fails > 100);
  CHECK(exact > 5);
  CHECK(open < looked / 4);
}

TEST_CASE("what excludes a motor by its figures alone is never above what its limits say") {
  std::mt19937 random(3307);
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  int excluded = 0, looked = 0;
  std::array<int, Screen::reasons> by{};
  for (const Axis& axis : many_axes(9600)) {
    const MatchSpace space = match_space(axis, library());
    const BenchOfParts bench(axis, space);
    const Screen screen(bench, rules, space.motors.size(), space.brakes.size());
    REQUIRE_FALSE(screen.examples().empty());
    Judge judge(axis, space, bench, rules);
    for (int round = 0; round < 3; ++round) {
      const auto& example = screen.examples().front();
      Combination parts{example.motor, any(space.heads.size(), random),
                        bench.classes()[example.drive_class].drives.front(), 0, 0};
      if (!judge(parts)) continue;
      const TrainDemand train = judge.train();
      const Screen::Asked asked(screen, train, 0);
      for (int i = 0; i < 25; ++i) {
        parts.motor = any(space.motors.size(), random);
        parts.drive = any(space.drives.size(), random);
        const std::size_t k = bench.class_of(parts.drive);
        if (!bench.runs(parts.motor, k)) continue;
        const Screen::Bound bound = screen(asked, parts.motor, k);
        const Hint hint = judge.hint(parts, train);
        INFO(axis.name << ", " << name_of(space, parts) << ": " << Screen::label(bound.reason));
        ++looked;
        CHECK(bound.used <= hint.used * (1.0 + same));
        ++by[bound.reason];
        if (bound.used > 1.0) {
          ++excluded;
          CHECK(Screen::label(bound.reason) != "");
        }
        // the one that stands for a group fits as the others of it do
        Combination stands = parts;
        const auto& one = screen.examples()[screen.fitting_of(parts.motor)];
        stands.motor = one.motor;
        stands.drive = bench.classes()[one.drive_class].drives.front();
        const Hint its = judge.fittings(stands, train), own = judge.fittings(parts, train);
        CHECK(its.used == own.used);
        CHECK(its.limit == own.limit);
      }
    }
  }
  CHECK(excluded > looked / 10);
  for (const auto reason :
       {Screen::rms_torque, Screen::peak_torque, Screen::pull_out, Screen::speed, Screen::inertia})
    CHECK(by[reason] > 0);
}

TEST_CASE("a search that leaves bounds names the same combinations, and settles what is asked for") {
  std::mt19937 random(3313);
  std::size_t unsettled = 0, spared = 0;
  for (const std::size_t index : {0U, 1U, 3U}) {
    Axis axis = demo().axes[index];
    if (index == 1) axis["surroundings"].type("shared_bus", "");
    MatchSpace space = match_space(axis, library());
    // pull-out curves are slow; the test above looks at them
    std::erase_if(space.motors, [](const PartChoice& motor) { return motor.section.has("leads"); });
    add_variants(space.drives, random);
    const MatchResult whole = search(axis, house_rules(), space);
    MatchRun run;
    run.settle = 0;
    MatchResult bounds = search(axis, house_rules(), space, run);
    REQUIRE(whole.fits.size() == bounds.fits.size());
    REQUIRE(whole.fits.size() > 20);
    for (std::size_t i = 0; i < whole.fits.size(); ++i) {
      const Trial &a = whole.fits[i], &b = bounds.fits[i];
      REQUIRE(a.parts == b.parts);
      CHECK(a.settled);
      CHECK(b.used <= a.used * (1.0 + same));
      CHECK(b.ratio == a.ratio);
      unsettled += b.settled ? 0 : 1;
    }
    Settler settle(axis, house_rules(), space);
    for (const Weights& weights :
         {usual_weights(), Weights{{"used", 1.0}}, Weights{{"energy", 1.0}, {"winding", 1.0}}}) {
      auto trials = bounds.fits;
      constexpr std::size_t number = 15;
      const auto plain = ranked(space, whole.fits, weights, {});
      const auto order = ranked(space, trials, weights, {}, settle, number);
      REQUIRE(order.size() == plain.size());
      std::vector<std::size_t> all = order;
      std::sort(all.begin(), all.end());
      CHECK(std::unique(all.begin(), all.end()) == all.end()); // each once
      for (const Trial& trial : trials) spared += trial.settled ? 0 : 1;
      for (std::size_t i = 0; i < number; ++i) {
        INFO(i << ": " << name_of(space, whole.fits[plain[i]].parts));
        CHECK(trials[order[i]].settled);
        const Standing a = standing_of(space, whole.fits[plain[i]], weights),
                       b = standing_of(space, trials[order[i]], weights);
        CHECK(b.missing == a.missing);
        CHECK(b.sum == Approx(a.sum).epsilon(same)); // equal ones may change places by rounding
      }
    }
    auto trials = bounds.fits;
    std::vector<std::size_t> places(trials.size());
    for (std::size_t i = 0; i < places.size(); ++i) places[i] = i;
    for (const auto& [x, y] : {std::pair{"used", "price"}, {"energy", "used"}, {"price", "winding"}}) {
      const Yardstick &across = *find_yardstick(x), &up = *find_yardstick(y);
      const auto front = best_front(space, trials, places, across, up, settle);
      const auto plain = best_front(space, whole.fits, places, across, up);
      REQUIRE(front.size() == plain.size());
      for (std::size_t i = 0; i < front.size(); ++i) {
        CHECK(trials[front[i]].settled);
        CHECK(across.value(space, trials[front[i]]) ==
              Approx(across.value(space, whole.fits[plain[i]])).epsilon(same));
        CHECK(up.value(space, trials[front[i]]) ==
              Approx(up.value(space, whole.fits[plain[i]])).epsilon(same));
      }
    }
  }
  CHECK(unsettled > 100);
  CHECK(spared > unsettled); // in three orders each: not simply all are settled
}
