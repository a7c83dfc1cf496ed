#pragma once
#include "core/evaluation/evaluation.hpp"
#include "core/project/document.hpp"

#include <string>
#include <string_view>

namespace fulmox {

/// A text as the cell of a Markdown table: no line breaks, bars escaped.
std::string sheet_cell(std::string_view text);

/// The worksheet of a machine as Markdown: givens with their origin, results, limits, second look, and the
/// working behind the main numbers. An axis that cannot be worked out is printed with the reason.
std::string worksheet(const Document& document);

} // namespace fulmox
