#include "core/rules/rules.hpp"

#include <stdexcept>

namespace fulmox {
namespace {

template <class T>
const T& found(const std::vector<std::pair<std::string_view, T>>& all, std::string_view id) {
  for (const auto& [known, value] : all)
    if (known == id) return value;
  throw std::out_of_range("no house rule " + std::string(id));
}

} // namespace

Rules::Rules(const Section& house_rules) {
  for (std::size_t i = 0; i < house_rules.size(); ++i) {
    const std::string_view id = house_rules.field(i).id;
    if (house_rules.field(i).type == FieldType::quantity) terms_.emplace_back(id, house_rules.term(id));
    texts_.emplace_back(id, house_rules.text(id));
  }
  attention_ = term("attention");
}

const Term& Rules::term(std::string_view id) const { return found(terms_, id); }
const std::string& Rules::text(std::string_view id) const { return found(texts_, id); }

} // namespace fulmox
