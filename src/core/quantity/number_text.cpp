#include "core/quantity/number_text.hpp"

#include <array>
#include <charconv>
#include <cmath>

namespace fulmox {

std::string number_text(double value, int digits) {
  std::array<char, 40> text{};
  const auto end =
      std::to_chars(text.data(), text.data() + text.size(), value, std::chars_format::general, digits).ptr;
  return {text.data(), end};
}

std::optional<double> read_number(std::string_view text) {
  if (text.starts_with('+') && !text.starts_with("+-")) text.remove_prefix(1);
  double value = 0.0;
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
  if (error != std::errc{} || end != text.data() + text.size() || !std::isfinite(value)) return std::nullopt;
  return value;
}

} // namespace fulmox
