// Drives that fit together stand as one: what is listed, counted and pictured of them is what a plain list of
// all would give.

#include "core/limits/limit.hpp"
#include "core/match/fits.hpp"
#include "core/match/ranking.hpp"
#include "core/match/yardstick_reader.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <numeric>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

/// The shipped parts; of some the price is not told.
MatchSpace some_parts(std::mt19937& random) {
  MatchSpace space = match_space(demo().axes[1], library());
  for (auto* parts : {&space.motors, &space.heads})
    for (PartChoice& part : *parts)
      if (random() % 40 == 0) part.price = std::nan("");
  for (std::size_t d = 0; d < space.drives.size(); d += 12)
    space.drives[d].price = std::nan(""); // of one group
  return space;
}

/// What fits, its figures invented: of each pair some by themselves, and some of each group of drives.
class InventedFits {
public:
  InventedFits(const MatchSpace& space, std::mt19937& random) : space_(space), random_(random) {
    for (std::uint32_t first = 0; first < 3; ++first) {
      GroupDrives& group = groups_->emplace_back();
      for (std::uint32_t d = first; d < space.drives.size(); d += 4) {
        auto drive = build_drive(space.drives[d].section);
        if (std::isnan(drive->continuous_current)) continue; // drives of a group tell the same figures
        group.places.push_back(d);
        group.drives.push_back(std::move(drive));
      }
    }
  }

  /// Of so many in ten blocks an input is missing.
  void lack(std::uint32_t in_ten) { lacking_ = in_ten; }

  Fits operator()(std::size_t pairs) {
    std::set<std::pair<std::uint32_t, std::uint32_t>> all;
    while (all.size() < pairs) all.insert({below(space_.motors.size()), below(space_.heads.size())});
    Fits fits(groups_);
    for (const auto& [motor, head] : all) {
      std::vector<Trial> trials;
      for (std::uint32_t d = 3; d < space_.drives.size(); d += 4)
        if (below(6) == 0) trials.push_back(trial({motor, head, d, 0, 0}));
      std::vector<FitBlock> blocks;
      for (std::uint32_t g = 0; g < groups_->size(); ++g)
        if (below(4) != 0) blocks.push_back(block({motor, head, 0, 0, 0}, g));
      fits.add(trials, blocks);
    }
    return fits;
  }

private:
  std::uint32_t below(std::size_t n) {
    return std::uniform_int_distribution<std::uint32_t>(0, static_cast<std::uint32_t>(n) - 1)(random_);
  }
  double between(double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random_);
  }
  Trial trial(const Combination& parts) {
    Trial out;
    out.parts = parts;
    out.used = between(0.1, 1.0);
    out.energy = between(0.0, 100.0);
    out.ratio = between(0.5, 5.0);
    out.winding = between(300.0, 400.0);
    out.fits = out.settled = true;
    return out;
  }
  FitBlock block(const Combination& parts, std::uint32_t g) {
    const GroupDrives& group = (*groups_)[g];
    const auto order = [&] { return below(limit_specs().size()); };
    GroupFloor floor;
    floor.worst = {between(0.1, 1.0), order()};
    if (below(10) < lacking_) floor.wanted = "motor.kt";
    if (below(2) == 0) floor.by_figures.push_back({&Drive::continuous_current, between(0.0, 3.0), order()});
    if (below(3) == 0)
      for (const auto& drive : group.drives)
        floor.by_torque.push_back({drive->peak_current, {between(0.1, 1.0), order()}});
    floor.drawn = below(10) == 0 ? std::nan("") : between(5.0, 100.0);
    floor.cycle = between(0.5, 4.0);
    floor.current = between(1.0, 9.0);
    floor.lost_at_rest = between(1.0, 20.0);
    floor.lost_at_current = floor.lost_at_rest + between(1.0, 20.0);
    floor.ratio = between(0.5, 5.0);
    floor.winding = between(300.0, 400.0);
    floor.least_energy = floor.drawn;
    for (const auto& drive : group.drives)
      floor.least_energy = std::min(floor.least_energy, floor.energy(*drive));
    return {parts, g, 1 + below(group.places.size()), floor};
  }

  const MatchSpace& space_;
  std::mt19937& random_;
  std::uint32_t lacking_ = 1;
  std::shared_ptr<std::vector<GroupDrives>> groups_ = std::make_shared<std::vector<GroupDrives>>();
};

/// All, by their places.
std::vector<Trial> by_place(const Fits& fits) { return {fits.begin(), fits.end()}; }

std::vector<Filter> some_filters(const MatchSpace& space, const Fits& fits) {
  const auto values = facet_counts(space, fits, {});
  Filter dear, by_drive, all;
  dear.most_price = 1100.0;
  for (std::size_t f = 0; f < facets().size(); ++f) {
    const std::string& value = values[f][values[f].size() / 2].value;
    if (facets()[f].slot == "drive") by_drive.of[std::string(facets()[f].id)].insert(value);
    if (f % 2 == 1) all.of[std::string(facets()[f].id)] = {value, values[f].front().value};
  }
  all.most_price = 1500.0;
  return {{}, dear, by_drive, all};
}

} // namespace

