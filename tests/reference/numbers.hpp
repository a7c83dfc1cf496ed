#pragma once
#include <cstdio>
#include <numbers>
#include <string>

/// What the checks count with, apart from what the program counts with.
namespace fulmox::testing {

inline constexpr double pi = std::numbers::pi;
inline constexpr double rpm = 2.0 * pi / 60.0; ///< rad/s per revolution per minute

/// A number as text that is read back to the last bit.
inline std::string exact(double value) {
  char text[40];
  std::snprintf(text, sizeof text, "%.17g", value);
  return text;
}

} // namespace fulmox::testing
