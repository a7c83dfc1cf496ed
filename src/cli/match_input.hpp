#pragma once
#include "core/match/ranking.hpp"

#include <optional>
#include <string>
#include <vector>

namespace fulmox::cli {

/// The libraries in the folders named, or what the program ships. What of them cannot be read is told on the
/// error stream, the rest counts; of parts with the same maker and number that of the later folder.
Expected<Library> libraries_in(const std::vector<std::string>& folders);
/// "price=2" and such; the usual weights where there are none.
Expected<Weights> read_weights(const std::vector<std::string>& texts);
/// "drive.bus_max=60 V", "price=500", "stock=yes".
Expected<Filter> read_filter(const std::vector<std::string>& texts);
/// A value that no part which is tried has: most likely it is written otherwise.
std::optional<Problem> filters_nothing(const Filter& filter, const MatchSpace& space);

} // namespace fulmox::cli
