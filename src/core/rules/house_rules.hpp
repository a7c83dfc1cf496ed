#pragma once
#include "core/form/section.hpp"

#include <span>

namespace fulmox {

/// A threshold that a house sets for itself: its field with what is usual, why, and what it decides. The
/// form, the files and the sets that are shipped follow from these; a file from before a rule existed takes
/// the usual value. Used through `term` and `text` of the section, by the field's id.
struct HouseRule {
  FieldSpec field;
  std::string_view decides; ///< what is judged or worked out by it, in words
};

std::span<const HouseRule> all_house_rules();
/// Adds one; to be called before the first set of rules is made. What is already there stays.
void register_house_rule(HouseRule rule);

/// The form of a set of house rules: name, reason, and every rule.
const SectionSpec& house_rules_section();

} // namespace fulmox
