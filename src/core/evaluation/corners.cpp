#include "core/evaluation/corners.hpp"

#include "core/study/quick.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace fulmox {
namespace {

struct Spread {
  Section* section;
  std::size_t field;
  Entry typed;
  std::string path, label;
};

/// Calls for every input that carries a spread.
template <class SomeAxis, class Take> void each_spread(SomeAxis& axis, Take take) {
  const auto look = [&](auto& section) {
    for (std::size_t i = 0; i < section.size(); ++i)
      if (section.field(i).type == FieldType::quantity && section.entry(i).tolerance.half_width > 0.0)
        take(section, i);
  };
  for (auto& section : axis.givens) look(section);
  for (const ListInfo& list : section_lists())
    for (auto& section : axis.*list.member) look(section);
}

std::vector<Spread> spreads_of(Axis& axis) {
  std::vector<Spread> all;
  each_spread(axis, [&](Section& section, std::size_t i) {
    const auto id = section.field(i).id;
    all.push_back(
        {&section, i, section.entry(i), section.path + "." + std::string(id), describe_path(section, id)});
  });
  return all;
}

/// One place a spread, in halves of its width: −2 … 2.
using Combination = std::vector<int>;
constexpr int whole = 2;

/// Used shares of all limits, in the order of their registry; NaN where not judged.
using Shares = std::vector<double>;

class Search {
public:
  Search(Axis axis, const Section& house_rules) : axis_(std::move(axis)), rules_(house_rules) {
    spreads_ = spreads_of(axis_);
  }

  [[nodiscard]] const std::vector<Spread>& spreads() const { return spreads_; }
  [[nodiscard]] const std::map<Combination, Shares>& found() const { return found_; }
  [[nodiscard]] std::size_t lost() const { return lost_.size(); }
  /// Whether a limit is a fit: not tight however close.
  [[nodiscard]] bool only_fits(std::size_t limit) const { return fits_[limit]; }
  [[nodiscard]] Combination as_typed() const { return Combination(spreads_.size(), 0); }

  /// The shares there; nothing where the axis cannot be worked out.
  const Shares* at(const Combination& ends) {
    if (const auto known = found_.find(ends); known != found_.end()) return &known->second;
    if (lost_.contains(ends)) return nullptr;
    for (std::size_t i = 0; i < spreads_.size(); ++i) put(spreads_[i], ends[i]);
    auto shares = judge_all();
    if (!shares) {
      lost_.insert(ends);
      return nullptr;
    }
    return &found_.emplace(ends, std::move(*shares)).first->second;
  }

private:
  static void put(const Spread& s, int end) {
    const double value = s.typed.value + end * s.typed.tolerance.half_width / whole;
    const Range& range = s.section->field(s.field).range;
    // a spread that reaches out of what can be: as far as it goes
    s.section->put(s.field, range.contains(value) ? with_value(s.typed, value) : s.typed);
  }

  [[nodiscard]] std::optional<Shares> judge_all() {
    fits_.clear();
    Recorder silent(false);
    const auto model = AxisModel::build(axis_, silent);
    if (!model) return std::nullopt;
    const Course course = follow(*model);
    const Demand demand = work_out_demand(*model, course, rules_, silent);
    const LimitContext context{axis_, *model, course, demand, rules_, silent};
    Shares shares;
    for (const LimitSpec* spec : limit_specs()) {
      const auto limit = spec->judge(context);
      const bool judged = limit && limit->state != LimitState::not_judged;
      shares.push_back(judged ? limit->used : std::nan(""));
      fits_.push_back(limit && limit->only_fits);
    }
    return shares;
  }

