// The search against the plain way: every combination put into the axis and worked out in full. What is
// listed, what is not, and what comes nearest must be the same, whatever was passed over on the way.

#include "core/evaluation/machine.hpp"
#include "core/limits/limit.hpp"
#include "core/match/judge.hpp"
#include "core/match/ranking.hpp"
#include "core/match/rejected_parts.hpp"
#include "core/match/remarks.hpp"
#include "reference/dense_axis.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <utility>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

constexpr double nearly = 1e-9;

/// Shares a thousand times over stand next to where the capacity ends: how far is no number any more.
bool alike(double a, double b) {
  constexpr double no_number = 1e3;
  return (a > no_number && b > no_number) || a == Approx(b).epsilon(nearly);
}

template <class T> void keep(std::vector<T>& all, std::size_t number) {
  if (all.size() > number) all.erase(all.begin() + static_cast<std::ptrdiff_t>(number), all.end());
}

/// Some of a list, in its order.
std::vector<PartChoice> some(std::vector<PartChoice> all, std::size_t number, std::mt19937& random) {
  std::vector<PartChoice> out;
  std::sample(all.begin(), all.end(), std::back_inserter(out), number, random);
  return out;
}

MatchSpace small_space(const Axis& axis, std::mt19937& random, AlsoSearched also = {}) {
  MatchSpace space = match_space(axis, library(), also);
  space.motors = some(space.motors, 7, random);
  space.heads = some(space.heads, 3, random);
  space.drives = some(space.drives, 6, random);
  space.brakes = some(space.brakes, 2, random);
  space.couplings = some(space.couplings, 2, random);
  return space;
}

struct Plain {
  double used = 0.0;
  bool fits = false, fed = true;
};

/// Every combination in full.
std::map<Combination, Plain> one_by_one(const Axis& axis, const MatchSpace& space) {
  std::map<Combination, Plain> all;
  const auto each = [](const std::vector<PartChoice>& list, const auto& then) {
    for (std::uint32_t i = 0; i < list.size(); ++i) then(i);
  };
  each(space.motors, [&](std::uint32_t m) {
    each(space.heads, [&](std::uint32_t h) {
      each(space.drives, [&](std::uint32_t d) {
        each(space.brakes, [&](std::uint32_t b) {
          each(space.couplings, [&](std::uint32_t c) {
            const Combination parts{m, h, d, b, c};
            const auto full = evaluate(with_parts(axis, space, parts), house_rules());
            REQUIRE(full);
            Plain plain{worst_used(*full), !std::isnan(worst_used(*full)), true};
            for (const Limit& limit : full->limits) {
              if (limit.state != LimitState::over) continue;
              plain.fits = false;
              if (limit.id == "drive.match") plain.fed = false;
            }
            all[parts] = plain;
          });
        });
      });
    });
  });
  return all;
}

void check_fits(const std::map<Combination, Plain>& plain, const MatchResult& found) {
  std::size_t fit = 0;
  for (const auto& [parts, one] : plain) fit += one.fits ? 1 : 0;
  CHECK(found.fits.size() == fit);
  CHECK(found.tried == static_cast<double>(plain.size()));
  const std::vector<Trial> fits(found.fits.begin(), found.fits.end());
  CHECK(std::is_sorted(fits.begin(), fits.end(),
                       [](const Trial& a, const Trial& b) { return a.parts < b.parts; }));
  for (const Trial& trial : found.fits) {
    const Plain& one = plain.at(trial.parts);
    CHECK(one.fits);
    CHECK(trial.used == Approx(one.used).epsilon(nearly));
  }
  double killed = 0.0, fed = 0.0;
  for (const Killer& killer : found.killers) killed += killer.combinations;
  for (const auto& [parts, one] : plain) fed += one.fed ? 1.0 : 0.0;
  CHECK(killed == fed - static_cast<double>(fit)); // each that does not fit has what rules it out
  CHECK(found.feedless == static_cast<double>(plain.size()) - fed);
}

