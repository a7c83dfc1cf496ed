#include "app/session/rule_sets.hpp"

#include "core/library/house_rule_sets.hpp"
#include "core/project/axis.hpp"

#include <QStandardPaths>

#include <algorithm>
#include <cctype>

namespace fulmox::app {

std::optional<Problem> RuleSets::load(const std::filesystem::path& shipped) {
  auto rules = load_house_rules(shipped);
  if (!rules) return rules.problem();
  sets_ = std::move(*rules);
  std::error_code none;
  for (const auto& file : std::filesystem::directory_iterator(own_folder(), none))
    if (file.path().extension() == ".json")
      if (auto own = read_house_rules(file.path())) offer(std::move(*own));
  return std::nullopt;
}

void RuleSets::offer(Section rules) {
  const auto same = std::find_if(sets_.begin(), sets_.end(),
                                 [&](const Section& set) { return set.text("name") == rules.text("name"); });
  if (same != sets_.end())
    *same = std::move(rules);
  else
    sets_.push_back(std::move(rules));
}

std::filesystem::path RuleSets::own_folder() {
  return std::filesystem::path(
             QStandardPaths::writableLocation(QStandardPaths::AppConfigLocation).toStdString()) /
         "house-rules";
}

std::optional<Problem> RuleSets::keep(Section rules) {
  rules.unknown.clear();
  if (const auto wrong = faults(rules); !wrong.empty()) return wrong.front();
  std::string file;
  for (const char c : rules.text("name")) file += std::isalnum(static_cast<unsigned char>(c)) != 0 ? c : '-';
  if (file.empty()) return Problem{"house_rules.name", "a set needs a name.", "Type one."};
  std::error_code error;
  std::filesystem::create_directories(own_folder(), error);
  if (auto problem = write_house_rules(own_folder() / (file + ".json"), rules)) return problem;
  offer(std::move(rules));
  return std::nullopt;
}

} // namespace fulmox::app
