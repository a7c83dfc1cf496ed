#pragma once
#include "core/evaluation/machine.hpp"

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

PartFit fit_of(const AxisResult& result);
/// Tries a part in a slot ("motor") of an axis.
PartFit try_part(Axis axis, std::string_view slot, const Section& part, const Section& house_rules);

} // namespace fulmox