/// The best drive of every pair that none fits, nearest first.
std::vector<double> nearest_of(const std::map<Combination, Plain>& plain) {
  std::map<Combination, double> pairs;
  std::map<Combination, bool> fits;
  for (const auto& [parts, one] : plain) {
    if (!one.fed || std::isnan(one.used)) continue;
    Combination pair = parts;
    pair.drive = 0;
    fits[pair] = fits[pair] || one.fits;
    const auto [place, fresh] = pairs.emplace(pair, one.used);
    if (!fresh) place->second = std::min(place->second, one.used);
  }
  std::vector<double> all;
  for (const auto& [pair, used] : pairs)
    if (!fits[pair]) all.push_back(used);
  std::sort(all.begin(), all.end());
  return all;
}

void check_misses(const std::map<Combination, Plain>& plain, const MatchResult& found, std::size_t wanted) {
  const auto nearest = nearest_of(plain);
  REQUIRE(found.misses.size() == std::min(wanted, nearest.size()));
  for (std::size_t i = 0; i < found.misses.size(); ++i) {
    const Miss& miss = found.misses[i];
    const double used = plain.at(miss.trial.parts).used;
    INFO("found " << miss.trial.used << " by " << miss.trial.worst << ", plain " << used);
    CHECK(alike(miss.trial.used, used));
    CHECK(alike(used, nearest[i]));
    REQUIRE_FALSE(miss.over.empty());
    CHECK(alike(miss.over.front().used, used));
  }
}

/// Parts that nothing fits with, and how near each comes with all others.
void check_rejected(const Axis& axis, const MatchSpace& space, const std::map<Combination, Plain>& plain,
                    const MatchResult& found) {
  for (const std::string_view slot : searched_slots(space)) {
    const auto place = place_in(slot);
    std::vector<PartPlace> rejected;
    for (std::uint32_t i = 0; i < choices_of(space, slot).size(); ++i) {
      const bool fits = std::any_of(plain.begin(), plain.end(), [&](const auto& one) {
        return one.first.*place == i && one.second.fits;
      });
      if (!fits) rejected.push_back({slot, i});
    }
    CHECK(rejected_parts(space, found.fits, slot) == rejected);
    keep(rejected, 2);
    for (const PartPlace& part : rejected) {
      double nearest = std::nan("");
      bool fed = false;
      for (const auto& [parts, one] : plain)
        if (parts.*place == part.place && one.fed) {
          fed = true;
          if (!(nearest <= one.used) && !std::isnan(one.used)) nearest = one.used;
        }
      const PartOutlook outlook = outlook_of(axis, house_rules(), space, part);
      INFO(slot << " " << choices_of(space, slot)[part.place].name() << ": " << outlook.why);
      CHECK(outlook.fits == 0);
      CHECK(outlook.nearest.has_value() == !std::isnan(nearest));
      CHECK(outlook.why.empty() == outlook.nearest.has_value());
      if (!fed) CHECK_THAT(outlook.why, Catch::Contains("feed"));
      if (!outlook.nearest) continue;
      const Miss& miss = *outlook.nearest;
      CHECK(miss.trial.parts.*place == part.place);
      CHECK(alike(miss.trial.used, nearest));
      CHECK(alike(plain.at(miss.trial.parts).used, nearest));
      CHECK(alike(miss.over.front().used, nearest));
      if (!std::isinf(nearest)) continue;
      MatchSpace with_it = space; // of those that are out without end the one that breaks the fewest
      choices_of(with_it, slot) = {choices_of(space, slot)[part.place]};
      for (const Miss& other : search(axis, house_rules(), with_it).misses)
        CHECK(miss.over.size() <= other.over.size());
    }
  }
}

void check_search(const Axis& axis, const MatchSpace& space) {
  INFO(axis.name);
  const auto plain = one_by_one(axis, space);
  MatchRun run;
  run.misses = 6;
  const MatchResult found = search(axis, house_rules(), space, run);
  REQUIRE(found.problem.what.empty());
  CHECK(found.finished);
  const std::vector<Trial> fits(found.fits.begin(), found.fits.end());
  CHECK(std::is_sorted(fits.begin(), fits.end(),
                       [](const Trial& a, const Trial& b) { return a.parts < b.parts; }));
  check_fits(plain, found);
  check_misses(plain, found, run.misses);
  check_rejected(axis, space, plain, found);
}

