#pragma once
#include <string>
#include <string_view>

namespace fulmox {

/// Column, from 1, of the byte `at` of a text, counted in characters as its reader sees them.
std::size_t column_of(std::string_view text, std::size_t at);

/// The beginning of a text as a message shows it: a pasted page is not repeated whole, no character is cut.
std::string shortened(std::string_view text);

} // namespace fulmox
