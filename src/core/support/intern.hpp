#pragma once
#include <string_view>

namespace fulmox {

/// A view of an equal text that lives as long as the program; for ids that are made at run time.
/// Thread-safe. Meant for a bounded set of ids, never for user text.
std::string_view intern(std::string_view text);
/// The same for two texts in a row and what stands between them.
std::string_view intern(std::string_view head, std::string_view tail, std::string_view between = {});

} // namespace fulmox
