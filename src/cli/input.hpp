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

/// What nothing judges of an axis, on the error output: no answer about it holds for that.
void tell_unjudged(const Document& document, std::size_t axis);

/// The axis of that name or, without a name, the first.
Expected<std::size_t> chosen_axis(const Document& document, const std::string& name);

} // namespace fulmox::cli
