// Ways out and room: what is offered is judged again in full, is the least against a dense scan, and meets
// what can be worked out by hand.

#include "core/evaluation/machine.hpp"
#include "core/ways/levers.hpp"
#include "core/ways/ways_out.hpp"
#include "reference/dense_axis.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

double used_of(const Axis& axis, std::string_view id) {
  const auto full = evaluate(axis, house_rules());
  if (!full) return std::nan("");
  for (const Limit& one : full->limits)
    if (one.id == id && one.state != LimitState::not_judged) return one.used;
  return std::nan("");
}

/// What a way says, against the whole axis with it.
void check_way(const Axis& axis, const WaysOut& out, const Way& way) {
  const auto before = evaluate(axis, house_rules()), after = evaluate(way.axis, house_rules());
  REQUIRE(before);
  REQUIRE(after);
  INFO(axis.name << ": " << out.limit << " by " << way.changes.front().label << " "
                 << way.changes.front().to);
  CHECK(used_of(way.axis, out.limit) <= out.wanted);
  CHECK(way.used == Approx(used_of(way.axis, out.limit)).epsilon(1e-9));
  bool breaks = false;
  for (const Limit& limit : after->limits) {
    if (limit.state == LimitState::not_judged || limit.id == out.limit) continue;
    const double was = used_of(axis, limit.id);
    if (limit.state == LimitState::over && !(was > 1.0)) breaks = true;
    const bool told = std::any_of(way.worse.begin(), way.worse.end(),
                                  [&](const Moved& moved) { return moved.limit == limit.label; });
    if (std::isfinite(was) && std::abs(limit.used - was - 0.02) > 1e-6)
      CHECK(told == (limit.used > was + 0.02));
  }
  CHECK(way.breaks == breaks);
  CHECK(way.changes.size() == (way.about ? 2U : 1U));
}

/// No value nearer to where the lever is clears the limit, as far as a thousand looks tell.
void check_least(const Axis& axis, const WaysOut& out, const Way& way) {
  for (std::size_t segment = 0; segment < std::max<std::size_t>(1, axis.cycle.size()); ++segment)
    for (const Lever& lever : levers_of(axis, segment)) {
      if (lever.label != way.changes.front().label || !lever.options.empty() || way.about) continue;
      const Section* section = find_section(way.axis, lever.path.substr(0, lever.path.rfind('.')));
      const double found = section->entry(lever.path.substr(lever.path.rfind('.') + 1)).value;
      constexpr int looks = 60;
      for (int k = 1; k < looks; ++k) {
        const double value = lever.now + (found - lever.now) * k / looks;
        if (std::abs(value - found) < 0.006 * std::abs(found)) break; // what three figures may cost
        const double used = used_of(lever.with(value), out.limit);
        INFO(axis.name << ": " << out.limit << " by " << lever.label << " at " << value << ", found "
                       << found);
        CHECK((std::isnan(used) || used > out.wanted));
      }
      return;
    }
}

/// Every red or tight limit of an axis.
std::vector<std::string> troubled(const Axis& axis) {
  std::vector<std::string> all;
  if (const auto full = evaluate(axis, house_rules()))
    for (const Limit& limit : full->limits)
      if (limit.state == LimitState::over || (limit.state == LimitState::tight && !limit.only_fits))
        all.emplace_back(limit.id);
  return all;
}

} // namespace

TEST_CASE("a way out clears its limit, says what gets worse, and no smaller change does") {
  std::vector<Axis> axes = demo().axes;
  axes[0]["load"].type("moved_mass", "14 kg");
  axes[1]["load"].type("moved_mass", "30 kg");
  axes[2]["surroundings"].type("ambient", "70 degC");
  axes[3].cycle[0].type("time", "0.2 s");
  int ways = 0;
  for (const Axis& axis : axes) {
    int limits = 0;
    for (const std::string& id : troubled(axis)) {
      if (++limits > 3) break; // the first ones say enough
      WayOptions options;
      options.pairs = false;
      const auto out = ways_out(axis, house_rules(), id, options);
      REQUIRE(out);
      CHECK(out->used == Approx(used_of(axis, id)).epsilon(1e-9));
      for (const Way& way : out->ways) {
        check_way(axis, *out, way);
        ++ways;
      }
      if (!out->ways.empty()) check_least(axis, *out, out->ways.front());
      CHECK(std::is_sorted(out->ways.begin(), out->ways.end(), [](const Way& a, const Way& b) {
        return a.breaks != b.breaks ? b.breaks : a.effort < b.effort;
      }));
    }
  }
  CHECK(ways > 20);
}

