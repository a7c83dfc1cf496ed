#pragma once
#include "core/demand/course.hpp"
#include "core/heat/network.hpp"

#include <optional>
#include <string_view>
#include <vector>

namespace fulmox {

/// What keeps the motor's temperature from being worked out, and where it is typed.
struct HeatGap {
  std::string_view reason, input;
};

/// How hot the motor gets in the cycle, repeated until nothing changes any more.
struct MotorHeat {
  std::optional<HeatGap> gap; ///< nothing below holds where there is one
  bool estimated = false;     ///< from the rated point and the mass: data are missing
  ThermalNetwork network;
  Term winding_to_case, case_to_ambient, winding_capacity; ///< of it, with where they come from
  std::vector<HeatSpan> cycle;
  PeriodicHeat steady;
  double hottest_time = 0.0; ///< s, start of the span in which the winding is hottest
  Term hottest;              ///< K, of the winding; ∞ where it runs away
  Term body;                 ///< K, of the case
};

/// Of the motor's copper loss, what a winding at 20 °C would turn into heat.
double cold_share(const Motor& motor);

/// The losses of a cycle in spans, one after another: each lifts the winding by a quarter of a kelvin at
/// most, as a rule, and is short against the winding's time constant, or its losses are constant.
std::vector<HeatSpan> heat_spans(const AxisModel& model, const Course& course, const ThermalNetwork& network);

/// Copper loss counts with the torque constant of the hottest magnets and the winding's temperature at every
/// moment; friction, iron loss and an open brake's coil heat the case. Where thermal data are missing they
/// are estimated from the continuous torque and the mass; of several likely shares the one that makes the
/// winding hottest counts.
MotorHeat work_out_heat(const AxisModel& model, const Course& course, Recorder& recorder);

} // namespace fulmox