std::string told(const MatchSpace& space, const MatchResult& found) {
  std::string out;
  const auto add = [&](const Trial& t) {
    out += space.motors[t.parts.motor].name() + "|" + space.heads[t.parts.head].name() + "|" +
           space.drives[t.parts.drive].name() + "|" + std::to_string(t.used) + "|" + std::string(t.worst) +
           "\n";
  };
  for (const Trial& trial : found.fits) add(trial);
  for (const Miss& miss : found.misses) add(miss.trial);
  for (const Killer& k : found.killers)
    out += std::string(k.limit) + " " + std::to_string(k.combinations) + "\n";
  return out;
}

} // namespace

TEST_CASE("a search finds what putting in each combination finds, on the demo machine") {
  std::mt19937 random(41);
  for (const Axis& axis : demo().axes) check_search(axis, small_space(axis, random));
}

TEST_CASE("drives that the bus rules out are counted with every motor, and are near misses like others") {
  std::mt19937 random(47);
  std::uniform_real_distribution<double> factor(0.2, 3.0);
  int out_by_bus = 0, nearest_by_bus = 0;
  for (const std::size_t index : {0U, 1U, 3U, 4U, 5U})
    for (int i = 0; i < rounds(16); ++i) {
      const Axis axis = demo().axes[index];
      const double bus = axis["surroundings"].term("bus_high"), least = axis["surroundings"].term("bus_low");
      MatchSpace space = small_space(axis, random);
      // what stands on the axis goes together, so that it is for the drive to decide
      space.motors = some(space.motors, 2, random);
      space.motors.push_back(choice_now(axis, "motor"));
      space.heads = {choice_now(axis, "gearhead")};
      // each drive feeds as its likes; some of them, or all, do not bear this bus or want more of it
      std::vector<PartChoice> drives;
      for (const PartChoice& drive : {choice_now(axis, "drive"), space.drives.front()}) {
        const int usable = std::uniform_int_distribution<int>(0, 2)(random);
        for (int k = 0; k < 3; ++k) {
          PartChoice other = drive;
          const bool most = k % 2 == 0;
          const double off = k < usable ? 1.2 : 1.0 / (1.0 + 0.15 * factor(random));
          other.section.type("bus_max", std::to_string(most ? bus * off : 2.0 * bus) + " V");
          other.section.type("bus_min", std::to_string(most ? 0.1 * least : least / off) + " V");
          for (const char* current : {"continuous_current", "peak_current"})
            if (other.section.has(current) && !other.section.blank(current))
              other.section.type(current,
                                 std::to_string(factor(random) * other.section.term(current).value) + " A");
          if (faults(other.section).empty()) drives.push_back(other);
        }
      }
      if (drives.empty()) continue;
      space.drives = drives;
      check_search(axis, space);
      const MatchResult found = search(axis, house_rules(), space);
      for (const Killer& killer : found.killers)
        out_by_bus += killer.limit == "Bus within drive range" || killer.limit == "Bus enough for the drive";
      for (const Miss& miss : found.misses) nearest_by_bus += miss.trial.worst.text().starts_with("Bus ");
    }
  CHECK(out_by_bus > 10);
  CHECK(nearest_by_bus > 10);
}

TEST_CASE("a search finds the same with brakes and couplings searched too") {
  std::mt19937 random(43);
  const Axis axis = demo().axes.front();
  MatchSpace space = small_space(axis, random, {true, true});
  keep(space.motors, 4);
  keep(space.drives, 4);
  check_search(axis, space);
}

TEST_CASE("what fits stands in the order of its parts, however it was found") {
  const Axis axis = demo().axes[1];
  const auto copies = [&](std::string_view slot, std::size_t number) {
    return std::vector(number, choice_now(axis, slot));
  };
  const MatchSpace space{copies("motor", 2), copies("gearhead", 3), copies("drive", 2), copies("brake", 2),
                         copies("coupling", 2)};
  for (const unsigned threads : {1U, 3U}) {
    MatchRun run;
    run.threads = threads;
    const MatchResult found = search(axis, house_rules(), space, run);
    CHECK(found.fits.size() == 2 * 3 * 2 * 2 * 2);
    const std::vector<Trial> fits(found.fits.begin(), found.fits.end());
    CHECK(std::is_sorted(fits.begin(), fits.end(),
                         [](const Trial& a, const Trial& b) { return a.parts < b.parts; }));
  }
}

