#include "cli/match_input.hpp"

#include "core/library/catalogue.hpp"
#include "core/quantity/number_text.hpp"
#include "core/support/data_folder.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <iostream>

namespace fulmox::cli {
namespace {

/// "price=2" → its two halves, the first one of those known.
Expected<std::pair<std::string, std::string>> halves(const std::string& text, const std::string& option,
                                                     const std::vector<std::string>& known) {
  const auto equals = text.find('=');
  const std::string id = text.substr(0, equals);
  if (equals == std::string::npos || std::find(known.begin(), known.end(), id) == known.end())
    return Problem{option, "'" + text + "' is none of what it takes.",
                   fmt::format("Write name=value with one of: {}.", fmt::join(known, ", "))};
  return std::pair{id, text.substr(equals + 1)};
}

} // namespace

Expected<Library> libraries_in(const std::vector<std::string>& folders) {
  if (folders.empty()) return load_library(data_folder() / "library");
  std::vector<PartSource> sources;
  sources.reserve(folders.size());
  for (const std::string& folder : folders) sources.push_back({folder, folder});
  const Catalogue catalogue = Catalogue::load(std::move(sources));
  const Library library = catalogue.library();
  std::vector<Problem> troubles;
  for (const Catalogue::Trouble& trouble : catalogue.troubles()) {
    troubles.push_back(trouble.problem);
    const std::string& folder = catalogue.sources()[trouble.source].name;
    std::string& where = troubles.back().where;
    if (folders.size() > 1 && where != folder) where = folder + ", " + where; // each has its "motors.csv"
  }
  const bool no_motor = library.of("motor").empty() && !troubles.empty();
  for (std::size_t i = no_motor ? 1 : 0; i < troubles.size(); ++i) // the first is what is returned then
    std::cerr << "fulmox-cli: " << troubles[i].text() << "\n";
  if (no_motor) return troubles.front();
  return library;
}

Expected<Weights> read_weights(const std::vector<std::string>& texts) {
  if (texts.empty()) return usual_weights();
  std::vector<std::string> known;
  for (const Yardstick& yardstick : yardsticks()) known.emplace_back(yardstick.id);
  Weights weights;
  for (const std::string& text : texts) {
    const auto split = halves(text, "--weight", known);
    if (!split) return split.problem();
    const auto number = read_number(split->second);
    if (!number || !(*number >= 0.0) || !std::isfinite(*number))
      return Problem{"--weight", "'" + split->second + "' is no weight.", "Give a number from 0 up."};
    weights[split->first] = *number;
  }
  return weights;
}

Expected<Filter> read_filter(const std::vector<std::string>& texts) {
  std::vector<std::string> known{"price", "stock"};
  for (const Facet& facet : facets()) known.emplace_back(facet.id);
  Filter filter;
  for (const std::string& text : texts) {
    const auto split = halves(text, "--only", known);
    if (!split) return split.problem();
    if (split->first == "stock") {
      if (split->second != "yes")
        return Problem{"--only", "'" + split->second + "' says nothing about the stock.", "Write stock=yes."};
      filter.in_stock = true;
      continue;
    }
    if (split->first != "price") {
      filter.of[split->first].insert(split->second);
      continue;
    }
    const auto number = read_number(split->second);
    if (!number || !(*number >= 0.0))
      return Problem{"--only", "'" + split->second + "' is no price.", "Give the most it may cost."};
    filter.most_price = *number;
  }
  return filter;
}

std::optional<Problem> filters_nothing(const Filter& filter, const MatchSpace& space) {
  for (const Facet& facet : facets()) {
    const auto wanted = filter.of.find(facet.id);
    if (wanted == filter.of.end()) continue;
    const auto known = values_of(space, facet);
    for (const std::string& value : wanted->second)
      if (!known.contains(value))
        return Problem{"--only", fmt::format("no part has {} '{}'.", facet.id, value),
                       fmt::format("There are: {}.", fmt::join(known, "; "))};
  }
  return std::nullopt;
}

} // namespace fulmox::cli
