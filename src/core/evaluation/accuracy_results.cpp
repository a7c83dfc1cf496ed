#include "core/evaluation/accuracy_results.hpp"

#include "core/demand/accuracy.hpp"

#include <cmath>

namespace fulmox {

void add_accuracy_results(const Axis& axis, const AxisModel& model, const Demand& demand, Recorder& recorder,
                          std::vector<ResultValue>& results) {
  const auto add = [&](std::string_view id, std::string_view label, std::string_view symbol,
                       std::string_view help, Kind kind, const Term& value) {
    if (!std::isnan(value))
      results.push_back({id, label, symbol, help, kind, value, value.ref, ResultGroup::train});
  };
  const Compliance springs = work_out_compliance(model, axis, recorder);
  add("compliance.antiresonance", "Antiresonance", "f_a",
      "At which the load swings while the motor stands: the loop should stay well below. What has no "
      "stiffness typed "
      "counts as rigid.",
      Kind::frequency, springs.antiresonance);
  add("compliance.resonance", "Resonance", "f_r", "Of motor against load.", Kind::frequency,
      springs.resonance);
  const Kind travel = model.load->mechanism->travel();
  const AccuracyBudget budget = accuracy_budget(model, axis, demand.peak_torque, recorder);
  add("accuracy.resolution", "Step at the load", "Δx",
      "A count of the encoder, or a microstep, through all ratios.", travel, budget.resolution);
  for (const ErrorShare& share : budget.shares)
    if (share.id != "accuracy.count" && share.id != "accuracy.backlash" && share.id != "accuracy.wind_up")
      add(share.id, share.label, "e", "A share in how far the load may lie off, to either side.", travel,
          share.size);
  add("accuracy.worst", "Off at most", "e_w",
      "All known errors the same way. What has no figure counts as nothing.", travel, budget.worst);
  add("accuracy.root", "Off by chance", "e_r", "Root of the squares of the known errors.", travel,
      budget.root);
}

} // namespace fulmox
