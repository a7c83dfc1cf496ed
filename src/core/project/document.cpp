#include "core/project/document.hpp"

#include "core/limits/house_rules.hpp"

namespace fulmox {

Document::Document() : house_rules(house_rules_section()) {}

} // namespace fulmox
