#pragma once
#include <optional>
#include <string>
#include <string_view>

namespace fulmox {

// Numbers in files: always with a decimal point, whatever the language of the system says.

/// The shortest text of up to `digits` significant figures (1 to 17).
std::string number_text(double value, int digits = 9);

/// The whole text as one finite number; nothing when it is anything else.
std::optional<double> read_number(std::string_view text);

} // namespace fulmox