TEST_CASE("a search finds the same on random axes of every mechanism") {
  std::mt19937 random(47);
  unsigned seed = 9100;
  for (const std::string_view mechanism : all_mechanisms()) {
    Axis axis = DenseAxis(++seed, std::string(mechanism)).axis();
    axis.name = std::string(mechanism) + " " + std::to_string(seed);
    MatchSpace space = small_space(axis, random);
    keep(space.motors, 3);
    keep(space.heads, 2);
    keep(space.drives, 3);
    check_search(axis, space);
  }
}

TEST_CASE("how near a part of a whole library comes is what a search for it alone finds nearest") {
  std::mt19937 random(59);
  // of the two named the nearest is not among the first that are looked at
  for (const auto& [index, named] : {std::pair{1U, "SS36-015"}, {3U, "SS50-030"}, {2U, ""}}) {
    const Axis axis = demo().axes[index];
    const MatchSpace space = match_space(axis, library());
    const Fits fits = search(axis, house_rules(), space).fits;
    for (const std::string_view slot : searched_slots(space)) {
      std::vector<PartPlace> rejected = rejected_parts(space, fits, slot);
      std::shuffle(rejected.begin(), rejected.end(), random);
      std::stable_partition(rejected.begin(), rejected.end(),
                            [&, its = std::string_view(named)](const PartPlace& part) {
                              return choices_of(space, slot)[part.place].number == its;
                            });
      keep(rejected, 2);
      for (const PartPlace& part : rejected) {
        MatchSpace with_it = space;
        choices_of(with_it, slot) = {choices_of(space, slot)[part.place]};
        MatchRun run;
        run.misses = 1;
        const MatchResult alone = search(axis, house_rules(), with_it, run);
        const PartOutlook outlook = outlook_of(axis, house_rules(), space, part);
        INFO(axis.name << ", " << slot << " " << choices_of(space, slot)[part.place].name());
        REQUIRE(outlook.nearest.has_value() == !alone.misses.empty());
        if (outlook.nearest) CHECK(alike(outlook.nearest->trial.used, alone.misses.front().trial.used));
      }
    }
  }
}

TEST_CASE("of drives that are equally near one is told whose own sheet breaks nothing") {
  const Axis axis = demo().axes[0];
  const MatchSpace space = match_space(axis, library());
  const auto motor = std::find_if(space.motors.begin(), space.motors.end(),
                                  [](const PartChoice& one) { return one.number == "BW57-043-48"; });
  REQUIRE(motor != space.motors.end());
  const PartOutlook outlook = outlook_of(axis, house_rules(), space,
                                         {"motor", static_cast<std::uint32_t>(motor - space.motors.begin())});
  REQUIRE(outlook.nearest);
  // its torque is what is missing, whichever drive; there are some that do not bear this bus
  CHECK(outlook.nearest->over.front().label == label_of_limit("motor.peak_low"));
  for (const auto& over : outlook.nearest->over) CHECK_FALSE(over.limit->drive_alone);
}

TEST_CASE("some of what fits is told before the rest, and changes nothing of it") {
  const Axis axis = demo().axes[1];
  const MatchSpace space = match_space(axis, library());
  MatchRun run;
  run.threads = 2;
  const MatchResult plain = search(axis, house_rules(), space, run);
  int times = 0;
  std::size_t some = 0;
  run.some = [&](const MatchResult& so_far) {
    ++times;
    some = so_far.fits.size();
    for (const Trial& trial : so_far.fits) CHECK(plain.fits.place_of(trial.parts).has_value());
  };
  run.patience = 1e9;
  CHECK(told(space, search(axis, house_rules(), space, run)) == told(space, plain));
  CHECK(times == 0); // soon over: nothing to tell before
  run.patience = 0.0;
  const MatchResult found = search(axis, house_rules(), space, run);
  CHECK(told(space, found) == told(space, plain));
  CHECK(found.tried == plain.tried);
  CHECK(times == 1);
  CHECK(some > 0);
  CHECK(some < plain.fits.size());
}

