// Choices, order, filters and front of a search, each against the plain way of working it out.

#include "core/drive/stepper_drive.hpp"
#include "core/match/ranking.hpp"
#include "core/match/try_again.hpp"
#include "core/motor/stepper.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

/// Invented results for random combinations of the shipped library: nothing needs to be worked out for these
/// tests. Equal figures are frequent.
std::vector<Trial> invented(const MatchSpace& space, std::mt19937& random, std::size_t number) {
  const auto below = [&](std::size_t n) {
    return std::uniform_int_distribution<std::uint32_t>(0, static_cast<std::uint32_t>(n) - 1)(random);
  };
  std::vector<Trial> all;
  std::set<Combination> taken;
  while (all.size() < number) {
    const Combination parts{below(space.motors.size()), below(space.heads.size()), below(space.drives.size()),
                            0, 0};
    if (!taken.insert(parts).second) continue;
    Trial trial;
    trial.parts = parts;
    trial.used = 0.05 * (1 + below(20));
    trial.energy = 10.0 * below(9);
    trial.ratio = below(30) == 0 ? std::nan("") : 0.5 * below(12);
    trial.winding = 300.0 + 10.0 * below(10);
    trial.fits = trial.settled = true;
    if (below(15) == 0) trial.wanted = "motor.kt";
    all.push_back(trial);
  }
  return all;
}

double plain_price(const MatchSpace& s, const Trial& t) {
  double sum = 0.0;
  for (const PartChoice* part : {&s.motors[t.parts.motor], &s.heads[t.parts.head], &s.drives[t.parts.drive],
                                 &s.brakes[t.parts.brake], &s.couplings[t.parts.coupling]})
    if (!part->number.empty()) sum += part->section.term("price");
  return sum;
}

MatchSpace shipped() { return match_space(demo().axes[1], library()); }

/// The shipped parts with two brakes and two couplings of different prices: every slot is searched.
MatchSpace with_all_slots() {
  MatchSpace space = shipped();
  for (auto* parts : {&space.brakes, &space.couplings}) {
    parts->push_back(parts->front());
    for (std::size_t i = 0; i < 2; ++i) {
      PartChoice& part = (*parts)[i];
      part.number = "part " + std::to_string(i);
      part.price = (parts == &space.brakes ? 10.0 : 37.0) * static_cast<double>(i + 1);
      part.section.type("price", std::to_string(part.price));
    }
  }
  return space;
}

} // namespace

TEST_CASE("choices come in the order of maker and number, steppers in every way to connect them") {
  const Axis axis = demo().axes[1];
  const auto motors = choices_for(axis, "motor", library().of("motor"));
  CHECK(std::is_sorted(motors.begin(), motors.end(), [](const PartChoice& a, const PartChoice& b) {
    return std::tie(a.maker, a.number, a.setting) < std::tie(b.maker, b.number, b.setting);
  }));
  std::map<std::string, std::set<std::string>> ways;
  for (const PartChoice& one : motors) {
    CHECK_FALSE(one.none());
    CHECK(one.section.path == "motor");
    if (one.section.has("connection") && one.section.has("leads"))
      ways[one.section.text("leads")].insert(one.section.text("connection"));
  }
  CHECK(ways.at("4") == std::set<std::string>{"series"});
  CHECK(ways.at("8") == std::set<std::string>{"series", "parallel", "half", "unipolar"});
  if (ways.contains("6")) CHECK(ways.at("6") == std::set<std::string>{"series", "half", "unipolar"});
  // a way to connect that the leads rule out is refused by the motor itself, whatever drives it
  for (const PartChoice& one : motors) {
    if (!one.section.has("leads")) continue;
    Recorder silent(false);
    const auto drive = build_drive(Section(*drive_slot().kinds().front().form));
    const auto motor = build_motor(one.section, *drive, silent);
    CHECK(motor->refuses(Feed::any).empty());
  }
}

