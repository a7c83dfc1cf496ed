// Drives that a search decides together: what the bounds of a group say holds for each of them.

#include "core/drive/formulas.hpp"
#include "core/match/judge.hpp"
#include "core/match/rejected_parts.hpp"
#include "core/match/remarks.hpp"
#include "core/match/search_task.hpp"
#include "reference/match_cases.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <map>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

/// A search over the drives of the library and variants of them, on one motor that runs on the first drive.
MatchSpace drives_for(const Axis& axis, std::mt19937& random, std::size_t motors = 12,
                      std::size_t heads = 6) {
  MatchSpace space = match_space(axis, library());
  for (int i = 0; i < 4; ++i) add_variants(space.drives, random);
  for (const char* field : {"overvoltage", "capacitance", "peak_time"}) // not every sheet tells everything
    for (PartChoice& drive : space.drives)
      if (drive.section.has(field) && any(12, random) == 0) drive.section.type(field, "");
  std::erase_if(space.motors, [](const PartChoice& motor) { return motor.section.has("leads"); });
  space.motors = some(space.motors, motors, random);
  space.heads = some(space.heads, heads, random);
  return space;
}

/// All usable drives of a class, by their places.
std::vector<std::uint32_t> clear_drives(const SearchTask& task, std::size_t drive_class) {
  std::vector<std::uint32_t> all;
  for (const std::uint32_t drive : task.bench.classes()[drive_class].drives)
    if (!(task.alone[drive].worst.used > 1.0)) all.push_back(drive);
  return all;
}

} // namespace

TEST_CASE("the bounds of a group are figures that no drive of it is weaker or stronger than") {
  std::mt19937 random(3401);
  const Axis axis = demo().axes[1];
  const Section rules = house_rules();
  const MatchSpace space = drives_for(axis, random);
  const SearchTask task(axis, rules, space, {});
  int groups = 0;
  for (std::size_t k = 0; k < task.bench.classes().size(); ++k) {
    const auto drives = clear_drives(task, k);
    for (const DriveGroup& group : groups_of(drives, task)) {
      ++groups;
      REQUIRE(group.weakest.size() == group.places.size());
      for (std::size_t i = 0; i < group.places.size(); ++i) {
        const Drive& drive = *task.bench.drive(drives[group.places[i]]);
        for (const auto figure : {&Drive::capacitance, &Drive::overvoltage, &Drive::peak_time}) {
          CHECK(std::isnan(drive.*figure) == std::isnan((*group.weakest.front()).*figure));
          CHECK(std::isnan(drive.*figure) == std::isnan((*group.strongest).*figure));
        }
        const auto within = [&](Term Drive::*figure) {
          if (std::isnan(drive.*figure)) return std::isnan((*group.strongest).*figure);
          return drive.*figure <= (*group.strongest).*figure;
        };
        for (const auto figure : {&Drive::continuous_current, &Drive::peak_current, &Drive::capacitance,
                                  &Drive::overvoltage, &Drive::brake_power})
          CHECK(within(figure));
        for (std::size_t n = i; n < group.weakest.size(); ++n) {
          const Drive& weakest = *group.weakest[n];
          for (const auto figure : {&Drive::continuous_current, &Drive::peak_current, &Drive::capacitance,
                                    &Drive::overvoltage, &Drive::brake_power})
            CHECK_FALSE(weakest.*figure > drive.*figure);
          for (const double current : {0.0, 3.0, 70.0}) {
            CHECK(weakest.loss(current) >= drive.loss(current) * (1.0 - same));
            CHECK(group.strongest->loss(current) <= drive.loss(current) * (1.0 + same));
          }
          const auto room = [](const Drive& of) {
            return overload_limit(of.rated_peak, of.continuous_current, of.peak_time);
          };
          if (std::isnan(drive.peak_time)) continue;
          CHECK(room(weakest) <= room(drive) * (1.0 + same));
          CHECK(room(*group.strongest) >= room(drive) * (1.0 - same));
        }
      }
    }
  }
  CHECK(groups > 0);
}

