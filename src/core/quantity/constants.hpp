#pragma once
#include <numbers>

/// Constants of nature, agreement and geometry; each stands here once.
namespace fulmox::constants {

inline constexpr double pi = std::numbers::pi;
inline constexpr double tau = 2.0 * pi;

inline constexpr double standard_gravity = 9.80665; ///< m/s², exact by convention, ISO 80000-3
inline constexpr double zero_celsius = 273.15; ///< K, exact by definition of the Celsius scale, ISO 80000-5

inline constexpr double inch = 0.0254;      ///< m, exact, international yard and pound agreement 1959
inline constexpr double pound = 0.45359237; ///< kg, exact, same agreement
inline constexpr double ounce = pound / 16.0;
inline constexpr double pound_force = pound * standard_gravity;
inline constexpr double ounce_force = ounce * standard_gravity;

inline constexpr double degree = pi / 180.0; ///< rad
inline constexpr double rpm = tau / 60.0;    ///< rad/s per revolution per minute

/// Copper's resistance rise per kelvin referred to 20 °C: 0.00393 1/K, IEC 60028.
inline constexpr double copper_temperature_coefficient = 0.00393;
inline constexpr double copper_reference = zero_celsius + 20.0; ///< K

} // namespace fulmox::constants
