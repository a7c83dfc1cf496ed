#include "core/ways/solve.hpp"
#include "core/ways/way_judge.hpp"
#include "core/ways/ways_out.hpp"

namespace fulmox {

Expected<std::vector<Room>> headroom(const Axis& axis, const Section& house_rules, const Wanted& wanted) {
  if (const auto wrong = faults(house_rules); !wrong.empty()) return wrong.front();
  WayJudge judge(house_rules);
  const auto [now, over] = judge.worst(axis);
  if (std::isnan(now))
    return Problem{"", "the axis cannot be worked out.", "Mend what is wrong in it first."};
  if (now > 1.0)
    return Problem{"", "the axis breaks a limit (" + std::string(over) + "): it has no room left.",
                   "Look for a way out of it first."};
  std::vector<Room> all;
  for (const Lever& lever : levers_of(axis, 0)) {
    if (!wanted()) return given_up();
    if (lever.headroom == 0) continue;
    const bool up = (lever.headroom > 0) == (lever.now >= 0.0);
    Room room{lever.label, lever.path, lever.told_now, "", 0.0, "", false};
    // the border is crossed where what is left changes its sign: the same search, turned round
    double best = 1.0, best_at = lever.now;
    const auto left = [&](double x) {
      const double used = judge.worst(lever.with(x)).first;
      return std::isnan(used) ? -1.0 : 1.0 - used;
    };
    const auto crossing = nearest(lever, up, left, best, best_at);
    const double reach = up ? lever.most : lever.least;
    room.unlimited = !crossing;
    const double value = crossing.value_or(reach);
    // back to the side on which all holds
    auto set = rounded(lever, value, !up, [&](const Axis& other) { return judge.worst(other).first <= 1.0; });
    if (!set) continue;
    room.to = set->second;
    room.share = lever.now != 0.0 && lever.kind != Kind::temperature ? value / lever.now - 1.0 : std::nan("");
    if (crossing) {
      const auto beyond =
          judge.worst(lever.with(up ? value + 1e-6 * std::abs(value) : value - 1e-6 * std::abs(value)));
      room.limit = beyond.second;
    }
    all.push_back(std::move(room));
  }
  return all;
}

} // namespace fulmox
