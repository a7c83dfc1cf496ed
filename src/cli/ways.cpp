#include "cli/ways.hpp"

#include "cli/limit_json.hpp"

#include "core/evaluation/evaluation.hpp"
#include "core/library/catalogue.hpp"
#include "core/support/data_folder.hpp"
#include "core/ways/ways_out.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>

namespace fulmox::cli {
namespace {

using Json = nlohmann::ordered_json;

std::string change_of(double value) {
  return std::isfinite(value) ? fmt::format(" ({:+.0f} %)", 100.0 * value) : "";
}

/// Every input that is typed otherwise: a change may stand for several, as the times of all moves do.
Json typed_json(const Axis& before, const Axis& after) {
  Json typed = Json::object();
  const auto compare = [&](const Section& was, const Section& is) {
    if (was.content() == is.content() || &was.spec() != &is.spec()) return;
    for (std::size_t i = 0; i < is.size(); ++i)
      if (was.entry(i).text != is.entry(i).text)
        typed[is.path + "." + std::string(is.field(i).id)] = is.entry(i).text;
  };
  for (std::size_t i = 0; i < before.givens.size(); ++i) compare(before.givens[i], after.givens[i]);
  for (const ListInfo& list : section_lists()) {
    const std::vector<Section>&was = before.*list.member, &is = after.*list.member;
    for (std::size_t i = 0; i < std::min(was.size(), is.size()); ++i) compare(was[i], is[i]);
  }
  return typed;
}

Json way_json(const Way& way, const Axis& axis) {
  Json changes = Json::array(), worse = Json::array();
  for (const WayChange& change : way.changes)
    changes.push_back({{"input", change.path},
                       {"label", change.label},
                       {"from", change.from},
                       {"to", change.to},
                       {"share", finite(change.share)},
                       {"guessed", change.guessed}});
  for (const Moved& moved : way.worse)
    worse.push_back(
        {{"limit", moved.limit}, {"before", finite(moved.before)}, {"after", finite(moved.after)}});
  return {{"changes", changes}, {"typed", typed_json(axis, way.axis)}, {"used", finite(way.used)},
          {"worse", worse},     {"breaks_another", way.breaks},        {"about", way.about}};
}

Json json_of(const WaysOut& out, const Axis& axis) {
  Json ways = Json::array(), stuck = Json::array();
  for (const Way& way : out.ways) ways.push_back(way_json(way, axis));
  for (const auto& one : out.stuck)
    stuck.push_back({{"input", one.label}, {"best", finite(one.best)}, {"at", one.at}});
  return {{"limit", out.limit}, {"used", finite(out.used)}, {"wanted", out.wanted},
          {"ways", ways},       {"nearest", stuck},         {"sentence", out.sentence}};
}

std::string text_of(const Way& way) {
  std::string out = way.about ? "  about: " : "  ";
  for (std::size_t i = 0; i < way.changes.size(); ++i) {
    const WayChange& change = way.changes[i];
    out += fmt::format("{}{} {} → {}{}{}", i > 0 ? " and " : "", change.label, change.from, change.to,
                       change_of(change.share), change.guessed ? ", a guess: measure it first" : "");
  }
  out += fmt::format(": {}", percent_used(way.used));
  for (std::size_t i = 0; i < way.worse.size(); ++i)
    out += fmt::format("{}{} {} → {}", i == 0 ? "; worse: " : ", ", way.worse[i].limit,
                       percent_used(way.worse[i].before), percent_used(way.worse[i].after));
  return out + (way.breaks ? "  ✕ breaks another limit\n" : "\n");
}

std::string text_of(const WaysOut& out) {
  std::string text = fmt::format("{} ({}), {} of {}\n", out.label, out.limit, percent_used(out.used),
                                 percent_used(out.wanted));
  if (out.used <= out.wanted) return text + "  clear\n";
  for (const Way& way : out.ways) text += text_of(way);
  if (!out.sentence.empty()) text += "  " + out.sentence + "\n";
  return text;
}

} // namespace

Expected<std::string> ways_report(const Document& document, const Axis& axis, const std::string& limit,
                                  bool json) {
  const auto library = load_library(data_folder() / "library");
  if (!library) return library.problem();
  const auto evaluation = evaluate(axis, document.house_rules);
  if (!evaluation) return evaluation.problem();
  std::vector<std::string> wanted;
  if (!limit.empty()) wanted.push_back(limit);
  for (const Limit& one : evaluation->limits)
    if (limit.empty() && (one.state == LimitState::over || one.state == LimitState::tight))
      wanted.emplace_back(one.id);
  WayOptions options;
  options.library = &*library;
  Json all = Json::array();
  std::string text;
  for (const std::string& id : wanted) {
    const auto found = ways_out(axis, document.house_rules, id, options);
    if (!found) return found.problem();
    json ? all.push_back(json_of(*found, axis)) : static_cast<void>(text += text_of(*found));
  }
  if (json) return all.dump(2) + "\n";
  return text.empty() ? "Every limit is clear; fulmox-cli headroom tells how much room is left.\n" : text;
}

Expected<std::string> headroom_report(const Document& document, const Axis& axis, bool json) {
  const auto rooms = headroom(axis, document.house_rules);
  if (!rooms) return rooms.problem();
  Json all = Json::array();
  std::string text;
  for (const Room& room : *rooms) {
    all.push_back({{"input", room.path},
                   {"label", room.label},
                   {"from", room.from},
                   {"to", room.to},
                   {"share", finite(room.share)},
                   {"limit", room.limit},
                   {"unlimited", room.unlimited}});
    text +=
        fmt::format("{:<40}{:>14} → {:<12}{:<12} {}\n", room.label, room.from, room.to, change_of(room.share),
                    room.unlimited ? "no limit within that" : "then " + std::string(room.limit));
  }
  return json ? all.dump(2) + "\n" : text;
}

} // namespace fulmox::cli
