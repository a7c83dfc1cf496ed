#pragma once
#include <string>
#include <string_view>

namespace fulmox {

/// A view of an equal text that lives as long as the program; for ids that are made at run time.
/// Thread-safe. Meant for a bounded set of ids, never for user text.
std::string_view intern(std::string text);

} // namespace fulmox