namespace {

/// Lets the head break in a stop by the stronger drives of a list, and not by the weaker ones.
void weaken_head(MatchSpace& space, const Axis& axis, Combination parts,
                 const std::vector<std::uint32_t>& drives, std::mt19937& random) {
  parts.drive = drives[any(drives.size(), random)];
  PartChoice& head = space.heads[parts.head];
  if (head.none()) return;
  head.section.type("emergency_torque", "1 N.m");
  const auto evaluation = evaluated(with_parts(axis, space, parts));
  for (const Limit& limit : evaluation.limits)
    if (limit.id == "gear.estop" && std::isfinite(limit.used))
      head.section.type("emergency_torque", std::to_string(limit.used) + " N.m");
}

} // namespace

TEST_CASE("drives that a group says fit together do, each no better than it says") {
  std::mt19937 random(3407);
  const Section rules_section = house_rules();
  int fits = 0, sure = 0, whole = 0, halved = 0, by_figure = 0, by_stop = 0, by_supply = 0;
  std::vector<Axis> axes = some(many_axes(9900), 10, random);
  for (Axis axis : some(demo().axes, 5, random)) {
    axis["surroundings"].type("shared_bus", ""); // then the supply's limits are its own
    axis["surroundings"].type("bus", "48 V");
    axes.push_back(std::move(axis));
  }
  for (Axis axis : axes) {
    MatchSpace space = drives_for(axis, random);
    MatchRun run;
    run.settle = run.misses = 0;
    const MatchResult found = search(axis, rules_section, space, run);
    if (found.fits.empty()) continue;
    for (int round = 0; round < 3; ++round) {
      Combination parts = found.fits[any(found.fits.size(), random)].parts;
      if (round == 2) {
        const SearchTask before(axis, rules_section, space, run);
        weaken_head(space, axis, parts, clear_drives(before, before.bench.class_of(parts.drive)), random);
      }
      if (round == 1) { // what the drives lose decides
        const SearchTask before(axis, rules_section, space, run);
        const Axis fitted = with_parts(axis, space, parts);
        tighten_supply(axis, judge_all(before.bench.model(parts), fitted, before.rules).demand, random);
      }
      const SearchTask task(axis, rules_section, space, run);
      Judge judge(axis, space, task.bench, task.rules);
      const auto drives = clear_drives(task, task.bench.class_of(parts.drive));
      const auto groups = groups_of(drives, task);
      REQUIRE(judge(parts));
      DriveSweep sweep = judge.sweep();
      for (const DriveGroup& group : groups) {
        std::size_t number = 0, not_sure = group.places.size() + 1;
        for (std::size_t next = group.places.size(); number + 1 < not_sure; next = (number + not_sure) / 2)
          (sweep.all_fit(group, next) ? number : not_sure) = next;
        whole += number == group.places.size() ? 1 : 0;
        halved += number > 0 && number < group.places.size() ? 1 : 0;
        const GroupFloor floor = sweep.floor_of(group, std::max<std::size_t>(number, 1));
        for (std::size_t i = 0; i < group.places.size(); ++i) {
          parts.drive = drives[group.places[i]];
          const auto full = judge(parts);
          REQUIRE(full);
          const Trial plain = trial_of(parts, *full);
          INFO(axis.name << ", " << name_of(space, parts) << ": " << plain.worst << " " << plain.used);
          fits += plain.fits ? 1 : 0;
          by_supply += plain.worst.text().starts_with("Supply") ? 1 : 0;
          by_stop += plain.worst == label_of_limit("gear.estop") ? 1 : 0;
          if (i >= number) continue;
          ++sure;
          CHECK(plain.fits);
          const Trial told = floor.trial(parts, *task.bench.drive(parts.drive));
          CHECK(told.fits);
          CHECK_FALSE(told.settled);
          CHECK(told.used <= plain.used * (1.0 + same));
          CHECK(told.wanted.empty() == plain.wanted.empty());
          CHECK(std::isnan(told.energy) == std::isnan(plain.energy));
          CHECK_FALSE(told.energy > plain.energy * (1.0 + same) + 1e-12);
          CHECK_FALSE(told.winding > plain.winding);
          if (plain.worst != label_of_limit("drive.rms") && plain.worst != label_of_limit("drive.peak") &&
              plain.worst != label_of_limit("gear.estop"))
            continue;
          ++by_figure;
          CHECK(told.worst == plain.worst);
          CHECK(told.used == Approx(plain.used).epsilon(1e-9));
        }
      }
    }
  }
  CHECK(fits > 100);
  CHECK(sure > fits / 2); // few are left to be looked at one by one
  CHECK(by_stop > 10);
  CHECK(by_supply > 10);
  CHECK(whole > 3);
  CHECK(halved > 3);
  CHECK(by_figure > 10);
}

