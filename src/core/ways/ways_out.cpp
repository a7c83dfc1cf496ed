#include "core/ways/ways_out.hpp"

#include "core/quantity/format.hpp"
#include "core/ways/solve.hpp"
#include "core/ways/way_judge.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

WayChange change_of(const Lever& lever, double value, std::string to) {
  WayChange change{lever.label, lever.path, lever.told_now, std::move(to), 0.0, lever.guessed};
  const bool by_share = lever.now != 0.0 && lever.kind != Kind::temperature;
  change.share = by_share ? value / lever.now - 1.0 : std::nan("");
  return change;
}

class Finder {
public:
  Finder(const Axis& axis, const Section& house_rules, std::string_view limit, const WayOptions& options)
      : axis_(axis), id_(limit), options_(options), judge_(house_rules) {}

  Expected<WaysOut> operator()() {
    const auto now = judge_(axis_);
    if (!now) return Problem{"", "the axis cannot be worked out.", "Mend what is wrong in it first."};
    before_ = *now;
    const auto found =
        std::find_if(before_.begin(), before_.end(), [&](const Limit& l) { return l.id == id_; });
    if (found == before_.end() || found->state == LimitState::not_judged)
      return Problem{std::string(id_), "this axis has no such limit that is judged.",
                     "fulmox-cli size lists the limits with their ids."};
    out_.limit = found->id;
    out_.label = found->label;
    out_.used = found->used;
    out_.wanted = found->used > 1.0 ? 1.0 : judge_.attention();
    if (out_.used <= out_.wanted || (found->only_fits && found->used <= 1.0)) return out_; // clear already
    levers_ = levers_of(axis_, found->moment ? segment_of(*found) : busiest());
    for (const Lever& lever : levers_) {
      if (!options_.wanted()) return given_up();
      lever.options.empty() ? pull(lever) : choose(lever);
    }
    if (options_.library != nullptr) try_parts();
    if (std::all_of(out_.ways.begin(), out_.ways.end(), [](const Way& way) { return way.breaks; }) &&
        options_.pairs)
      try_pairs();
    arrange();
    return out_;
  }

private:
  [[nodiscard]] std::size_t segment_of(const Limit& limit) {
    Recorder silent(false);
    const auto load = LoadSide::build(axis_, silent);
    return load ? (*load)->cycle.pieces[limit.moment->piece].segment : 0;
  }

  /// The first move, where a limit binds at no one moment.
  [[nodiscard]] std::size_t busiest() const {
    for (std::size_t i = 0; i < axis_.cycle.size(); ++i)
      if (axis_.cycle[i].is("move")) return i;
    return 0;
  }

  [[nodiscard]] double excess(const Axis& axis) { return judge_.used(axis, id_) - out_.wanted; }
  [[nodiscard]] bool holds(const Axis& axis) { return excess(axis) <= 0.0; }

  void pull(const Lever& lever) {
    double best = out_.used - out_.wanted, best_at = lever.now;
    bool helped = false;
    for (const bool up : {true, false}) {
      if (lever.helps == (up ? -1 : 1)) continue;
      const auto value = nearest(
          lever, up, [&](double x) { return excess(lever.with(x)); }, best, best_at);
      if (!value) continue;
      auto set = rounded(lever, *value, up, [&](const Axis& axis) { return holds(axis); });
      if (!set) continue;
      add({change_of(lever, *value, set->second)}, lever.effort(*value), set->first, false);
      helped = true;
    }
    if (!helped)
      out_.stuck.push_back(
          {lever.label, best + out_.wanted, lever.typed(best_at, 3, best_at > lever.now).second});
  }

  void choose(const Lever& lever) {
    double best = out_.used - out_.wanted;
    std::string best_at = lever.told_now;
    bool helped = false;
    for (const LeverOption& option : lever.options) {
      const double there = excess(option.axis);
      if (there < best) {
        best = there;
        best_at = option.told;
      }
      if (!(there <= 0.0)) continue;
      WayChange change{lever.label, lever.path, lever.told_now, option.told, std::nan(""), lever.guessed};
      add({change}, option.effort, option.axis, false);
      helped = true;
      break; // the least of them
    }
    if (!helped) out_.stuck.push_back({lever.label, best + out_.wanted, best_at});
  }

