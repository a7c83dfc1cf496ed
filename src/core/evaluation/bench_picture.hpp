#pragma once
#include "core/demand/axis_model.hpp"

#include <vector>

namespace fulmox {

/// What a bench shows of a motor on its drive at one speed, with a steady torque at its shaft.
struct BenchPoint {
  double speed = 0.0;          ///< rad/s
  double supply_current = 0.0; ///< A from the bus at its nominal voltage
  double efficiency = 0.0;     ///< shaft over bus power
};
struct BenchPicture {
  std::vector<BenchPoint> points; ///< rising in speed from rest, as far as the torque can be made
  bool ends = false;              ///< beyond the last point it cannot: the torque is met there
};
/// Warm winding; nothing where its current or the bus voltage is not known.
BenchPicture bench_picture(const AxisModel& model, double torque);

} // namespace fulmox
