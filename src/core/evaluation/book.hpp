#pragma once
#include "core/working/formula.hpp"

#include <span>
#include <string_view>

namespace fulmox {

/// Every formula of the program, in the order of the work.
std::span<const Formula* const> formula_book();

/// The formula with this id, or nullptr.
const Formula* find_formula(std::string_view id);

} // namespace fulmox
