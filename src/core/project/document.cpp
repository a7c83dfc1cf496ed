#include "core/project/document.hpp"

#include "core/plan/pace.hpp"
#include "core/requirements/duty.hpp"
#include "core/rules/house_rules.hpp"

namespace fulmox {

Document::Document() : house_rules(house_rules_section()), duty(duty_section()), pace(pace_section()) {
  for (const MachineListSpec* list : machine_lists()) lists[std::string(list->id)];
}

void number_sections(Document& document) {
  for (auto& [id, sections] : document.lists)
    for (std::size_t i = 0; i < sections.size(); ++i) sections[i].path = id + "[" + std::to_string(i) + "]";
  for (Axis& axis : document.axes) number_sections(axis);
}

std::vector<Problem> machine_faults(const Document& document) {
  std::vector<Problem> all = faults(document.house_rules);
  for (const Section* section : {&document.duty, &document.pace})
    for (Problem& fault : faults(*section)) all.push_back(std::move(fault));
  for (const auto& [id, sections] : document.lists)
    for (const Section& section : sections)
      for (Problem& fault : faults(section)) all.push_back(std::move(fault));
  return all;
}

const Section* find_section(const Document& document, std::size_t axis, std::string_view path) {
  if (path == document.house_rules.path) return &document.house_rules;
  if (path == document.duty.path) return &document.duty;
  if (path == document.pace.path) return &document.pace;
  const auto list = document.lists.find(path.substr(0, path.find('[')));
  if (list != document.lists.end())
    for (const Section& section : list->second)
      if (section.path == path) return &section;
  return axis < document.axes.size() ? find_section(document.axes[axis], path) : nullptr;
}

Section* find_section(Document& document, std::size_t axis, std::string_view path) {
  return const_cast<Section*>(find_section(std::as_const(document), axis, path));
}

std::string describe_path(const Document& document, std::size_t axis, std::string_view path) {
  const auto dot = path.substr(0, path.find(' ')).rfind('.');
  if (dot == std::string_view::npos) return {};
  const Section* section = find_section(document, axis, path.substr(0, dot));
  return section != nullptr ? describe_path(*section, path.substr(dot + 1)) : std::string();
}

} // namespace fulmox