TEST_CASE("each place of what fits is one combination, found again by its parts") {
  std::mt19937 random(4001);
  const MatchSpace space = some_parts(random);
  const Fits fits = InventedFits(space, random)(40);
  const std::vector<Trial> all = by_place(fits);
  REQUIRE(all.size() == fits.size());
  std::set<Combination> once;
  for (std::size_t place = 0; place < all.size(); ++place) {
    CHECK(once.insert(all[place].parts).second);
    CHECK(fits.parts(place) == all[place].parts);
    CHECK(fits[place].parts == all[place].parts);
    CHECK(fits.place_of(all[place].parts) == place);
  }
  for (int round = 0; round < 100; ++round) {
    Combination none{static_cast<std::uint32_t>(random() % space.motors.size()),
                     static_cast<std::uint32_t>(random() % space.heads.size()),
                     static_cast<std::uint32_t>(random() % space.drives.size()), 0, 0};
    CHECK(fits.place_of(none).has_value() == once.contains(none));
  }
  for (int round = 0; round < 100; ++round) {
    const std::size_t from = random() % fits.size(), to = from + random() % (fits.size() - from + 1);
    std::vector<std::pair<std::size_t, Combination>> seen;
    fits.each(
        from, to, [&](std::size_t place, const Trial& trial) { seen.emplace_back(place, trial.parts); },
        [&](const Fits::Part& part) {
          for (std::uint32_t drive = part.from(); drive < part.to(); ++drive)
            seen.emplace_back(part.place(drive), part.parts(drive));
        });
    REQUIRE(seen.size() == to - from);
    for (std::size_t i = 0; i < seen.size(); ++i) {
      CHECK(seen[i].first == from + i);
      CHECK(seen[i].second == all[from + i].parts);
    }
  }
  auto sorted = fits.each_by_itself();
  CHECK(sorted.size() == fits.size());
  CHECK(std::is_sorted(sorted.begin(), sorted.end(),
                       [](const Trial& a, const Trial& b) { return a.parts < b.parts; }));
}

TEST_CASE("nothing of a block is less than it says of all") {
  std::mt19937 random(4003);
  const MatchSpace space = some_parts(random);
  const Fits fits = InventedFits(space, random)(40);
  int told = 0, exact = 0;
  for (const Yardstick& yardstick : yardsticks()) {
    const YardstickReader reader(space, yardstick, fits);
    fits.each(
        0, fits.size(), [](std::size_t, const Trial&) {},
        [&](const Fits::Part& part) {
          const double least = reader.least(part.block());
          if (std::isnan(least)) return;
          for (std::uint32_t drive = part.from(); drive < part.to(); ++drive) {
            const double value = yardstick.value(space, part.trial(drive));
            ++told;
            exact += value == least ? 1 : 0;
            CHECK(value >= least);
          }
        });
  }
  CHECK(told > 1000);
  CHECK(exact > 100);
}

TEST_CASE("a list, its counts and its front are those of all combinations by themselves") {
  std::mt19937 random(4007);
  const MatchSpace space = some_parts(random);
  Section faulty = demo().house_rules;
  faulty.type("attention", "much");
  Settler settle(demo().axes[1], faulty, space); // leaves all figures as they are invented
  InventedFits invented(space, random);
  for (const std::size_t pairs :
       {std::size_t{60}, std::size_t{3000}}) { // few, and more than are put in order
    Fits fits = invented(pairs);
    const std::vector<Trial> all = by_place(fits);
    REQUIRE((pairs < 1000 || all.size() > 2 * longest_order));
    for (const Filter& filter : some_filters(space, fits)) {
      for (const Weights& weights :
           {usual_weights(), Weights{{"used", 1.0}}, Weights{{"energy", 1.0}, {"mass", 0.5}},
            Weights{{"lead_time", 1.0}, {"winding", 2.0}, {"ratio", 1.0}}}) {
        const auto plain = ranked(space, all, weights, filter);
        const Ranked found = ranked(space, fits, weights, filter, settle, 0, 2);
        CHECK(found.passing == plain.size());
        REQUIRE(found.order.size() == std::min(plain.size(), longest_order));
        CHECK(std::equal(found.order.begin(), found.order.end(), plain.begin()));
        const std::set<std::size_t> later(plain.begin() + static_cast<std::ptrdiff_t>(found.order.size()),
                                          plain.end());
        CHECK(found.others.empty() == later.empty());
        for (const std::size_t place : found.others) CHECK(later.contains(place));
      }
      for (const auto& [x, y] :
           {std::pair{"price", "used"}, {"energy", "used"}, {"mass", "winding"}, {"length", "ratio"}}) {
        const Yardstick &across = *find_yardstick(x), &up = *find_yardstick(y);
        const auto passing = ranked(space, all, {}, filter);
        CHECK(best_front(space, fits, filter, across, up, settle, 2) ==
              best_front(space, all, passing, across, up));
      }
      CHECK(facet_counts(space, fits, filter, 2) == facet_counts(space, all, filter));
      CHECK(count_in_stock(space, fits, filter, 2) == count_in_stock(space, all, filter));
    }
  }
}
