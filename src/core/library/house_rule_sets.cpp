#include "core/library/house_rule_sets.hpp"

#include "core/form/section_json.hpp"
#include "core/project/document.hpp"
#include "core/support/text_file.hpp"

#include <algorithm>

namespace fulmox {

Expected<std::vector<Section>> load_house_rules(const std::filesystem::path& folder) {
  std::error_code error;
  std::vector<std::filesystem::path> files;
  for (const auto& file : std::filesystem::directory_iterator(folder, error))
    if (file.path().extension() == ".json") files.push_back(file.path());
  if (error)
    return Problem{folder.string(), "the folder cannot be read.", "Reinstall Fulmox, or set FULMOX_DATA."};
  std::sort(files.begin(), files.end());
  std::vector<Section> sets;
  for (const auto& file : files) {
    auto rules = read_house_rules(file);
    if (!rules) return rules.problem();
    sets.push_back(std::move(*rules));
  }
  return sets;
}

Expected<Section> read_house_rules(const std::filesystem::path& file) {
  const auto text = read_text_file(file, 1U << 20U);
  if (!text) return text.problem();
  auto rules = house_rules_from_json(*text);
  if (rules) return rules;
  Problem problem = rules.problem();
  problem.where = file.filename().string() + ": " + problem.where;
  return problem;
}

std::optional<Problem> write_house_rules(const std::filesystem::path& file, const Section& rules) {
  return write_text_file(file, section_json(rules, false).dump(2) + "\n");
}

} // namespace fulmox