TEST_CASE("a part that clears a limit is the cheapest that does, of those with which all holds first") {
  Axis heavy = demo().axes[0]; // without a gearhead, so that no flange binds the motor
  heavy["load"].type("moved_mass", "40 kg");
  heavy["coupling"].type("bore_max", "60 mm");
  int found_any = 0;
  for (const auto& tried :
       {std::pair{demo().axes[2], std::vector<std::string_view>{"motor", "gearhead"}}, {heavy, {"motor"}}}) {
    const auto& axis = tried.first;
    const auto& slots = tried.second;
    WayOptions options;
    options.library = &library();
    const auto out = ways_out(axis, house_rules(), "inertia.ratio", options);
    REQUIRE(out);
    for (const std::string_view slot : slots) {
      struct Best {
        std::string number;
        bool fits = false;
        double price = 0.0;
      } best;
      for (const Section& part : library().of(slot)) {
        Axis other = axis;
        choose_part(other, slot, part);
        const auto full = evaluate(other, house_rules());
        if (!full || !(used_of(other, "inertia.ratio") <= 1.0)) continue;
        const bool ruins = std::any_of(full->limits.begin(), full->limits.end(), [&](const Limit& limit) {
          return limit.id != "inertia.ratio" && limit.used > 3.0 &&
                 !(limit.used <= used_of(axis, limit.id) + 0.02);
        }); // a flange that does not fit
        if (ruins) continue;
        const bool fits = worst_used(*full) <= 1.0;
        const double price = part.term("price");
        if (best.number.empty() || (fits && !best.fits) || (fits == best.fits && price < best.price))
          best = {part.text("part_number"), fits, price};
      }
      INFO(axis.name << ", " << slot << ": " << best.number);
      const auto found = std::find_if(out->ways.begin(), out->ways.end(),
                                      [&](const Way& way) { return way.changes.front().path == slot; });
      REQUIRE((found == out->ways.end()) == best.number.empty());
      if (best.number.empty()) continue;
      ++found_any;
      CHECK(found->changes.front().to == best.number);
      CHECK(found->axis[slot].text("part_number") == best.number);
    }
  }
  CHECK(found_any >= 2);
}

TEST_CASE("known answers: time by the root for a pure inertia, ambient by the derating formula") {
  // a table without friction: torque goes with the inverse square of the time
  Axis axis = demo().axes[3];
  axis["load"].type("friction_torque", "0 N.m");
  axis["gearhead"] = Section(axis["gearhead"].spec());
  axis["gearhead"].path = "gearhead";
  axis["motor"].type("hysteresis", "");
  axis["motor"].type("eddy", "");
  axis["motor"].type("peak_curve", "0 rpm: 1 N.m; 20000 rpm: 1 N.m");
  axis["motor"].type("max_speed", "20000 rpm");
  axis["drive"] = Section(axis["drive"].spec());
  axis["drive"].path = "drive";
  for (const char* field : {"bus", "bus_low", "bus_high"}) axis["surroundings"].type(field, "");
  const double used = used_of(axis, "motor.peak");
  REQUIRE(used > 1.0);
  const auto out = ways_out(axis, house_rules(), "motor.peak");
  REQUIRE(out);
  const auto time = std::find_if(out->ways.begin(), out->ways.end(),
                                 [](const Way& way) { return way.changes.front().path == "cycle[0].time"; });
  REQUIRE(time != out->ways.end());
  const double was = axis.cycle[0].term("time"), now = time->axis.cycle[0].term("time");
  CHECK(now >= was * std::sqrt(used) * (1.0 - 1e-9));
  CHECK(now <= was * std::sqrt(used) * 1.005); // three figures

  // match.ambient: T* = T_lim − ΔT_Fe − k²·(T_lim − T_cat − ΔT_Fe), k the derating that is just enough
  Axis hot = demo().axes[2];
  hot["surroundings"].type("ambient", "100 degC");
  hot["surroundings"].type("altitude", "0 m");
  hot["load"].type("moved_mass", "60 kg");
  const double rms = used_of(hot, "motor.rms");
  REQUIRE(rms > 1.0);
  const auto cooler = ways_out(hot, house_rules(), "motor.rms");
  REQUIRE(cooler);
  const auto ambient = std::find_if(cooler->ways.begin(), cooler->ways.end(), [](const Way& way) {
    return way.changes.front().path == "surroundings.ambient";
  });
  REQUIRE(ambient != cooler->ways.end());
  const auto full = evaluate(hot, house_rules());
  REQUIRE(full);
  const auto terms = ambient_terms(*full->model, full->demand.mean_speed);
  const double limit = terms[0], at = terms[1], catalogue = terms[2], iron = terms[3];
  const double k = std::sqrt((limit - at - iron) / (limit - catalogue - iron)) * rms;
  const double just = limit - iron - k * k * (limit - catalogue - iron);
  const double found = ambient->axis["surroundings"].term("ambient");
  CHECK(found <= just * (1.0 + 1e-9));
  CHECK(found >= just - 0.11); // to a tenth of a kelvin
}