TEST_CASE("what is set for the motor that is fitted now is not taken over, the rest is") {
  Axis axis = demo().axes[5]; // a stepper
  axis["drive"].type("current_setting", "1.23 A");
  axis["drive"].type("microsteps", "32");
  for (const PartChoice& one : choices_for(axis, "drive", library().of("drive"))) {
    if (one.section.has("current_setting")) CHECK(one.section.blank("current_setting"));
    if (one.section.has("current_limit")) CHECK(one.section.blank("current_limit"));
    if (one.section.has("microsteps")) CHECK(one.section.text("microsteps") == "32");
  }
  const Section kept = kept_settings(axis["drive"]);
  CHECK(kept.text("microsteps") == "32");
  CHECK(kept.blank("current_setting"));
  CHECK(kept.blank("part_number"));
  CHECK(kept.spec().id == axis["drive"].spec().id);
}

TEST_CASE("an axis may do without a gearhead, and keeps what is not searched") {
  Axis axis = demo().axes.front();
  const auto heads = choices_for(axis, "gearhead", library().of("gearhead"));
  CHECK(heads.size() == library().of("gearhead").size() + 1);
  CHECK(heads.front().none());
  const MatchSpace space = match_space(axis, library());
  CHECK(space.brakes.size() == 1);
  CHECK(space.brakes.front().section == axis["brake"]);
  CHECK(space.couplings.front().section == axis["coupling"]);
  const MatchSpace all = match_space(axis, library(), {true, true});
  CHECK(all.brakes.size() == library().of("brake").size());
  CHECK(all.couplings.size() == library().of("coupling").size());
  axis["motor"].unknown["later"] = "1";
  const Axis with = with_parts(axis, space, {3, 2, 1, 0, 0});
  CHECK(with["motor"].unknown == axis["motor"].unknown); // of a later version of the program
  CHECK(with["motor"].text("part_number") == space.motors[3].number);
  CHECK(with["gearhead"].text("part_number") == space.heads[2].number);
  CHECK(with["drive"].text("part_number") == space.drives[1].number);
  CHECK(with["load"] == axis["load"]);
}

TEST_CASE("the order is that of the weighted sum, missing figures last, ties by the parts") {
  std::mt19937 random(71);
  const MatchSpace space = shipped();
  for (int round = 0; round < rounds(10); ++round) {
    const auto trials = invented(space, random, 200);
    Weights weights;
    for (const Yardstick& yardstick : yardsticks())
      weights[std::string(yardstick.id)] = std::uniform_int_distribution<int>(0, 2)(random);
    // plainly: the next one is the best of those left
    std::vector<std::size_t> left(trials.size()), plain;
    for (std::size_t i = 0; i < left.size(); ++i) left[i] = i;
    const auto key = [&](std::size_t i) {
      const Trial& t = trials[i];
      double sum = 0.0;
      int missing = t.wanted.empty() ? 0 : 1;
      const auto add = [&](const char* id, double value, double scale) {
        if (weights[id] == 0.0) return;
        if (std::isnan(value))
          ++missing;
        else
          sum += weights[id] / scale * value;
      };
      const auto mass = [&] {
        double kg = 0.0;
        for (const PartChoice* part : {&space.motors[t.parts.motor], &space.heads[t.parts.head],
                                       &space.drives[t.parts.drive], &space.brakes[0], &space.couplings[0]})
          if (!part->number.empty()) kg += part->section.term("mass");
        return kg;
      };
      add("used", t.used, 1.0);
      add("price", plain_price(space, t), 1000.0);
      add("mass", mass(), 10.0);
      add("energy", t.energy, 3600.0);
      add("ratio", t.ratio, 10.0);
      add("winding", t.winding, 400.0);
      double metres = 0.0, seconds = 0.0;
      for (const PartChoice* part : {&space.motors[t.parts.motor], &space.heads[t.parts.head],
                                     &space.drives[t.parts.drive], &space.brakes[0], &space.couplings[0]}) {
        if (part->number.empty()) continue;
        if (part != &space.drives[t.parts.drive]) metres += part->section.term("length");
        seconds = std::max(seconds, part->section.term("lead_time").value);
      }
      add("length", metres, 1.0);
      add("lead_time", seconds, 90.0 * 86400.0);
      return std::tuple(missing, sum, t.parts);
    };
    while (!left.empty()) {
      const auto best = std::min_element(left.begin(), left.end(),
                                         [&](std::size_t a, std::size_t b) { return key(a) < key(b); });
      plain.push_back(*best);
      left.erase(best);
    }
    CHECK(ranked(space, trials, weights, {}) == plain);
  }
}

