#pragma once
#include <string_view>

namespace fulmox {

/// The line, from 1, on which the value of a JSON pointer ("/axes/0/load") starts in a valid JSON text; 0
/// when there is no such value.
int json_line(std::string_view text, std::string_view pointer);

} // namespace fulmox