TEST_CASE("number of threads and order of the libraries change nothing") {
  const Axis axis = demo().axes[1];
  std::mt19937 random(53);
  Library turned;
  for (const SlotSpec* slot : part_slots()) {
    Parts parts = library().of(slot->id);
    std::shuffle(parts.begin(), parts.end(), random);
    turned.add(slot->id, std::move(parts));
  }
  const auto answer = [&](const Library& from, unsigned threads) {
    MatchSpace space = match_space(axis, from, {});
    const auto every = [](std::vector<PartChoice>& all, std::size_t step) {
      std::vector<PartChoice> out;
      for (std::size_t i = 0; i < all.size(); i += step) out.push_back(all[i]);
      all = std::move(out);
    };
    every(space.motors, 5);
    every(space.heads, 4);
    MatchRun run;
    run.threads = threads;
    run.misses = 10;
    return told(space, search(axis, house_rules(), space, run));
  };
  const std::string one = answer(library(), 1);
  CHECK_FALSE(one.empty());
  CHECK(answer(library(), 2) == one);
  CHECK(answer(library(), 7) == one);
  CHECK(answer(turned, 2) == one);
}

TEST_CASE("the nearest misses are the first of all misses, however many there are") {
  std::mt19937 random(67);
  std::size_t many = 0;
  for (const std::size_t index : {0, 1, 2, 6}) {
    const Axis axis = demo().axes[index];
    MatchSpace space = match_space(axis, library());
    space.motors = some(space.motors, 34, random);
    space.heads = some(space.heads, 3, random);
    space.drives = some(space.drives, 8, random);
    MatchRun few, all;
    few.misses = 5;
    all.misses = 100000;
    const MatchResult nearest = search(axis, house_rules(), space, few);
    const MatchResult every = search(axis, house_rules(), space, all);
    REQUIRE(nearest.misses.size() == 5);
    many += every.misses.size() > 64 ? 1 : 0; // more than are worked out at a time
    for (std::size_t i = 0; i < nearest.misses.size(); ++i) {
      CHECK(nearest.misses[i].trial.parts == every.misses[i].trial.parts);
      CHECK(nearest.misses[i].trial.used == every.misses[i].trial.used);
    }
  }
  CHECK(many > 1);
}

TEST_CASE("of very many that a shaft keeps out alike those are told that come first") {
  Axis axis = demo().axes[1];
  axis["coupling"].type("bore_max", "5 mm"); // all shafts of the shipped motors are thicker
  axis["coupling"].type("bore_min", "3 mm");
  MatchSpace space = match_space(axis, library());
  std::erase_if(space.motors, [](const PartChoice& motor) { return motor.section.has("leads"); });
  // a drive that is strong enough for each: nothing but the shaft is wrong
  const std::vector<PartChoice> shipped = std::exchange(space.motors, {});
  for (int copy = 0; copy < 4; ++copy)
    for (std::size_t i = 0; i < shipped.size(); i += every(1)) {
      PartChoice& motor = space.motors.emplace_back(shipped[i]);
      motor.number += "/" + std::to_string(copy);
    }
  MatchRun few, all;
  few.misses = 12;
  few.threads = 2;
  all.misses = 1000000;
  const MatchResult nearest = search(axis, house_rules(), space, few);
  const MatchResult every = search(axis, house_rules(), space, all);
  REQUIRE(nearest.misses.size() == few.misses);
  REQUIRE(every.misses.size() > 200);
  int alike = 0;
  for (std::size_t i = 0; i < nearest.misses.size(); ++i) {
    CHECK(nearest.misses[i].trial.parts == every.misses[i].trial.parts);
    CHECK(nearest.misses[i].trial.used == every.misses[i].trial.used);
  }
  for (const Miss& miss : every.misses) alike += miss.trial.used == nearest.misses.back().trial.used ? 1 : 0;
  CHECK(alike > static_cast<int>(few.misses)); // more than are told
  CHECK(nearest.misses.back().trial.worst == "Coupling bores");
}

