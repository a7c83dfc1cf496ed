#pragma once
#include "core/rotation/torque_parts.hpp"
#include "core/working/recorder.hpp"

namespace fulmox {

/// What a shaft must do at one instant.
struct ShaftState {
  Term speed;        ///< rad/s
  Term acceleration; ///< rad/s²
  Term torque;       ///< N·m, into the mechanism
  TorqueParts parts; ///< sums to the torque
  double direction = 0.0;
  /// Changes sign where the power crossing the efficiency does; integrals are split there.
  double crossing_power = 0.0;
  /// Changes sign where the load turns round though its shaft does not (a crank); integrals are split there.
  double load_speed = 0.0;
};

} // namespace fulmox
