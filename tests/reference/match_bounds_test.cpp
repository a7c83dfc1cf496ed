// What a search excludes, passes or puts in order without judging it in full: no bound may say more than the
// limits do.

#include "core/match/judge.hpp"
#include "core/match/ranking.hpp"
#include "core/match/screen.hpp"
#include "core/match/search_task.hpp"
#include "core/match/settler.hpp"
#include "reference/match_cases.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <span>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

/// One that fits, where any does, or nearly.
Combination likely(const Axis& axis, const MatchSpace& space, std::mt19937& random) {
  MatchRun run;
  run.settle = 0;
  run.misses = 8;
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
  for (Axis axis : some(many_axes(9500), rounds(10), random)) {
    MatchSpace space = match_space(axis, library());
    if (any(6, random) > 0) // pull-out curves are slow
      std::erase_if(space.motors, [](const PartChoice& motor) { return motor.section.has("leads"); });
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
      const DriveClass& whole = bench.classes()[bench.class_of(first.drive)];
      if (any(3, random) > 0) sweep.strongest(bench.drive(whole.strongest));
      std::vector<std::uint32_t> drives = whole.drives;
      std::shuffle(drives.begin(), drives.end(), random);
      drives.resize(
          std::min<std::size_t>(drives.size(), round == 0 ? 60 : 10)); // more currents than are worked out
      for (const std::uint32_t drive : drives) {
        Combination parts = first;
        parts.drive = drive;
        const double beyond = looked % 3 == 0 ? 1e12 : 1.0;
        const bool clear = any(3, random) > 0 && judge.drive_alone(parts).clear;
        const auto outlook = sweep(bench.drive(drive), clear, beyond);
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
  CHECK(looked > rounds(200));
  CHECK(fits > rounds(30));
  CHECK(fails > rounds(100));
  CHECK(exact > rounds(3));
  CHECK(open < looked / 4);
}

TEST_CASE("what excludes a motor by its figures alone is never above what its limits say") {
  std::mt19937 random(3307);
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  int excluded = 0, looked = 0;
  std::array<int, Screen::reasons> by{};
  for (const Axis& axis : many_axes(9600)) {
    const MatchSpace space = match_space(axis, library(), {true, false});
    const BenchOfParts bench(axis, space);
    const Screen screen(bench, rules, space.motors.size(), space.brakes.size());
    REQUIRE_FALSE(screen.examples().empty());
    Judge judge(axis, space, bench, rules);
    for (int round = 0; round < 3; ++round) {
      const auto& example = screen.examples().front();
      Combination parts{example.motor, any(space.heads.size(), random),
                        bench.classes()[example.drive_class].drives.front(), any(space.brakes.size(), random),
                        0};
      if (!judge(parts)) continue;
      const TrainDemand train = judge.train();
      const Screen::Asked asked(screen, train, parts.brake);
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
        if (bound.reason == Screen::inertia) {
          const AxisModel model = bench.model(parts);
          const char* rule = model.motor->keeps_current() ? "inertia_max_stepper" : "inertia_max";
          CHECK(bound.used ==
                Approx(train.demand().load_inertia / model.rotor / rules.term(rule)).epsilon(2e-9));
        }
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
       {Screen::rms_torque, Screen::peak_torque, Screen::pulls_out, Screen::speed, Screen::inertia})
    CHECK(by[reason] > 0);
}

TEST_CASE("what the strongest drive of a class leaves, no other of it does better") {
  std::mt19937 random(3343);
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  std::uniform_real_distribution<double> share(0.3, 1.4);
  int looked = 0, by_current_alone = 0, by_hint_alone = 0, at_moments = 0, as_great = 0;
  std::vector<Axis> axes = demo().axes;
  for (Axis& axis : many_axes(9640)) axes.push_back(std::move(axis));
  for (const Axis& axis : axes) {
    Recorder silent(false);
    const auto model = AxisModel::build(axis, silent);
    if (!model || !model->motor->electric()) continue;
    const double peak = judge_all(*model, axis, rules).demand.peak_current;
    const auto only = [&](std::string_view slot) { return std::vector{choice_now(axis, slot)}; };
    MatchSpace space{only("motor"), only("gearhead"), {}, only("brake"), only("coupling")};
    for (int i = 0; i < 6; ++i) {
      space.drives.push_back(choice_now(axis, "drive"));
      space.drives.back().section.type("peak_current", std::to_string(share(random) * peak) + " A");
    }
    const BenchOfParts bench(axis, space);
    Judge judge(axis, space, bench, rules);
    if (bench.classes().size() != 1 || bench.classes()[0].drives.size() < 6 || !bench.runs(0, 0)) continue;
    Combination best;
    best.drive = bench.strongest_of(bench.classes()[0].drives);
    REQUIRE(judge(Combination{}));
    const TrainDemand train = judge.train();
    const Hint hint = judge.hint_of_strongest(best, train);
    CHECK(hint.used >= judge.hint(best, train).used);
    REQUIRE(judge(Combination{}));
    DriveSweep sweep = judge.sweep();
    sweep.strongest(bench.drive(best.drive));
    const double at_worst_moments = sweep.least_at_worst_moments(), by_current = sweep.least_by_current();
    CHECK(at_worst_moments <= by_current);
    at_moments += at_worst_moments > 0.0 ? 1 : 0;
    as_great += at_worst_moments > 0.999 * by_current && by_current > 0.0 ? 1 : 0;
    INFO(axis.name << ": " << hint.limit);
    for (const std::uint32_t drive : bench.classes()[0].drives) {
      const auto judged = judge({0, 0, drive, 0, 0});
      REQUIRE(judged);
      const double used = judged->verdict.used;
      CHECK((hint.used <= 1.0 || hint.used <= used * (1.0 + same))); // what fits exactly counts as 1 there
      CHECK(by_current <= used * (1.0 + same));
      if (drive != best.drive || !std::isfinite(used)) continue;
      by_current_alone += by_current > 0.9 * used ? 1 : 0;
      by_hint_alone += hint.used > std::max(1.0, 0.9 * used) && hint.limit.starts_with("Peak torque") ? 1 : 0;
    }
    ++looked;
  }
  CHECK(looked > rounds(15));
  CHECK(at_moments > 3);
  CHECK(as_great > 3);
  CHECK(by_current_alone > rounds(2)); // neither is an idle bound
  CHECK(by_hint_alone > 0);
}

TEST_CASE("a search that leaves bounds names the same combinations, and settles what is asked for") {
  std::mt19937 random(3313);
  std::size_t unsettled = 0, spared = 0;
  constexpr std::array<std::size_t, 3> axes{0, 1, 3};
  for (const std::size_t index : std::span(axes).first(rounds(3))) {
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
    const auto exact = whole.fits.each_by_itself(), known = bounds.fits.each_by_itself();
    for (std::size_t i = 0; i < exact.size(); ++i) {
      const Trial &a = exact[i], &b = known[i];
      REQUIRE(a.parts == b.parts);
      CHECK(a.settled);
      CHECK(b.used <= a.used * (1.0 + same));
      CHECK(b.ratio == a.ratio);
      unsettled += b.settled ? 0 : 1;
    }
    Settler settle(axis, house_rules(), space);
    for (const Weights& weights :
         {usual_weights(), Weights{{"used", 1.0}}, Weights{{"energy", 1.0}, {"winding", 1.0}}}) {
      Fits trials = bounds.fits;
      constexpr std::size_t number = 15;
      const auto plain = ranked(space, exact, weights, {});
      const auto order = ranked(space, trials, weights, {}, settle, number).order;
      REQUIRE(order.size() == plain.size());
      std::vector<std::size_t> all = order;
      std::sort(all.begin(), all.end());
      CHECK(std::unique(all.begin(), all.end()) == all.end()); // each once
      for (const Trial& trial : trials.each_by_itself()) spared += trial.settled ? 0 : 1;
      for (std::size_t i = 0; i < number; ++i) {
        INFO(i << ": " << name_of(space, exact[plain[i]].parts));
        CHECK(trials[order[i]].settled);
        const Standing a = standing_of(space, exact[plain[i]], weights),
                       b = standing_of(space, trials[order[i]], weights);
        CHECK(b.missing == a.missing);
        CHECK(b.sum == Approx(a.sum).epsilon(same)); // equal ones may change places by rounding
      }
    }
    Fits trials = bounds.fits;
    std::vector<std::size_t> places(trials.size());
    for (std::size_t i = 0; i < places.size(); ++i) places[i] = i;
    for (const auto& [x, y] : {std::pair{"used", "price"}, {"energy", "used"}, {"price", "winding"}}) {
      const Yardstick &across = *find_yardstick(x), &up = *find_yardstick(y);
      const auto front = best_front(space, trials, {}, across, up, settle);
      const auto plain = best_front(space, exact, places, across, up);
      REQUIRE(front.size() == plain.size());
      for (std::size_t i = 0; i < front.size(); ++i) {
        CHECK(trials[front[i]].settled);
        CHECK(across.value(space, trials[front[i]]) ==
              Approx(across.value(space, exact[plain[i]])).epsilon(same));
        CHECK(up.value(space, trials[front[i]]) == Approx(up.value(space, exact[plain[i]])).epsilon(same));
      }
    }
  }
  CHECK(unsettled > 40);
  CHECK(spared > unsettled); // in three orders each: not simply all are settled
}

TEST_CASE(
    "the share of a pair is kept in half the memory, never above what it was, the least of all classes") {
  std::mt19937 random(3319);
  std::uniform_real_distribution<double> shares(0.0, 20.0);
  PairBounds bounds;
  bounds.reset(3);
  for (std::size_t pair = 0; pair < bounds.size(); ++pair)
    CHECK_FALSE(bounds.hopeless(pair)); // none was tried
  double least = 1e9;
  for (int i = 0; i < 1000; ++i) {
    const double share = shares(random);
    CHECK(static_cast<double>(PairBounds::lowered(share)) <= share);
    CHECK(static_cast<double>(PairBounds::lowered(share)) >= share * (1.0 - 2e-7));
    least = std::min(least, share);
    bounds.lower(1, share);
    bounds.lower(1, std::nan("")); // a class that could not be worked out tells nothing
    CHECK(bounds.at_least(1) == PairBounds::lowered(least));
  }
  bounds.lower(2, std::numeric_limits<double>::infinity());
  CHECK(bounds.hopeless(1));
  CHECK(bounds.hopeless(2)); // a share without end is a miss, too
  bounds.fits(1);
  CHECK_FALSE(bounds.hopeless(1));
  CHECK_FALSE(bounds.hopeless(0));
}

TEST_CASE("of hundreds of pairs the nearest misses are those of working out every one") {
  std::mt19937 random(3323);
  for (const std::size_t index : {1U, 3U}) {
    const Axis axis = demo().axes[index];
    MatchSpace space = match_space(axis, library());
    std::erase_if(space.motors, [](const PartChoice& motor) { return motor.section.has("leads"); });
    space.heads = some(space.heads, 6, random);
    space.drives = some(space.drives, 8, random);
    MatchRun few, all;
    few.misses = 130;
    few.settle = all.settle = 0;
    all.misses = 100000;
    const MatchResult nearest = search(axis, house_rules(), space, few);
    const MatchResult every = search(axis, house_rules(), space, all);
    REQUIRE(every.misses.size() > 300);
    REQUIRE(nearest.misses.size() == 130);
    for (std::size_t i = 0; i < nearest.misses.size(); ++i) {
      INFO(axis.name << ", " << i << ": " << every.misses[i].trial.worst);
      CHECK(nearest.misses[i].trial.parts == every.misses[i].trial.parts);
      CHECK(nearest.misses[i].trial.used == every.misses[i].trial.used);
    }
  }
}

TEST_CASE("drives that differ in their peak current alone fit where judging them in full says so") {
  std::mt19937 random(3331);
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  int looked = 0, fits = 0, decided = 0, by_stop = 0;
  for (const std::size_t index : {0U, 1U, 3U, 4U, 10U, 11U, 13U, 14U}) {
    Axis axis = demo().axes[index % 10];
    const bool stops = index >= 10;
    MatchSpace space;
    const auto only = [&](std::string_view slot) { return std::vector{choice_now(axis, slot)}; };
    Recorder silent(false);
    const auto model = AxisModel::build(axis, silent);
    REQUIRE(model);
    if (stops && !model->gear.fitted) continue;
    const Demand demand = judge_all(*model, axis, rules).demand;
    if (stops) { // a stop by a strong drive breaks the head, by a weak one it does not
      axis["gearhead"].type("emergency_torque", "1 N.m");
      axis["drive"].type("peak_current", std::to_string(1.2 * demand.peak_current) + " A");
      const double used = limit(evaluated(axis), "gear.estop").used;
      axis["gearhead"].type("emergency_torque", std::to_string(used) + " N.m");
    }
    space = {only("motor"), only("gearhead"), only("drive"), only("brake"), only("coupling")};
    PartChoice drive = space.drives.front();
    drive.section.type("continuous_current", std::to_string(1.01 * demand.rms_current) + " A");
    drive.section.type("peak_time", "1000 s");
    space.drives.clear();
    std::uniform_real_distribution<double> share(demand.rms_current / demand.peak_current * 1.02, 2.0);
    for (int i = 0; i < rounds(60); ++i) {
      drive.section.type("peak_current", std::to_string(share(random) * demand.peak_current) + " A");
      space.drives.push_back(drive);
    }
    const BenchOfParts bench(axis, space);
    Judge judge(axis, space, bench, rules);
    REQUIRE(judge(Combination{}));
    DriveSweep sweep = judge.sweep();
    if (stops) sweep.strongest(bench.drive(bench.classes().front().strongest));
    for (std::uint32_t i = 0; i < space.drives.size(); ++i) {
      Combination parts;
      parts.drive = i;
      const auto outlook = sweep(bench.drive(i), false);
      const auto full = judge(parts);
      REQUIRE(full);
      const Trial plain = trial_of(parts, *full);
      INFO(axis.name << ", " << space.drives[i].section.text("peak_current") << ": " << plain.worst << " "
                     << plain.used);
      CHECK(outlook.least <= plain.used * (1.0 + same));
      CHECK((outlook.fails() || plain.used <= outlook.most * (1.0 + same)));
      CHECK_FALSE((outlook.fits() && !plain.fits));
      CHECK_FALSE((outlook.fails() && plain.fits));
      by_stop += stops && plain.worst == label_of_limit("gear.estop") ? 1 : 0;
      ++looked;
      fits += outlook.fits() ? 1 : 0;
      decided += outlook.fits() || outlook.fails() ? 1 : 0;
    }
  }
  CHECK(by_stop > 3);
  CHECK(fits > looked / 5);
  CHECK(fits < looked * 4 / 5);
  CHECK(decided > looked * 4 / 5);
}
