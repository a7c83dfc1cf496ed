// What would turn the order of two kinds, against a plain search at each end of each input.

#include "core/match/kind_turns.hpp"
#include "core/study/sensitivity.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

/// Few of everything that goes with the second axis of the demo.
Library few_of_each() {
  Library all;
  const auto add = [&](std::string_view slot, std::initializer_list<std::string_view> beginnings) {
    Parts parts;
    for (const Section& part : library().of(slot))
      for (const std::string_view beginning : beginnings)
        if (part.text("part_number").starts_with(beginning)) parts.push_back(part);
    all.add(slot, std::move(parts));
  };
  add("motor", {"VK60-0200", "HE23-76", "HS23-76", "KD52", "BW57"});
  add("gearhead", {"TP60-10", "TP60-5"});
  add("drive", {"EL48-08", "SS50-06", "SS110-06", "SD48", "SB48"});
  return all;
}

KindsCompared kinds_on(const Axis& axis, const KindsRun& run = {}) {
  static const Library library = few_of_each();
  return compare_kinds(axis, house_rules(), Section(duty_section()), library, run);
}

/// What a search of that one combination alone finds on the axis.
std::optional<Trial> found_alone(const Axis& axis, const MatchSpace& space) {
  const MatchResult result = search(axis, house_rules(), space);
  return result.fits.empty() ? std::nullopt : std::optional(result.fits.front());
}

struct AtEnd {
  bool breaks = false, turns = false;
};

AtEnd expected(const KindCandidate& first, const KindCandidate& second, std::string_view path, double value) {
  const auto trial = [&](const KindCandidate& kind) -> std::optional<std::pair<Trial, Standing>> {
    const Combination& p = kind.trial.parts;
    const MatchSpace space{{kind.space.motors[p.motor]},
                           {kind.space.heads[p.head]},
                           {kind.space.drives[p.drive]},
                           {kind.space.brakes[p.brake]},
                           {kind.space.couplings[p.coupling]}};
    const auto axis = with_input(kind.axis, path, value);
    REQUIRE(axis);
    const auto found = found_alone(*axis, space);
    if (!found) return std::nullopt;
    return std::pair(*found, standing_of(space, *found, usual_weights()));
  };
  const auto one = trial(first), other = trial(second);
  if (!other) return {};
  if (!one) return {true, true};
  return {false, other->second < one->second};
}

} // namespace

TEST_CASE("an end of an input turns the order of two kinds where a search there says so, and only there") {
  int breaks = 0, turns = 0, neither = 0;
  for (const char* mass : {"3 kg ±90%", "6 kg ±90%", "9 kg ±40%", "11 kg ±90%"}) {
    Axis axis = demo().axes[1];
    axis["load"].type("moved_mass", mass);
    axis["load"].type("friction", "0.2", Origin::guess);
    const auto timed = std::find_if(axis.cycle.begin(), axis.cycle.end(), [](const Section& segment) {
      return segment.has("time") && segment.entry("time").value > 0.0;
    });
    REQUIRE(timed != axis.cycle.end());
    timed->type("time", timed->text("time"), Origin::guess);
    const std::string time = timed->path + ".time";
    const double lasts = timed->entry("time").value;
    const KindsCompared all = kinds_on(axis);
    for (const KindCandidate& first : all.kinds)
      for (const KindCandidate& second : all.kinds) {
        if (&first == &second || !first.fits || !second.fits) continue;
        const auto found = kind_turns(first, second, house_rules(), {});
        const Entry& moved = axis["load"].entry("moved_mass");
        const double half = moved.tolerance.half_width;
        for (const auto& [path, value] : std::initializer_list<std::pair<std::string_view, double>>{
                 {"load.moved_mass", moved.value - half},
                 {"load.moved_mass", moved.value + half},
                 {"load.friction", 0.16},
                 {"load.friction", 0.24},
                 {time, 0.8 * lasts},
                 {time, 1.2 * lasts}}) {
          INFO(mass << ": " << first.name() << " and " << second.name() << ", " << path << " " << value);
          const auto told =
              std::find_if(found.begin(), found.end(), [&, p = path, v = value](const KindTurn& t) {
                return t.path == p && t.value == Approx(v);
              });
          const AtEnd wanted = expected(first, second, path, value);
          CHECK((told != found.end()) == wanted.turns);
          if (told == found.end()) {
            ++neither;
            continue;
          }
          CHECK(told->breaks == wanted.breaks);
          ++(told->breaks ? breaks : turns);
          CHECK_THAT(told->text, Contains(second.name()) && Contains(first.name()));
          CHECK_THAT(told->text, Contains(path == "load.moved_mass" ? "an end of its spread" : "a guess"));
          CHECK_THAT(told->text, Contains(told->breaks ? "holds" : "by your weights"));
        }
        CHECK(std::is_partitioned(found.begin(), found.end(), [](const KindTurn& t) { return t.breaks; }));
      }
  }
  CHECK(breaks > 0);
  CHECK(turns > 0);
  CHECK(neither > 0);
}