TEST_CASE("the nearest misses are the first of all also where only the bus keeps the nearest drives out") {
  std::mt19937 random(71);
  std::uniform_real_distribution<double> off(1.02, 1.1);
  const Axis axis = demo().axes[1];
  const double bus = axis["surroundings"].term("bus_high");
  MatchRun few, all;
  few.misses = 5;
  all.misses = 100000;
  int by_bus = 0;
  for (int round = 0; round < rounds(12); ++round) {
    MatchSpace space = match_space(axis, library());
    space.heads = some(space.heads, 24, random);
    const PartChoice likeness = choice_now(axis, "drive");
    space.drives.clear();
    // of the drives that feed alike those that bear the bus are too weak; in every second round none bears it
    for (int k = 0; k < 5; ++k) {
      PartChoice drive = likeness;
      const bool usable = k < 2 && round % 2 == 0, far = k % 2 == 0;
      drive.section.type("bus_max",
                         std::to_string(usable ? 1.2 * bus : bus / off(random) / (far ? 3.0 : 1.0)) + " V");
      for (const char* current : {"continuous_current", "peak_current"})
        drive.section.type(current,
                           std::to_string((usable ? 0.01 : 4.0) * drive.section.term(current).value) + " A");
      REQUIRE(faults(drive.section).empty());
      space.drives.push_back(drive);
    }
    const MatchResult nearest = search(axis, house_rules(), space, few);
    const MatchResult every = search(axis, house_rules(), space, all);
    REQUIRE(nearest.misses.size() == 5);
    REQUIRE(every.misses.size() > 1000); // far more than are worked out or put in order at a time
    std::set<std::pair<std::uint32_t, std::uint32_t>> pairs; // each is a miss or fits somewhere
    std::set<std::uint32_t> motors;
    const auto count = [&](const Trial& trial) {
      pairs.insert({trial.parts.motor, trial.parts.head});
      motors.insert(trial.parts.motor);
    };
    for (const Miss& miss : every.misses) count(miss.trial);
    for (const Trial& trial : every.fits) count(trial);
    CHECK(pairs.size() == motors.size() * space.heads.size());
    CHECK(std::is_sorted(every.misses.begin(), every.misses.end(), [](const Miss& a, const Miss& b) {
      return a.trial.used < b.trial.used * (1.0 - 1e-9);
    }));
    by_bus += every.misses.front().trial.worst == label_of_limit("drive.bus");
    for (std::size_t i = 0; i < nearest.misses.size(); ++i) {
      INFO("round " << round << ", miss " << i);
      CHECK(nearest.misses[i].trial.parts == every.misses[i].trial.parts);
      CHECK(nearest.misses[i].trial.used == every.misses[i].trial.used);
    }
  }
  CHECK(by_bus > 1);
}

TEST_CASE("of many pairs that miss alike the first are told, though only drives without a bus come so near") {
  const Axis axis = demo().axes[1];
  const double bus = axis["surroundings"].term("bus_high");
  const auto copies = [&](std::string_view slot, std::size_t number) {
    return std::vector<PartChoice>(number, choice_now(axis, slot));
  };
  MatchSpace space{copies("motor", 100), copies("gearhead", 2), copies("drive", 2), copies("brake", 1),
                   copies("coupling", 1)};
  // the one that bears the bus is far too weak for what the motor must give, or does not bear it either
  for (const char* current : {"continuous_current", "peak_current"})
    space.drives[0].section.type(current,
                                 std::to_string(0.02 * space.drives[0].section.term(current).value) + " A");
  space.drives[1].section.type("bus_max", std::to_string(bus / 1.1) + " V");
  MatchRun run;
  run.misses = 5;
  for (const double least : {1.2, 0.5}) {
    space.drives[0].section.type("bus_max", std::to_string(least * bus) + " V");
    const MatchResult found = search(axis, house_rules(), space, run);
    REQUIRE(found.fits.empty());
    REQUIRE(found.misses.size() == 5);
    for (std::uint32_t i = 0; i < found.misses.size(); ++i) {
      CHECK(found.misses[i].trial.parts == Combination{i / 2, i % 2, 1, 0, 0});
      CHECK(found.misses[i].trial.worst.text() == label_of_limit("drive.bus"));
    }
  }
}

TEST_CASE("a search that is not wanted any more ends, and says so") {
  const Axis axis = demo().axes[1];
  const MatchSpace space = match_space(axis, library());
  int asked = 0;
  MatchRun run;
  run.wanted = [&] { return ++asked < 50; };
  const MatchResult found = search(axis, house_rules(), space, run);
  CHECK_FALSE(found.finished);
  CHECK(asked < 60);
}

