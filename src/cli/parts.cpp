#include "cli/parts.hpp"

#include "cli/limit_json.hpp"

#include "core/evaluation/part_fit.hpp"
#include "core/library/catalogue.hpp"
#include "core/support/data_folder.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

namespace fulmox::cli {
namespace {

using Json = nlohmann::ordered_json;
using Tried = std::vector<std::pair<const Section*, PartFit>>;

Json json_of(const Tried& tried) {
  Json all = Json::array();
  for (const auto& [part, fit] : tried) {
    Json missed = Json::array();
    for (const PartFit::Missed& limit : fit.missed)
      missed.push_back(
          {{"limit", limit.label}, {"used", std::isfinite(limit.used) ? Json(limit.used) : Json()}});
    all.push_back({{"part_number", part->text("part_number")},
                   {"fits", fit.fits()},
                   {"used", std::isfinite(fit.used) ? Json(fit.used) : Json()},
                   {"worst", fit.worst},
                   {"broken", missed},
                   {"problem", fit.problem.what.empty() ? Json() : Json(fit.problem.text())}});
  }
  return all;
}

std::string table_of(const Tried& tried) {
  std::string out = fmt::format("{:<24}{:>10}  {}\n", "part", "used", "decided by");
  for (const auto& [part, fit] : tried) {
    std::string why = fit.problem.what.empty() ? std::string(fit.worst) : fit.problem.text();
    for (std::size_t i = 1; i < fit.missed.size(); ++i)
      why += fmt::format(", {} {}", fit.missed[i].label, percent_used(fit.missed[i].used));
    const std::string used = std::isnan(fit.used) ? "–" : percent_used(fit.used);
    out += fmt::format("{:<24}{:>10}  {}\n", part->text("part_number"), (fit.fits() ? "" : "✕ ") + used, why);
  }
  return out;
}

} // namespace

Expected<std::string> parts_report(const Document& document, const Axis& axis, const std::string& slot,
                                   bool json) {
  std::string known;
  for (const SlotSpec* one : axis_part_slots()) known += (known.empty() ? "" : ", ") + std::string(one->id);
  const auto library = load_library(data_folder() / "library");
  if (!library) return library.problem();
  if (library->of(slot).empty())
    return Problem{"--slot", "no library has parts for '" + slot + "'.", "Use one of: " + known + "."};
  Tried tried;
  PartTrial trial(axis, slot, document.house_rules);
  for (const Section& part : library->of(slot)) tried.emplace_back(&part, trial(part));
  std::stable_sort(tried.begin(), tried.end(),
                   [](const auto& a, const auto& b) { return a.second.rank() < b.second.rank(); });
  return json ? json_of(tried).dump(2) + "\n" : table_of(tried);
}

} // namespace fulmox::cli