TEST_CASE("what is in stock is what has every part at hand, one that is not told is not") {
  MatchSpace space = shipped();
  std::mt19937 random(79);
  const auto trials = invented(space, random, 300);
  const auto plain = [&](const Trial& t) {
    for (const PartChoice* part : {&space.motors[t.parts.motor], &space.heads[t.parts.head],
                                   &space.drives[t.parts.drive], &space.brakes[0], &space.couplings[0]})
      if (!part->number.empty() && !(part->section.term("stock") >= 1.0)) return false;
    return true;
  };
  Filter filter;
  filter.in_stock = true;
  const auto expected = std::count_if(trials.begin(), trials.end(), plain);
  REQUIRE(expected > 5);
  CHECK(count_in_stock(space, trials, {}) == static_cast<std::size_t>(expected));
  for (const std::size_t place : ranked(space, trials, usual_weights(), filter)) CHECK(plain(trials[place]));
  CHECK(ranked(space, trials, usual_weights(), filter).size() == static_cast<std::size_t>(expected));
  // a facet's counts are of what is in stock
  std::size_t of_facet = 0;
  const auto counts = facet_counts(space, trials, filter);
  for (const FacetCount& count : counts.front()) of_facet += count.combinations;
  CHECK(of_facet == static_cast<std::size_t>(expected));
  space.couplings[0].stock = std::nan("");
  CHECK(count_in_stock(space, trials, {}) == 0);
}

TEST_CASE("a lead time that is not known of one part is not known of all") {
  MatchSpace space = shipped();
  std::mt19937 random(83);
  auto trials = invented(space, random, 1);
  const Yardstick& lead = *find_yardstick("lead_time");
  CHECK(lead.value(space, trials[0]) > 0.0);
  space.heads[trials[0].parts.head].number = "a head";
  space.heads[trials[0].parts.head].lead_time = std::nan("");
  CHECK(std::isnan(lead.value(space, trials[0])));
  space.heads[trials[0].parts.head].lead_time = 400.0 * 86400.0;
  CHECK(lead.value(space, trials[0]) == 400.0 * 86400.0);
}

TEST_CASE("a part whose sheet lacks what a limit needs never stands first, nor does one without a price") {
  MatchSpace space = shipped();
  std::mt19937 random(73);
  auto trials = invented(space, random, 3);
  for (Trial& trial : trials) trial.wanted = "";
  trials[0].used = 0.1;
  trials[0].wanted = "motor.kt";
  trials[1].used = 0.9;
  trials[2].used = 0.2;
  const auto order = ranked(space, trials, {{"used", 1.0}}, {});
  CHECK(order == std::vector<std::size_t>{2, 1, 0});
  space.motors[trials[2].parts.motor].price = std::nan("");
  if (trials[1].parts.motor != trials[2].parts.motor)
    CHECK(ranked(space, trials, {{"price", 1.0}}, {}).front() == 1);
}

TEST_CASE("a price limit lets pass what costs no more, whatever slot it is paid for") {
  const MatchSpace space = with_all_slots();
  std::mt19937 random(97);
  auto trials = invented(space, random, 300);
  for (Trial& trial : trials) {
    trial.parts.brake = random() % 2;
    trial.parts.coupling = random() % 2;
  }
  std::vector<double> prices;
  for (const Trial& trial : trials) prices.push_back(plain_price(space, trial));
  Filter filter;
  filter.most_price = prices[17]; // to the last bit: what costs just that passes
  std::set<std::size_t> plain, found;
  for (std::size_t i = 0; i < trials.size(); ++i)
    if (!(prices[i] > filter.most_price)) plain.insert(i);
  for (const std::size_t place : ranked(space, trials, usual_weights(), filter)) found.insert(place);
  CHECK(plain.contains(17));
  CHECK(plain.size() < trials.size());
  CHECK(found == plain);
  // the front of those alone
  const Yardstick &price = *find_yardstick("price"), &used = *find_yardstick("used");
  const std::vector<std::size_t> some(plain.begin(), plain.end());
  for (const std::size_t place : best_front(space, trials, some, price, used)) CHECK(plain.contains(place));
  const std::vector<std::size_t> dear{17};
  CHECK(best_front(space, trials, dear, price, used) == dear);
}