TEST_CASE("what a limit is said not to look at does not move it") {
  std::mt19937 random(59);
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  for (const Axis& axis : demo().axes) {
    const MatchSpace space = match_space(axis, library());
    const BenchOfParts bench(axis, space);
    const auto limits = [&](const Combination& parts) {
      const Axis with = with_parts(axis, space, parts);
      const AxisModel model = bench.model(parts);
      Recorder silent(false);
      const Course course = follow(model);
      const Demand demand = work_out_demand(model, course, rules, silent);
      const LimitContext context{with, model, course, demand, rules, silent};
      std::map<const LimitSpec*, double> used;
      for (const LimitSpec* spec : limit_specs())
        if (const auto limit = spec->judge(context); limit && limit->state != LimitState::not_judged)
          used[spec] = limit->used;
      return used;
    };
    const auto any = [&](std::size_t number) {
      return std::uniform_int_distribution<std::uint32_t>(0, static_cast<std::uint32_t>(number) - 1)(random);
    };
    for (int i = 0; i < 12; ++i) {
      Combination a{any(space.motors.size()), any(space.heads.size()), any(space.drives.size()), 0, 0}, b = a,
                                                                                                        c = a;
      c.motor = any(space.motors.size());
      c.drive = any(space.drives.size());
      const auto runs = [&](const Combination& x) { return bench.runs(x.motor, bench.class_of(x.drive)); };
      if (!runs(a)) continue;
      const auto first = limits(a);
      const auto compare = [&](const Combination& other, LooksAt at_most) {
        if (!runs(other)) return;
        const auto second = limits(other);
        for (const auto& [spec, used] : first) {
          if (spec->looks_at < at_most || !second.contains(spec)) continue;
          INFO(axis.name << ", " << spec->id);
          // heat is integrated between cuts that move with the drive's losses
          const double within = spec->id == "motor.winding" ? moved_by_cuts : nearly;
          CHECK(second.at(spec) == Approx(used).epsilon(within).margin(1e-12));
        }
      };
      // every drive that is said to feed alike
      for (const std::uint32_t alike_drive : bench.classes()[bench.class_of(a.drive)].drives) {
        b.drive = alike_drive;
        compare(b, LooksAt::motor);
      }
      compare(c, LooksAt::head);
      // the same drive on another motor and train
      Combination d = a;
      d.motor = any(space.motors.size());
      d.head = any(space.heads.size());
      if (!runs(d)) continue;
      const auto elsewhere = limits(d);
      for (const auto& [spec, used] : first) {
        if (!spec->drive_alone) continue;
        INFO(axis.name << ", " << spec->id);
        REQUIRE(elsewhere.contains(spec));
        CHECK(elsewhere.at(spec) == used);
      }
    }
  }
}

