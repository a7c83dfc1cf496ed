#pragma once
#include "core/match/ranking.hpp"

#include <string>
#include <vector>

namespace fulmox::cli {

/// The libraries in the folders named, or what the program ships. What of them cannot be read is told on the
/// error stream, the rest counts; of parts with the same maker and number that of the later folder.
Expected<Library> libraries_in(const std::vector<std::string>& folders);
/// "price=2" and such; the usual weights where there are none.
Expected<Weights> read_weights(const std::vector<std::string>& texts);
/// "motor.kind=Stepper", "price=500", "stock=yes".
Expected<Filter> read_filter(const std::vector<std::string>& texts);

} // namespace fulmox::cli