TEST_CASE("of a list longer than is put in order the head is in order, and all are counted") {
  const MatchSpace space = shipped();
  std::mt19937 random(101);
  Settler settle(demo().axes[1], demo().house_rules, space);
  const auto check = [&](std::vector<Trial> trials, const Weights& weights) {
    const auto plain = ranked(space, trials, weights, {});
    Fits fits(std::move(trials));
    const Ranked found = ranked(space, fits, weights, {}, settle, 100);
    CHECK(found.passing == plain.size());
    REQUIRE(found.order.size() >= longest_order);
    CHECK(std::equal(found.order.begin(), found.order.begin() + longest_order, plain.begin()));
    std::set<std::size_t> once(found.order.begin(), found.order.end());
    CHECK(once.size() == found.order.size());
    CHECK_FALSE(found.others.empty());
    for (const std::size_t place : found.others) CHECK(once.insert(place).second);
  };
  check(invented(space, random, longest_order + 3000), usual_weights());
  // so many that a sample tells which come first
  const auto many = invented(space, random, 5 * longest_order);
  check(many, usual_weights());
  check(many, {}); // all alike, but for those of which something is not known
  // a sample that misleads: every place it looks at is better than all else
  auto misled = many;
  for (std::size_t i = 0; i < misled.size(); i += 7) misled[i].used = -1.0;
  check(std::move(misled), {{"used", 1.0}});
  // more are asked for than a sample takes to be near
  Fits fits(many);
  const auto plain = ranked(space, many, usual_weights(), {});
  const auto found = ranked(space, fits, usual_weights(), {}, settle, 3 * longest_order, 2).order;
  REQUIRE(found.size() >= 3 * longest_order);
  CHECK(std::equal(found.begin(), found.begin() + 3 * longest_order, plain.begin()));
  CHECK(std::set<std::size_t>(found.begin(), found.end()).size() == found.size());
}

TEST_CASE("what a filter would leave is counted the same by one thread and by three") {
  const MatchSpace space = shipped();
  std::mt19937 random(103);
  const auto trials = invented(space, random, 70'000);
  Filter filter;
  filter.most_price = 900.0;
  filter.of["drive.maker"].insert(facet_counts(space, trials, {})[5].front().value);
  CHECK(facet_counts(space, trials, filter, 3) == facet_counts(space, trials, filter));
  const std::size_t in_stock = count_in_stock(space, trials, filter);
  CHECK(count_in_stock(space, trials, filter, 3) == in_stock);
  filter.in_stock = true;
  CHECK(ranked(space, trials, usual_weights(), filter).size() == in_stock);
}

TEST_CASE("the front holds what no other beats in both, and nothing else") {
  std::mt19937 random(79);
  const MatchSpace space = shipped();
  for (int round = 0; round < 6; ++round) {
    const auto trials = invented(space, random, 150);
    const auto places = ranked(space, trials, usual_weights(), {});
    for (const auto& [x_id, y_id] : {std::pair{"price", "used"}, {"energy", "winding"}, {"ratio", "mass"}}) {
      const Yardstick &x = *find_yardstick(x_id), &y = *find_yardstick(y_id);
      const auto at = [&](std::size_t i) {
        return std::pair{x.value(space, trials[i]), y.value(space, trials[i])};
      };
      const auto beats = [&](std::size_t a, std::size_t b) {
        const auto [ax, ay] = at(a);
        const auto [bx, by] = at(b);
        return ax <= bx && ay <= by && (ax < bx || ay < by);
      };
      const auto front = best_front(space, trials, places, x, y);
      std::set<std::pair<double, double>> plain, found;
      for (const std::size_t i : places) {
        if (std::isnan(at(i).first) || std::isnan(at(i).second)) continue;
        if (std::none_of(places.begin(), places.end(), [&](std::size_t j) { return beats(j, i); }))
          plain.insert(at(i));
      }
      for (const std::size_t i : front) found.insert(at(i));
      CHECK(found == plain);
      CHECK(found.size() == front.size()); // of equal ones the first alone
    }
  }
}

TEST_CASE("every value of a facet says how many it would leave") {
  std::mt19937 random(83);
  const MatchSpace space = shipped();
  const auto trials = invented(space, random, 300);
  Filter filter;
  filter.most_price = 900.0;
  for (const std::string_view id : {"motor.kind", "gearhead.maker", "drive.bus_max"}) {
    const auto first = facet_counts(space, trials, {});
    for (std::size_t f = 0; f < facets().size(); ++f)
      if (facets()[f].id == id)
        for (std::size_t k = 0; k < first[f].size(); k += 2)
          filter.of[std::string(id)].insert(first[f][k].value);
  }
  const auto counts = facet_counts(space, trials, filter);
  for (std::size_t f = 0; f < facets().size(); ++f)
    for (const FacetCount& count : counts[f]) {
      Filter alone = filter; // plainly: with that value and no other of this facet
      alone.of[std::string(facets()[f].id)] = {count.value};
      INFO(facets()[f].id << " " << count.value);
      CHECK(ranked(space, trials, {}, alone).size() == count.combinations);
    }
  CHECK(ranked(space, trials, {}, filter).size() < ranked(space, trials, {}, {}).size());
}

TEST_CASE("a stepper's least torque between two speeds is not above that at any speed there") {
  std::mt19937 random(89);
  const auto between = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
  };
  Recorder silent(false);
  const auto drive = build_drive(parts_of_form("drive", bipolar_drive_section()).front());
  for (const PartChoice& one : choices_for(demo().axes[5], "motor", library().of("motor"))) {
    if (!one.section.has("leads")) continue;
    const auto motor = build_motor(one.section, *drive, silent);
    const MotorSupply supply{drive->motor_volts(between(20.0, 70.0)), 10.0, false};
    const double fastest = 1.2 * motor->max_speed;
    for (int i = 0; i < 4; ++i) {
      const double from = between(0.0, fastest), to = from + between(0.0, 0.3 * fastest);
      const double least = motor->least_peak(from, to, supply, false);
      INFO(one.name() << " from " << from << " to " << to);
      for (int k = 0; k <= 20; ++k)
        CHECK(motor->peak_torque(from + (to - from) * k / 20.0, supply, false) >= least * (1.0 - 1e-9));
      const double there = motor->least_peak(from, from, supply, false);
      CHECK(there == Approx(motor->peak_torque(from, supply, false)).margin(1e-12));
    }
  }
}

