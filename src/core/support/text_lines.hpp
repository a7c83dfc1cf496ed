#pragma once
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// Without white space at both ends.
std::string trimmed(std::string_view text);

struct TextLine {
  int number = 0; ///< from 1
  std::string_view text;
};

/// The lines of a text, ends of line of any system.
std::vector<TextLine> text_lines(std::string_view text);

} // namespace fulmox
