#include "core/report/trace_csv.hpp"

#include "core/quantity/constants.hpp"
#include "core/quantity/number_text.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

void append(std::string& out, double value) { out += "," + number_text(value); }

} // namespace

std::string trace_csv(const Evaluation& e, double step) {
  const Cycle& cycle = e.model->cycle;
  const bool turning = cycle.kinds.rotary();
  const std::string x = turning ? "rad" : "m";
  std::string out = "time [s],position [" + x + "],speed [" + x + "/s],acceleration [" + x + "/s2],jerk [" +
                    x + "/s3],motor speed [rpm],motor acceleration [rad/s2],torque [N.m]";
  for (const TorquePartInfo& part : torque_part_info) out += "," + std::string(part.id) + " [N.m]";
  out += ",shaft power [W],current [A],bus power [W],segment\n";
  const auto rows = static_cast<long>(std::floor(cycle.duration / step * (1.0 + 1e-12)));
  const bool whole = std::abs(static_cast<double>(rows) * step - cycle.duration) < 1e-9 * cycle.duration;
  const long last = whole ? rows : rows + 1;
  for (long i = 0; i <= last; ++i) {
    const double time = std::min(static_cast<double>(i) * step, cycle.duration);
    const Instant now = e.at(time);
    out += number_text(time);
    for (const double value : {now.load.position, now.load.speed.value, now.load.acceleration.value, now.jerk,
                               now.speed / constants::rpm, now.acceleration, now.torque.value})
      append(out, value);
    for (const double part : now.parts.values) append(out, part);
    for (const double value : {now.shaft_power, now.current, now.bus_power}) append(out, value);
    out += "," + std::to_string(cycle.pieces[now.piece].segment + 1) + "\n";
  }
  return out;
}

} // namespace fulmox