TEST_CASE("where one change is not enough a pair is found, and where nothing is, a sentence says why") {
  Axis axis = demo().axes[0];
  axis["surroundings"].type("shared_bus", ""); // its own supply is in the way too
  int pairs = 0, sentences = 0;
  for (const char* mass : {"60 kg", "3000 kg"}) {
    axis["load"].type("moved_mass", mass);
    int limits = 0;
    for (const std::string& id : troubled(axis)) {
      if (++limits > 4) break; // under sanitizers a pair takes seconds
      const auto out = ways_out(axis, house_rules(), id);
      REQUIRE(out);
      if (out->ways.empty()) {
        ++sentences;
        CHECK_FALSE(out->sentence.empty());
        CHECK_FALSE(out->stuck.empty());
        for (const auto& stuck : out->stuck) CHECK(stuck.best > out->wanted);
      }
      for (const Way& way : out->ways) {
        check_way(axis, *out, way);
        if (way.about) ++pairs;
      }
    }
  }
  CHECK(pairs > 0);
  CHECK(sentences > 0);
}

TEST_CASE("room goes as far as every limit holds, and names the one that is reached") {
  for (const Axis& axis : demo().axes) {
    const auto full = evaluate(axis, house_rules());
    REQUIRE(full);
    const auto rooms = headroom(axis, house_rules());
    if (worst_used(*full) > 1.0) {
      REQUIRE_FALSE(rooms);
      CHECK(rooms.problem().what.find("no room") != std::string::npos);
      continue;
    }
    REQUIRE(rooms);
    CHECK(rooms->size() > 4);
    for (const Room& room : *rooms) {
      const auto levers = levers_of(axis, 0);
      const auto lever = std::find_if(levers.begin(), levers.end(), [&](const Lever& l) {
        return l.label == room.label && l.headroom != 0;
      });
      REQUIRE(lever != levers.end());
      const bool up = (lever->headroom > 0) == (lever->now >= 0.0);
      Axis at = axis;
      Section* section = find_section(at, room.path.substr(0, room.path.rfind('.')));
      section->type(room.path.substr(room.path.rfind('.') + 1), room.to);
      const double value = section->entry(room.path.substr(room.path.rfind('.') + 1)).value;
      INFO(axis.name << ": " << room.label << " to " << room.to);
      const auto there = evaluate(lever->with(value), house_rules());
      REQUIRE(there);
      CHECK(worst_used(*there) <= 1.0 + 1e-9);
      if (room.unlimited) continue;
      CHECK_FALSE(room.limit.empty());
      const auto beyond =
          evaluate(lever->with(value + (up ? 0.012 : -0.012) * std::abs(value)), house_rules());
      if (!beyond) continue;
      CHECK(worst_used(*beyond) > 1.0);
      CHECK(std::any_of(beyond->limits.begin(), beyond->limits.end(), [&](const Limit& l) {
        return l.label == room.limit && l.state == LimitState::over;
      }));
    }
  }
}

TEST_CASE("a limit that is not there, a clear one and a faulty axis are told") {
  Axis axis = demo().axes[0];
  CHECK(ways_out(axis, house_rules(), "no.such").problem().where == "no.such");
  const auto clear = ways_out(axis, house_rules(), "motor.speed");
  REQUIRE(clear);
  CHECK(clear->ways.empty());
  CHECK(clear->sentence.empty());
  CHECK_FALSE(ways_out(axis, house_rules(), "supply.overvoltage", {true, nullptr, [] { return false; }}));
  axis["load"].type("moved_mass", "heavy");
  CHECK_FALSE(ways_out(axis, house_rules(), "motor.peak"));
  CHECK_FALSE(headroom(axis, house_rules()));
}