  /// The cheapest part of each slot that clears the limit; one with which the whole axis fits before one with
  /// which it does not.
  void try_parts() {
    for (const SlotSpec* slot : axis_part_slots()) {
      const Parts& parts = options_.library->of(slot->id);
      const bool empty_now = axis_[slot->id].has("part_number") && axis_[slot->id].blank("part_number");
      if (!worth_trying(slot->id)) continue;
      struct Best {
        const Section* part = nullptr;
        bool fits = false;
        double price = 0.0;
      } best;
      for (const Section& part : parts) {
        if (!options_.wanted()) return;
        Axis other = axis_;
        choose_part(other, slot->id, part);
        if (other[slot->id] == axis_[slot->id]) continue;
        const auto limits = judge_(other);
        if (!limits) continue;
        bool clears = false, fits = true;
        for (const Limit& limit : *limits) {
          if (limit.id == id_) clears = limit.state != LimitState::not_judged && limit.used <= out_.wanted;
          if (limit.state == LimitState::over) fits = false;
        }
        const double price = part.term_or("price", std::numeric_limits<double>::infinity());
        if (!clears || ruins(*limits) || (best.part != nullptr && (best.fits && !fits))) continue;
        if (best.part == nullptr || (fits && !best.fits) || price < best.price) best = {&part, fits, price};
      }
      if (best.part == nullptr) continue;
      Axis other = axis_;
      choose_part(other, slot->id, *best.part);
      const std::string now = empty_now ? "none" : axis_[slot->id].text("part_number");
      constexpr double as_much_as = 2.0; // of a plausible change
      add({{std::string(slot->part_title()), std::string(slot->id), now, best.part->text("part_number"),
            std::nan(""), false}},
          as_much_as, other, false);
    }
  }

  /// A supply is chosen for the whole machine; a brake or a coupling is not added to be rid of something
  /// else.
  [[nodiscard]] bool worth_trying(std::string_view slot) const {
    if (slot == "surroundings") return false;
    if (slot == "brake")
      return axis_["brake"].text("fitted") == "yes" || id_.starts_with("brake.") || id_ == "stop.room" ||
             id_ == "motor.hold";
    if (slot == "coupling") return !axis_["coupling"].blank("part_number");
    return true;
  }

  void add(std::vector<WayChange> changes, double effort, const Axis& axis, bool about) {
    const auto limits = judge_(axis);
    if (!limits) return;
    Way way{std::move(changes), 0.0, effort, {}, false, about, axis};
    for (const Limit& limit : *limits) {
      if (limit.state == LimitState::not_judged) continue;
      if (limit.id == id_) way.used = limit.used;
      const auto was =
          std::find_if(before_.begin(), before_.end(), [&](const Limit& l) { return l.id == limit.id; });
      const bool judged = was != before_.end() && was->state != LimitState::not_judged;
      const double before = judged ? was->used : 0.0;
      constexpr double told = 0.02;
      if (limit.id != id_ && limit.used > before + told)
        way.worse.push_back({limit.label, before, limit.used});
      if (limit.state == LimitState::over && !(before > 1.0)) way.breaks = true;
    }
    std::stable_sort(way.worse.begin(), way.worse.end(),
                     [](const Moved& a, const Moved& b) { return a.after > b.after; });
    if (!ruins(*limits)) out_.ways.push_back(std::move(way));
  }

  /// What drives another limit to three times what it bears is no way out.
  [[nodiscard]] bool ruins(const std::vector<Limit>& limits) const {
    constexpr double absurd = 3.0, told = 0.02;
    return std::any_of(limits.begin(), limits.end(), [&](const Limit& limit) {
      if (limit.state == LimitState::not_judged || limit.id == id_ || limit.used <= absurd) return false;
      const auto was =
          std::find_if(before_.begin(), before_.end(), [&](const Limit& l) { return l.id == limit.id; });
      return was == before_.end() || was->state == LimitState::not_judged || limit.used > was->used + told;
    });
  }

  /// Two levers at once, where no lever alone is enough: those that help at all, one at some places of its
  /// way, the other as little as then suffices.
  void try_pairs() {
    std::vector<const Lever*> helpful;
    for (const Lever& lever : levers_) {
      if (!lever.options.empty()) continue;
      for (const auto& stuck : out_.stuck)
        if (stuck.label == lever.label && stuck.best < out_.used - 1e-6) helpful.push_back(&lever);
    }
    constexpr std::size_t most = 6; // fifteen pairs
    if (helpful.size() > most) helpful.resize(most);
    for (std::size_t i = 0; i < helpful.size(); ++i)
      for (std::size_t k = i + 1; k < helpful.size(); ++k) {
        if (!options_.wanted()) return;
        const bool one_in_the_other = helpful[i]->id.ends_with(".time") && helpful[k]->id == "moves.time";
        if (!one_in_the_other) try_pair(*helpful[i], *helpful[k]);
      }
  }

