#pragma once
#include "core/project/document.hpp"
#include "core/support/expected.hpp"

#include <string>

namespace fulmox::cli {

/// Every part of the shipped library tried in a slot of an axis, the best first: JSON with all limits that a
/// part breaks, or a table.
Expected<std::string> parts_report(const Document& document, const Axis& axis, const std::string& slot,
                                   bool json);

} // namespace fulmox::cli
