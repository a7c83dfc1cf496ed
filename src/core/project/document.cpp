#include "core/project/document.hpp"

#include "core/rules/house_rules.hpp"

#include <utility>

namespace fulmox {

Document::Document() : house_rules(house_rules_section()) {}

const Section* find_section(const Document& document, std::size_t axis, std::string_view path) {
  if (path == document.house_rules.path) return &document.house_rules;
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
