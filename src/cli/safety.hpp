#pragma once
#include "core/project/document.hpp"
#include "core/support/expected.hpp"

#include <string>

namespace fulmox::cli {

/// Every limit as typed and at the corners of the typed spreads.
Expected<std::string> corners_report(const Document& document, const Axis& axis, bool json);
/// What is often forgotten and still open.
Expected<std::string> forgotten_report(const Document& document, const Axis& axis, bool json);
/// Temperatures over the steady cycle and from cold, and what intermittent duty allows.
Expected<std::string> heat_report(const Document& document, const Axis& axis, bool json);

} // namespace fulmox::cli
