#pragma once
#include "core/project/document.hpp"
#include "core/support/expected.hpp"

#include <string>

namespace fulmox::cli {

/// The smallest changes that clear a limit, or every red and tight one where none is named.
Expected<std::string> ways_report(const Document& document, const Axis& axis, const std::string& limit,
                                  bool json);
/// How far each input may go until the first limit is reached.
Expected<std::string> headroom_report(const Document& document, const Axis& axis, bool json);

} // namespace fulmox::cli
