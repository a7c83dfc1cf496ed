#pragma once
#include "core/project/document.hpp"

#include <string>

namespace fulmox::cli {

// What the program returns to the shell.
inline constexpr int good = 0;
inline constexpr int bad_input = 1;
inline constexpr int wrong_usage = 2;

/// Tells a problem on the error stream; the code to return.
int fail(const Problem& problem);

/// The axis of that name or, without a name, the first.
Expected<std::size_t> chosen_axis(const Document& document, const std::string& name);

} // namespace fulmox::cli
