#pragma once
#include <numbers>

/// What the checks count with, apart from what the program counts with.
namespace fulmox::testing {

inline constexpr double pi = std::numbers::pi;
inline constexpr double rpm = 2.0 * pi / 60.0; ///< rad/s per revolution per minute

} // namespace fulmox::testing