TEST_CASE("of many drives a search finds those that fit, and no others") {
  std::mt19937 random(3433);
  const Section rules_section = house_rules();
  std::uniform_real_distribution<double> near(0.7, 1.7);
  int fits = 0, not_fit = 0;
  std::size_t groups = 0;
  for (const Axis& axis : some(demo().axes, 5, random)) {
    MatchSpace space = drives_for(axis, random, 1000, 1000);
    MatchRun run;
    run.settle = run.misses = 0;
    const MatchResult found = search(axis, rules_section, space, run);
    if (found.fits.empty()) continue;
    // motors and heads of which some fit
    std::vector<PartChoice> motors, heads;
    Combination first;
    for (int i = 0; i < 3; ++i) {
      const Combination& parts = found.fits[any(found.fits.size(), random)].parts;
      motors.push_back(space.motors[parts.motor]);
      heads.push_back(space.heads[parts.head]);
      if (i == 0) first.drive = parts.drive;
    }
    space.motors = motors;
    space.heads = heads;
    const SearchTask fitted(axis, rules_section, space, run);
    const Demand demand =
        judge_all(fitted.bench.model(first), with_parts(axis, space, first), fitted.rules).demand;
    for (PartChoice& drive : space.drives) // about what is needed
      for (const auto& [field, current] : {std::pair{"continuous_current", demand.rms_current.value},
                                           {"peak_current", demand.peak_current.value}})
        if (drive.section.has(field) && std::isfinite(current))
          drive.section.type(field, std::to_string(near(random) * current) + " A");
    for (PartChoice& drive : space.drives) // of two classes, both with groups
      if (drive.section.has("voltage_use"))
        drive.section.type("voltage_use", any(2, random) == 0 ? "0.95" : "0.97");
    const SearchTask task(axis, rules_section, space, run);
    Judge judge(axis, space, task.bench, task.rules);
    std::vector<Combination> expected, told;
    for (std::uint32_t m = 0; m < space.motors.size(); ++m)
      for (std::uint32_t h = 0; h < space.heads.size(); ++h)
        for (std::uint32_t d = 0; d < space.drives.size(); ++d) {
          if (!task.bench.runs(m, task.bench.class_of(d))) continue;
          const auto full = judge({m, h, d, 0, 0});
          REQUIRE(full);
          const bool fit = trial_of({m, h, d, 0, 0}, *full).fits;
          if (fit) expected.push_back({m, h, d, 0, 0});
          (fit ? fits : not_fit) += 1;
        }
    run.threads = 2;
    const Fits all = search(axis, rules_section, space, run).fits;
    for (std::size_t place = 0; place < all.size(); ++place) {
      told.push_back(all.parts(place));
      CHECK(all.place_of(told.back()) == place);
    }
    run.threads = 1;
    std::sort(told.begin(), told.end());
    INFO(axis.name);
    groups += groups_of(clear_drives(task, task.bench.class_of(first.drive)), task).size();
    CHECK(told == expected);
  }
  CHECK(fits > 100);
  CHECK(not_fit > 100);
  CHECK(groups > 3);
}

namespace {

/// The motor a little stronger, and with a rotor six times as heavy.
PartChoice with_heavy_rotor(PartChoice motor) {
  Section& sheet = motor.section;
  for (const char* field : {"peak_curve", "continuous_curve"}) {
    std::string text;
    for (const CurvePoint& point : sheet.entry(field).curve)
      text += std::to_string(point[0]) + " rad/s: " + std::to_string(1.1 * point[1]) + " N.m; ";
    sheet.type(field, text.substr(0, text.size() - 2));
  }
  sheet.type("inertia", std::to_string(6.0e4 * sheet.term("inertia")) + " kg.cm2");
  motor.number += "-H";
  return motor;
}

} // namespace

