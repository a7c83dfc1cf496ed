#pragma once
#include <map>
#include <string>
#include <string_view>

namespace fulmox {

/// The line, from 1, on which each value of a valid JSON text starts, by JSON pointer ("/axes/0/load").
std::map<std::string, int> json_lines(std::string_view text);

} // namespace fulmox
