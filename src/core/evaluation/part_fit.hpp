#pragma once
#include "core/evaluation/machine.hpp"

#include <optional>
#include <string>
#include <vector>

namespace fulmox {

/// How an axis would do with another part in one of its slots.
struct PartFit {
  /// A limit that the axis would break.
  struct Missed {
    std::string_view label;
    double used = 0.0; ///< demand over capacity, > 1
  };

  double used = 0.0;          ///< of the worst limit; NaN when none can be judged
  std::string_view worst;     ///< that limit's label
  std::vector<Missed> missed; ///< the worst first
  Problem problem;            ///< what keeps the axis from being worked out; empty `what` = nothing

  [[nodiscard]] bool fits() const { return used <= 1.0; }
  /// For ordering: those that fit come first, the tightest at the top; then those that do not, the nearest
  /// first; last what cannot be judged.
  [[nodiscard]] double rank() const;
};

/// A model judged, what was asked of it and how it runs.
struct JudgedAxis {
  Verdict verdict;
  Demand demand;
  Course course;
};
/// Judges a model by numbers alone: the same judges as in evaluate(), without their words. The axis is the
/// one the model was made from.
JudgedAxis judge_all(const AxisModel& model, const Axis& axis, const Rules& rules);
Verdict verdict_of(const AxisModel& model, const Axis& axis, const Rules& rules);

/// Tries parts in a slot ("motor") of an axis, one after the other. What lies before gearhead and motor is
/// worked out once for all of them.
class PartTrial {
public:
  PartTrial(Axis axis, std::string_view slot, const Section& house_rules);
  /// Never throws, a fault of the program included.
  PartFit operator()(const Section& part);

private:
  [[nodiscard]] bool changes_load() const;

  Axis axis_;
  std::string slot_;
  Problem problem_; ///< of axis or rules, whatever the part
  std::optional<Rules> rules_;
  std::shared_ptr<const LoadSide> load_;
};

} // namespace fulmox