  void try_pair(const Lever& first, const Lever& second) {
    struct Best {
      double effort = std::numeric_limits<double>::infinity(), value = 0.0, other = 0.0;
      bool up = true, other_up = true;
    } best;
    constexpr std::array shares{0.03, 0.08, 0.15, 0.25, 0.38, 0.52, 0.68, 0.84, 1.0};
    const double now = out_.used - out_.wanted;
    for (const bool up : {true, false}) {
      if (first.helps == (up ? -1 : 1)) continue;
      double so_far = now;
      for (const double share : shares) {
        const double value = moved(first, share, up);
        const Axis with_first = first.with(value);
        const double there = excess(with_first);
        if (!(there < so_far)) break; // this way it does not help, or no more
        so_far = there;
        if (first.effort(value) >= best.effort) break;
        const Lever rest = on(with_first, second);
        if (rest.id.empty()) break;
        for (const bool other_up : {true, false}) {
          if (rest.helps == (other_up ? -1 : 1) || !promises(rest, other_up)) continue;
          double ignored = there, ignored_at = rest.now;
          const auto other = nearest(
              rest, other_up, [&](double x) { return excess(rest.with(x)); }, ignored, ignored_at);
          if (!other) continue;
          const double effort = first.effort(value) + second.effort(*other);
          if (effort < best.effort) best = {effort, value, *other, up, other_up};
        }
      }
    }
    if (!std::isfinite(best.effort)) return;
    const auto set = first.typed(best.value, 3, best.up);
    const Lever rest = on(set.first, second);
    if (rest.id.empty()) return;
    auto both = rounded(rest, best.other, best.other_up, [&](const Axis& axis) { return holds(axis); });
    if (!both) { // rounding the first moved the border of the second
      double ignored = out_.used, ignored_at = rest.now;
      const auto anew = nearest(
          rest, best.other_up, [&](double x) { return excess(rest.with(x)); }, ignored, ignored_at);
      if (!anew) return;
      best.other = *anew;
      both = rounded(rest, *anew, best.other_up, [&](const Axis& axis) { return holds(axis); });
    }
    if (both)
      add({change_of(first, best.value, set.second), change_of(second, best.other, both->second)},
          best.effort, both->first, true);
  }

  /// Whether a lever clears the limit half-way or at its end: a quick look before a close one.
  [[nodiscard]] bool promises(const Lever& lever, bool up) {
    constexpr std::array looks{1.0, 0.5, 0.25};
    return std::any_of(looks.begin(), looks.end(),
                       [&](double share) { return holds(lever.with(moved(lever, share, up))); });
  }

  /// The same lever on another axis; blank where it is not there.
  [[nodiscard]] static Lever on(const Axis& axis, const Lever& lever) {
    for (Lever& one : levers_of(axis, segment_in(lever.id)))
      if (one.id == lever.id) return std::move(one);
    return {};
  }
  [[nodiscard]] static std::size_t segment_in(const std::string& id) {
    if (!id.starts_with("cycle[")) return 0;
    return static_cast<std::size_t>(std::stoul(id.substr(6)));
  }

  /// Of two ways with the same input the lesser one.
  void one_way_each() {
    std::vector<Way> kept;
    for (Way& way : out_.ways) {
      const auto same = [&](const Way& known) {
        return known.changes.size() == 1 && way.changes.size() == 1 &&
               known.changes.front().path == way.changes.front().path &&
               known.changes.front().label == way.changes.front().label;
      };
      if (std::none_of(kept.begin(), kept.end(), same)) kept.push_back(std::move(way));
    }
    out_.ways = std::move(kept);
  }

  void arrange() {
    std::stable_sort(out_.ways.begin(), out_.ways.end(), [](const Way& a, const Way& b) {
      return a.breaks != b.breaks ? b.breaks : a.effort < b.effort;
    });
    one_way_each();
    if (!out_.ways.empty()) {
      out_.stuck.clear();
      return;
    }
    std::stable_sort(out_.stuck.begin(), out_.stuck.end(),
                     [](const auto& a, const auto& b) { return a.best < b.best; });
    const auto percent = [](double used) {
      return std::isfinite(used) ? whole_percent(used) : std::string("none left");
    };
    if (out_.stuck.empty() || !(out_.stuck.front().best < out_.used * (1.0 - 1e-9)))
      out_.sentence = "No input that can be changed here moves this limit: it hangs on the parts themselves.";
    else
      out_.sentence = "Nothing alone, and no pair, brings it down far enough. Nearest came " +
                      out_.stuck.front().label + " at " + out_.stuck.front().at + ": " +
                      percent(out_.stuck.front().best) + " left.";
  }

  const Axis& axis_;
  std::string_view id_;
  const WayOptions& options_;
  WayJudge judge_;
  std::vector<Limit> before_;
  std::vector<Lever> levers_;
  WaysOut out_;
};

} // namespace

Expected<WaysOut> ways_out(const Axis& axis, const Section& house_rules, std::string_view limit,
                           const WayOptions& options) {
  if (const auto wrong = faults(house_rules); !wrong.empty()) return wrong.front();
  return Finder(axis, house_rules, limit, options)();
}

} // namespace fulmox
