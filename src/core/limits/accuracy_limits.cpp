#include "core/demand/accuracy.hpp"
#include "core/demand/compliance.hpp"
#include "core/limits/limit.hpp"
#include "core/stops/formulas.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

std::optional<Limit> accuracy(const LimitContext& c) {
  const Kind travel = c.model.load->mechanism->travel();
  const Term& tolerance = c.model.load->asked.tolerance;
  if (std::isnan(tolerance)) return std::nullopt;
  Recorder silent(false); // its steps stand among the results already
  const AccuracyBudget budget = accuracy_budget(c.model, c.axis, c.demand.peak_torque, silent);
  if (budget.shares.empty())
    return missing("Nothing is known yet that makes the load lie off: encoder, play, stiffness.",
                   "motor.encoder");
  const bool by_root = c.rules.text("error_sum") == "root";
  return compare(c, "accuracy", by_root ? budget.root : budget.worst, tolerance, travel,
                 by_root
                     ? "Root of the squares of all known errors; house rules."
                     : "All known errors the same way; house rules. What has no figure counts as nothing.");
}

std::optional<Limit> compliance(const LimitContext& c) {
  const Term& wanted = c.model.load->asked.bandwidth;
  if (std::isnan(wanted)) return std::nullopt;
  Recorder silent(false); // its steps stand among the results already
  const Compliance found = work_out_compliance(c.model, c.axis, silent);
  if (std::isnan(found.antiresonance))
    return missing("No stiffness between motor and load is known.", "coupling.stiffness");
  const Term room = c.recorder.apply(book::bandwidth_left, "compliance.bandwidth",
                                     {found.antiresonance, c.rules.term("bandwidth_share")});
  return compare(
      c, "compliance", wanted, room, Kind::frequency,
      "Above it the load begins to ring under a stiff motor loop. It does not tell whether the loop is "
      "stable.");
}

/// By the bandwidth wanted, or where none is asked by what the springs leave.
std::optional<Limit> settling(const LimitContext& c) {
  const Term& asked = c.model.load->asked.settling;
  if (std::isnan(asked)) return std::nullopt;
  Term bandwidth = c.model.load->asked.bandwidth;
  if (std::isnan(bandwidth)) {
    Recorder silent(false);
    const Compliance found = work_out_compliance(c.model, c.axis, silent);
    if (std::isnan(found.antiresonance))
      return missing("Neither a bandwidth nor the springs that leave one are known.",
                     "requirements.bandwidth");
    bandwidth = c.recorder.apply(book::bandwidth_left, "settling.bandwidth",
                                 {found.antiresonance, c.rules.term("bandwidth_share")});
  }
  return compare(c, "settling", c.recorder.apply(book::settling_time, "settling.time", {bandwidth}), asked,
                 Kind::time,
                 "A loop of that bandwidth to within 2 % of a step; play and a load that rings take longer.");
}

} // namespace

std::span<const LimitSpec> accuracy_limits() {
  static constexpr std::array list{
      LimitSpec{"accuracy", "Accuracy", "How far the load may lie off, against the tolerance asked for.",
                &accuracy, LooksAt::motor, Follows::figures},
      LimitSpec{"compliance", "Bandwidth wanted",
                "Of the speed loop, against what the springs of the train leave.", &compliance,
                LooksAt::motor, Follows::figures},
      LimitSpec{"settling", "Settling time", "Of the loop, against the time asked for.", &settling,
                LooksAt::motor, Follows::figures}};
  return list;
}

} // namespace fulmox
