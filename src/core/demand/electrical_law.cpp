#include "core/demand/electrical_law.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

ElectricalLaw::ElectricalLaw(const AxisModel& model) : bends_(model.motor->bends()) {
  const Motor& motor = *model.motor;
  std::sort(bends_.begin(), bends_.end());
  read(turning_, [&](double torque) { return motor.current(torque); });
  read(at_rest_, [&](double torque) { return motor.rest_current(torque); });
  const double once = motor.copper(1.0), twice = motor.copper(2.0);
  copper_none_ = motor.copper(0.0);
  copper_squared_ = 0.5 * (twice - 2.0 * once + copper_none_);
  copper_straight_ = once - copper_none_ - copper_squared_;
  drive_none_ = model.drive->loss(0.0);
  drive_straight_ = model.drive->loss(1.0) - drive_none_;
}

template <class Current> void ElectricalLaw::read(Lines& lines, const Current& current) const {
  for (std::size_t i = 0; i <= bends_.size(); ++i) {
    const double from = i == 0 ? 0.0 : bends_[i - 1];
    const double to = i < bends_.size() ? bends_[i] : from > 0.0 ? 2.0 * from : 1.0; // straight for ever
    const double first = current(from);
    lines.push_back({from, first, to > from ? (current(to) - first) / (to - from) : 0.0});
  }
}

Series ElectricalLaw::amperes(const Series& air_gap, bool at_rest) const {
  if (air_gap.size() == 0) return {}; // no current
  const Lines& lines = at_rest ? at_rest_ : turning_;
  const double middle = air_gap(0.0);
  std::size_t place = 0;
  while (place < bends_.size() && std::abs(middle) > bends_[place]) ++place;
  const auto& [torque, current, slope] = lines[place];
  Series out = air_gap;
  out *= middle < 0.0 ? -slope : slope;
  out += current - slope * torque;
  return out;
}

} // namespace fulmox
