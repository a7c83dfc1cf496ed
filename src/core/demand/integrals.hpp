#pragma once
#include "core/demand/spans.hpp"

#include <array>
#include <span>
#include <utility>
#include <vector>

namespace fulmox {

/// Torques at the quadrature nodes of one span: three where three are exact, else seven.
struct SpanTorques {
  std::array<double, 7> values{};
  std::size_t count = 0;
};

/// Integrals over one cycle, exact for piecewise polynomial integrands up to degree 13.
struct CycleIntegrals {
  double torque_squared = 0.0;      ///< N²·m²·s, motor shaft
  double current_squared = 0.0;     ///< A²·s, rms line current
  double turns = 0.0;               ///< rad, motor, without sign
  double speed_squared = 0.0;       ///< rad²/s
  double driven = 0.0;              ///< J put into the shaft
  double returned = 0.0;            ///< J taken back at the shaft, >= 0
  double bus_drawn = 0.0;           ///< J
  double bus_returned = 0.0;        ///< J, >= 0
  double largest_return = 0.0;      ///< J, greatest single stretch of returning without a pause
  double gear_weighted = 0.0;       ///< ∫|T_2|^k·|n_1|dt
  TorqueParts energy;               ///< J, by cause, at the motor shaft
  std::vector<SpanTorques> torques; ///< N·m at the nodes of each span
};

/// Gauss–Legendre nodes on [-1, 1] with weights, rising; 3 or 7 of them.
std::span<const std::pair<double, double>> gauss_rule(std::size_t count = 7);
/// Whether torque runs straight over the span: constant acceleration and nothing that depends on position.
bool span_is_straight(const AxisModel& model, const Span& span);

CycleIntegrals integrate(const AxisModel& model, const std::vector<Span>& spans, double gear_exponent);

} // namespace fulmox