  Axis axis_;
  Rules rules_;
  std::vector<bool> fits_; ///< which limits are fits, of those judged last
  std::vector<Spread> spreads_;
  std::map<Combination, Shares> found_;
  std::set<Combination> lost_;
};

constexpr std::size_t finely_tried = 2, all_tried = 3; ///< so many spreads

bool worse(double a, double b) { return !std::isnan(a) && (std::isnan(b) || a > b); }

void every_combination(Search& search, int step, const Wanted& wanted) {
  Combination ends(search.spreads().size(), -whole);
  for (bool more = true; more && wanted();) {
    search.at(ends);
    more = false;
    for (int& end : ends) {
      if (end < whole) {
        end += step;
        more = true;
        break;
      }
      end = -whole;
    }
  }
}

/// For one limit where each spread alone makes it worse: on its low side, on its high side, on both or on
/// none.
struct Sides {
  int low = 0, high = 0; ///< the worst place of that side; 0 where none is worse
  double low_used = 0.0, high_used = 0.0;
  [[nodiscard]] bool both() const { return low != 0 && high != 0; }
  [[nodiscard]] int worst() const {
    return low == 0 ? high : high == 0 || low_used >= high_used ? low : high;
  }
};

std::vector<Sides> sides_of(Search& search, std::size_t limit, double nominal) {
  std::vector<Sides> all(search.spreads().size());
  for (std::size_t i = 0; i < all.size(); ++i) {
    Sides& sides = all[i];
    sides.low_used = sides.high_used = nominal;
    for (const int end : {-whole, -1, 1, whole}) {
      Combination alone = search.as_typed();
      alone[i] = end;
      const Shares* shares = search.at(alone);
      double& used = end < 0 ? sides.low_used : sides.high_used;
      if (shares == nullptr || !worse((*shares)[limit], used)) continue;
      used = (*shares)[limit];
      (end < 0 ? sides.low : sides.high) = end;
    }
  }
  return all;
}

/// For each limit all spreads where each alone makes it worst; of those that make it worse on both sides up
/// to three are tried both ways.
void ends_by_sign(Search& search, const Wanted& wanted) {
  const Shares typed = *search.at(search.as_typed());
  for (std::size_t limit = 0; limit < typed.size() && wanted(); ++limit) {
    const std::vector<Sides> sides = sides_of(search, limit, typed[limit]);
    Combination worst = search.as_typed();
    std::vector<std::size_t> both;
    for (std::size_t i = 0; i < sides.size(); ++i) {
      worst[i] = sides[i].worst();
      if (sides[i].both() && both.size() < all_tried) both.push_back(i);
    }
    for (std::size_t ways = 0; ways < std::size_t{1} << both.size() && wanted(); ++ways) {
      Combination ends = worst;
      for (std::size_t k = 0; k < both.size(); ++k)
        ends[both[k]] = (ways >> k & 1U) != 0 ? sides[both[k]].high : sides[both[k]].low;
      search.at(ends);
    }
  }
}

/// Path of the spread that alone takes the limit furthest up.
std::string main_spread(Search& search, std::size_t limit, double nominal) {
  std::string path;
  double most = nominal;
  for (std::size_t i = 0; i < search.spreads().size(); ++i)
    for (const int end : {-whole, -1, 1, whole}) {
      if (std::abs(end) < whole && search.spreads().size() > finely_tried) continue;
      Combination alone = search.as_typed();
      alone[i] = end;
      const Shares* shares = search.at(alone);
      if (shares == nullptr || !worse((*shares)[limit], most)) continue;
      most = (*shares)[limit];
      path = search.spreads()[i].path;
    }
  return path;
}

} // namespace

std::string CornerInput::where() const {
  return std::string(std::abs(end) < 1.0 ? "halfway to its " : "at its ") + (end > 0.0 ? "most" : "least");
}

bool has_spread(const Axis& axis) {
  bool any = false;
  each_spread(axis, [&](const Section&, std::size_t) { any = true; });
  return any;
}

Corners as_typed(std::span<const Limit> limits) {
  Corners out;
  out.tried = 1;
  for (const Limit& limit : limits)
    if (limit.state != LimitState::not_judged)
      out.limits.push_back({limit.id, limit.label, limit.used, limit.used, limit.state, limit.state, {}, ""});
  return out;
}

Expected<Corners> corners(const Axis& axis, const Section& house_rules, const Wanted& wanted) {
  if (const auto wrong = faults(house_rules); !wrong.empty()) return wrong.front();
  Recorder silent(false);
  if (const auto model = AxisModel::build(axis, silent); !model) return model.problem();

  Search search(axis, house_rules);
  if (search.spreads().size() <= all_tried)
    every_combination(search, search.spreads().size() <= finely_tried ? 1 : whole, wanted);
  else
    ends_by_sign(search, wanted);
  if (!wanted()) return given_up();
  const double attention = Rules(house_rules).term("attention");
  const Shares typed = *search.at(search.as_typed());
  Corners out;
  for (const Spread& spread : search.spreads()) out.spreads.push_back(spread.path);
  for (std::size_t k = 0; k < typed.size(); ++k) {
    LimitCorner limit;
    limit.id = limit_specs()[k]->id;
    limit.label = limit_specs()[k]->label;
    limit.nominal = limit.worst = typed[k];
    const Combination* where = nullptr;
    for (const auto& [ends, shares] : search.found())
      if (worse(shares[k], limit.worst)) {
        limit.worst = shares[k];
        where = &ends;
      }
    if (std::isnan(limit.worst)) continue;
    if (where != nullptr)
      for (std::size_t i = 0; i < where->size(); ++i)
        if ((*where)[i] != 0)
          limit.at.push_back({search.spreads()[i].path, search.spreads()[i].label,
                              static_cast<double>((*where)[i]) / whole});
    const double tight_from = search.only_fits(k) ? 1.0 : attention;
    limit.now = state_of(limit.nominal, tight_from);
    limit.state = state_of(limit.worst, tight_from);
    limit.mainly = main_spread(search, k, limit.nominal);
    out.limits.push_back(std::move(limit));
  }
  out.tried = search.found().size();
  out.lost = search.lost();
  std::stable_sort(out.limits.begin(), out.limits.end(),
                   [](const LimitCorner& a, const LimitCorner& b) { return a.worst > b.worst; });
  return out;
}

} // namespace fulmox
