#include "core/report/trace_csv.hpp"

#include "core/quantity/constants.hpp"
#include "core/quantity/number_text.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

constexpr double most_rows = 2e8;

void append(std::string& out, double value) { out += "," + number_text(value); }

} // namespace

std::optional<Problem> refuses_step(const Evaluation& evaluation, double step) {
  const double duration = evaluation.model->load->cycle.duration;
  if (!(step > 0.0) || !std::isfinite(step))
    return Problem{"step", "the time between rows must be a positive number of seconds.", "Give 0.001."};
  if (duration / step <= most_rows) return std::nullopt;
  return Problem{"step",
                 "a cycle of " + number_text(duration, 4) + " s gives more than " +
                     number_text(most_rows / 1e6, 4) + " million rows.",
                 "Take at least " + number_text(duration / most_rows, 3) + " s."};
}

void write_trace(const Evaluation& e, double step, const TextSink& sink) {
  const Cycle& cycle = e.model->load->cycle;
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
    constexpr std::size_t portion = 64U * 1024U;
    if (out.size() < portion && i < last) continue;
    if (!sink(out)) return;
    out.clear();
  }
}

} // namespace fulmox