TEST_CASE("what was best before an edit is judged anew as a search judges it") {
  Axis axis = demo().axes[1];
  const Section rules = demo().house_rules;
  MatchSpace space = match_space(axis, library());
  std::erase_if(space.motors, [](const PartChoice& motor) { return motor.section.has("leads"); });
  std::vector<Combination> best;
  for (const Trial& trial : search(axis, rules, space).fits) best.push_back(trial.parts);
  REQUIRE(best.size() > 10);
  axis["load"].type("moved_mass", "9 kg");
  const MatchResult whole = search(axis, rules, space);
  for (const unsigned threads : {1U, 3U}) {
    MatchRun run;
    run.threads = threads;
    const MatchResult again = try_again(axis, rules, space, best, run);
    CHECK_FALSE(again.finished);
    CHECK(again.tried == static_cast<double>(best.size()));
    std::vector<Trial> expected;
    for (const Trial& trial : whole.fits)
      if (std::find(best.begin(), best.end(), trial.parts) != best.end()) expected.push_back(trial);
    REQUIRE(!expected.empty());
    REQUIRE(expected.size() < best.size());
    REQUIRE(again.fits.size() == expected.size());
    for (std::size_t i = 0; i < expected.size(); ++i) {
      CHECK(again.fits[i].parts == expected[i].parts);
      CHECK(again.fits[i].settled);
      CHECK(again.fits[i].worst == expected[i].worst);
      CHECK(again.fits[i].used == Approx(expected[i].used).epsilon(1e-9));
    }
  }
  MatchRun unwanted;
  unwanted.wanted = [] { return false; };
  CHECK(try_again(axis, rules, space, best, unwanted).fits.empty());
  Section wrong = rules;
  wrong.type("attention", "nonsense");
  CHECK_FALSE(try_again(axis, wrong, space, best).problem.what.empty());

  CHECK(same_parts(space, space, best));
  MatchSpace fewer = space;
  fewer.motors.erase(fewer.motors.begin());
  CHECK_FALSE(same_parts(space, fewer, best));
  MatchSpace other = space;
  other.drives[best.front().drive].maker += " of late";
  CHECK_FALSE(same_parts(space, other, best));
  CHECK(same_parts(space, other, {}));
}