TEST_CASE("what sums tell of a motor is what the whole cycle tells, and never more") {
  std::mt19937 random(61);
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  std::vector<Axis> axes = demo().axes;
  unsigned seed = 9300;
  for (const std::string_view mechanism : all_mechanisms())
    axes.push_back(DenseAxis(++seed, std::string(mechanism)).axis());
  for (const Axis& axis : axes) {
    const MatchSpace space = match_space(axis, library());
    const BenchOfParts bench(axis, space);
    Judge judge(axis, space, bench, rules);
    const auto any = [&](std::size_t number) {
      return std::uniform_int_distribution<std::uint32_t>(0, static_cast<std::uint32_t>(number) - 1)(random);
    };
    for (int i = 0; i < 6; ++i) {
      Combination parts{any(space.motors.size()), any(space.heads.size()), any(space.drives.size()), 0, 0};
      Combination other = parts;
      other.motor = any(space.motors.size());
      if (!bench.runs(parts.motor, bench.class_of(parts.drive)) ||
          !bench.runs(other.motor, bench.class_of(other.drive)))
        continue;
      REQUIRE(judge(parts));
      const TrainDemand train = judge.train();
      const AxisModel model = bench.model(other);
      const Course course = follow(model);
      Recorder silent(false);
      const Demand demand = work_out_demand(model, course, rules, silent);
      INFO(axis.name << " with " << space.motors[other.motor].name());
      CHECK(train.rms_torque(model.rotor) == Approx(demand.rms_torque.value).epsilon(nearly).margin(1e-12));
      CHECK(train.some_peak(model.rotor) <= std::abs(demand.peak_torque.value) * (1.0 + nearly));
      CHECK(train.some_peak(model.rotor) >= 0.5 * std::abs(demand.peak_torque.value));
      double most = 0.0, fastest = 0.0;
      for (const auto* moments : {&train.moments(), &train.many_moments()})
        for (const TrainDemand::Moment& moment : *moments) {
          const ShaftMoment now = moment.with(model.rotor);
          most = std::max(most, std::abs(now.torque));
          fastest = std::max(fastest, std::abs(now.speed));
          CHECK(now.speed * now.direction >= -1e-9 * demand.max_speed);
        }
      CHECK(most <= std::abs(demand.peak_torque.value) * (1.0 + nearly));
      CHECK(most >= 0.8 * std::abs(demand.peak_torque.value));
      CHECK(fastest == Approx(demand.max_speed.value).epsilon(0.05));
      const auto judged = judge(other);
      REQUIRE(judged);
      CHECK(judge.hint(other, train).used <= judged->verdict.used * (1.0 + nearly));
      CHECK(judge.fittings(other, train).used <= judge.hint(other, train).used * (1.0 + nearly));
    }
  }
}

TEST_CASE(
    "where a larger motor's rotor eats its torque, a smaller one is named, and not where weight decides") {
  // two motors of a series: four times the rotor for one and a half times the torque
  Axis axis = demo().axes[3];
  Library pair;
  Parts motors;
  for (const auto& [number, factor] : {std::pair{"S-1", 1.0}, {"S-4", 4.0}}) {
    Section motor(axis["motor"].spec());
    motor.type("part_number", number);
    motor.type("maker", "Nobody (invented)");
    motor.type("inertia", std::to_string(1e-4 * factor) + " kg.m2");
    motor.type("max_speed", "6000 rpm");
    const double torque = factor > 1.0 ? 1.5 : 1.0;
    motor.type("peak_curve", "0 rpm: " + std::to_string(3.0 * torque) +
                                 " N.m; 6000 rpm: " + std::to_string(3.0 * torque) + " N.m");
    motor.type("continuous_curve",
               "0 rpm: " + std::to_string(torque) + " N.m; 6000 rpm: " + std::to_string(torque) + " N.m");
    motors.push_back(motor);
  }
  pair.add("motor", motors);
  const auto remark = [&](const Axis& on) {
    MatchSpace space = match_space(on, pair);
    for (PartChoice* other : {&space.heads[0], &space.drives[0]})
      other->section = Section(other->section.spec());
    const MatchResult found = search(on, house_rules(), space);
    INFO(found.problem.text());
    REQUIRE(found.problem.what.empty());
    std::vector<Trial> all = found.fits.each_by_itself();
    for (const Miss& miss : found.misses) all.push_back(miss.trial);
    REQUIRE(all.size() == 2);
    int told = 0;
    for (const Trial& trial : all)
      if (const auto smaller = smaller_does_better(space, found, trial)) {
        ++told;
        CHECK(space.motors[trial.parts.motor].number == "S-4");
        CHECK(space.motors[smaller->motor].number == "S-1");
        CHECK(smaller->inertia == Approx(4.0));
      }
    return told;
  };
  // a light table turned fast: nearly all torque goes into the rotor
  axis["load"].type("friction_torque", "0 N.m");
  axis["load"].type("inertia", "1e-5 kg.m2");
  axis.pieces.clear();
  axis.cycle[0].type("time", "0.07 s");
  CHECK(remark(axis) == 1);
  // a weight lifted slowly: the larger motor is simply the stronger one
  Axis lift = demo().axes[0];
  lift["gearhead"] = Section(lift["gearhead"].spec());
  lift["load"].type("moved_mass", "150 kg");
  for (Section& segment : lift.cycle)
    if (segment.spec().id == "move") segment.type("time", "3 s");
  CHECK(remark(lift) == 0);
}