TEST_CASE("a guessed temperature is tried ten kelvin off, not a fifth of its kelvins") {
  Axis axis = demo().axes[1];
  axis["load"].type("moved_mass", "9 kg");
  axis["surroundings"].type("ambient", "40 degC", Origin::guess);
  const KindsCompared all = kinds_on(axis);
  std::size_t seen = 0;
  for (const KindCandidate& first : all.kinds)
    for (const KindCandidate& second : all.kinds) {
      if (&first == &second || !first.fits || !second.fits) continue;
      for (const KindTurn& turn : kind_turns(first, second, house_rules(), {})) {
        if (turn.path != "surroundings.ambient") continue;
        ++seen;
        CHECK(std::abs(turn.value - 313.15) == Approx(10.0));
        CHECK_THAT(turn.text, Contains("10 K off"));
      }
    }
  CHECK(seen > 0);
}

TEST_CASE("an input is tried no further than it may go, and that is said") {
  Axis axis = demo().axes[1];
  axis["mechanism"].type("efficiency", "0.88", Origin::guess);
  KindsRun run;
  run.weights = {{"used", 1.0}};
  std::size_t at_the_end = 0;
  for (const char* mass : {"6 kg", "9 kg", "11 kg"}) {
    axis["load"].type("moved_mass", mass);
    const KindsCompared all = kinds_on(axis, run);
    for (const KindCandidate& first : all.kinds)
      for (const KindCandidate& second : all.kinds) {
        if (&first == &second || !first.fits || !second.fits) continue;
        for (const KindTurn& turn : kind_turns(first, second, house_rules(), run)) {
          if (turn.path != "mechanism.efficiency") continue;
          const bool cut = turn.value > 0.88;
          at_the_end += cut;
          CHECK(turn.value == Approx(cut ? 1.0 : 0.8 * 0.88));
          CHECK_THAT(turn.text, Contains(cut ? "as far as it may go" : "a guess, tried 20 % off"));
        }
      }
  }
  CHECK(at_the_end > 0);
}

TEST_CASE(
    "what turns the order stands among the doubts and in the advice, where nothing is open nothing does") {
  Axis axis = demo().axes[1];
  for (Section& section : axis.givens)
    for (std::size_t i = 0; i < section.size(); ++i)
      if (section.entry(i).origin == Origin::guess) {
        Entry sure = section.entry(i);
        sure.origin = Origin::given;
        sure.tolerance = {};
        section.put(i, std::move(sure));
      }
  std::size_t in_all = 0;
  KindsRun by_margin;
  by_margin.weights = {{"used", 1.0}};
  for (const auto& [mass, run] :
       std::initializer_list<std::pair<std::string_view, KindsRun>>{{"9 kg", {}},
                                                                    {"9 kg", by_margin},
                                                                    {"9 kg ±40%", {}},
                                                                    {"6 kg ±90%", by_margin},
                                                                    {"11 kg ±90%", by_margin}}) {
    axis["load"].type("moved_mass", mass);
    const KindsCompared all = kinds_on(axis, run);
    std::vector<std::size_t> order;
    for (std::size_t i = 0; i < all.kinds.size(); ++i)
      if (all.kinds[i].fits) order.push_back(i);
    REQUIRE(order.size() > 1);
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
      return all.kinds[a].standing < all.kinds[b].standing;
    });
    auto turns = kind_turns(all.kinds[order[0]], all.kinds[order[1]], house_rules(), run);
    if (all.second) std::erase_if(turns, [](const KindTurn& turn) { return !turn.breaks; });
    INFO(mass << ": " << all.advice);
    std::size_t told = 0;
    for (const KindReason& reason : all.reasons)
      for (const KindTurn& turn : turns)
        told += reason.kind == order[0] && reason.side == KindReason::Side::doubt && reason.text == turn.text;
    CHECK(told == std::min<std::size_t>(3, turns.size()));
    if (turns.empty())
      CHECK_THAT(all.advice, !Contains("spread)"));
    else
      CHECK_THAT(all.advice, Contains("In doubt: " + turns.front().text));
    if (mass == "9 kg") CHECK(turns.empty());
    in_all += turns.size();
  }
  CHECK(in_all > 0);
}
