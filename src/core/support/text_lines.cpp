#include "core/support/text_lines.hpp"

#include <algorithm>

namespace fulmox {

std::string trimmed(std::string_view text) {
  constexpr std::string_view blank = " \t\r\n";
  const auto first = text.find_first_not_of(blank);
  if (first == std::string_view::npos) return {};
  return std::string(text.substr(first, text.find_last_not_of(blank) - first + 1));
}

std::vector<TextLine> text_lines(std::string_view text) {
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3); // spreadsheets write a byte order mark
  std::vector<TextLine> lines;
  std::size_t from = 0;
  while (from < text.size()) {
    const auto to = std::min(text.find('\n', from), text.size());
    std::string_view line = text.substr(from, to - from);
    if (line.ends_with('\r')) line.remove_suffix(1);
    lines.push_back({static_cast<int>(lines.size()) + 1, line});
    from = to + 1;
  }
  return lines;
}

} // namespace fulmox
