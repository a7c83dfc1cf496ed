#include "core/support/utf8.hpp"

#include <algorithm>

namespace fulmox {
namespace {

bool continues_character(char c) { return (static_cast<unsigned char>(c) & 0xC0U) == 0x80U; }

} // namespace

std::size_t column_of(std::string_view text, std::size_t at) {
  const std::string_view before = text.substr(0, at);
  return 1 + before.size() -
         static_cast<std::size_t>(std::count_if(before.begin(), before.end(), continues_character));
}

std::string shortened(std::string_view text) {
  constexpr std::size_t most = 40;
  if (text.size() <= most) return std::string(text);
  std::size_t end = most;
  while (end > 0 && continues_character(text[end])) --end;
  return std::string(text.substr(0, end)) + "…";
}

} // namespace fulmox