TEST_CASE("a smaller motor that does better is found among drives that stand as one, too") {
  std::mt19937 random(3);
  const Section rules_section = house_rules();
  int told = 0;
  std::size_t together = 0;
  Axis axis = demo().axes[3]; // where the rotor takes most of the torque
  axis["surroundings"].type("shared_bus", "");
  MatchSpace space = drives_for(axis, random, 20, 8);
  for (std::size_t i = 0; i < 20; ++i)
    if (const Section& sheet = space.motors[i].section;
        sheet.has("peak_curve") && sheet.has("continuous_curve"))
      space.motors.push_back(with_heavy_rotor(space.motors[i]));
  const MatchResult whole = search(axis, rules_section, space);
  MatchRun run;
  run.settle = 0;
  const MatchResult blocks = search(axis, rules_section, space, run);
  blocks.fits.each(
      0, blocks.fits.size(), [](std::size_t, const Trial&) {},
      [&](const Fits::Part& part) { together += part.to(); });
  Settler settle(axis, rules_section, space);
  for (const Trial& trial : whole.fits.each_by_itself()) {
    const auto plain = smaller_does_better(space, whole, trial);
    if (!plain || told == 8) continue;
    ++told;
    const auto found = smaller_does_better(space, blocks, trial, &settle);
    REQUIRE(found);
    CHECK(found->used == Approx(plain->used).epsilon(same));
  }
  CHECK(told > 3);
  CHECK(together > 20);
  for (const std::string_view slot : searched_slots(space)) // what stands together counts for each
    CHECK(rejected_parts(space, blocks.fits, slot) == rejected_parts(space, whole.fits, slot));
}

TEST_CASE("the weaker a drive, the more every limit that looks at it is used") {
  std::mt19937 random(3413);
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  std::uniform_real_distribution<double> weaker(0.4, 1.0);
  std::map<std::string_view, int> grew;
  Recorder silent(false);
  for (const Axis& base : many_axes(9950))
    for (int round = 0; round < 8; ++round) {
      Axis axis = base;
      const auto model = AxisModel::build(axis, silent);
      if (!model) break;
      const JudgedAxis judged = judge_all(*model, axis, rules);
      AxisModel weak = *model;
      auto drive = std::make_shared<BoundDrive>(BoundDrive::Side::weakest, model->drive);
      for (const auto figure : {&Drive::continuous_current, &Drive::peak_current, &Drive::capacitance,
                                &Drive::overvoltage, &Drive::brake_power, &Drive::peak_time})
        ((*drive).*figure).value *= weaker(random);
      drive->rated_peak.value *= drive->peak_current / model->drive->peak_current;
      if (drive->rated_peak <= drive->continuous_current) continue;
      // what it allows as overload is no figure of its own: less of it is weaker
      const auto room = [](const Drive& of) {
        return overload_limit(of.rated_peak, of.continuous_current, of.peak_time);
      };
      if (room(*drive) > room(*model->drive)) drive->peak_time.value *= room(*model->drive) / room(*drive);
      weak.drive = drive;
      const LimitContext before{axis, *model, judged.course, judged.demand, rules, silent};
      const LimitContext after{axis, weak, judged.course, judged.demand, rules, silent};
      for (const LimitSpec* spec : limit_specs()) {
        if (spec->looks_at != LooksAt::drive || spec->follows == Follows::course) continue;
        const auto strong_limit = spec->judge(before), weak_limit = spec->judge(after);
        INFO(axis.name << ", " << spec->id);
        REQUIRE(strong_limit.has_value() == weak_limit.has_value());
        if (!strong_limit || strong_limit->state == LimitState::not_judged) continue;
        if (spec->follows == Follows::torque) {
          CHECK(weak_limit->used <= strong_limit->used * (1.0 + same));
          continue;
        }
        CHECK(weak_limit->used >= strong_limit->used * (1.0 - same));
        if (spec->drive_figure != nullptr)
          CHECK(weak_limit->used * ((*drive).*spec->drive_figure) ==
                Approx(strong_limit->used * ((*model->drive).*spec->drive_figure)));
        if (weak_limit->used > strong_limit->used * 1.001) ++grew[spec->id];
      }
    }
  for (const char* id : {"drive.rms", "drive.peak", "drive.peak_time", "drive.setting", "supply.overvoltage",
                         "motor.peak", "motor.peak_low"}) {
    INFO(id);
    CHECK(grew[id] > 3);
  }
}
