#pragma once
#include "core/limits/limit.hpp"

#include <string>
#include <vector>

namespace fulmox {

/// An axis with one possible meaning of what its data sheets leave open.
struct ReadingVariant {
  std::string told; ///< "Kt refers to peak ampere, Ke refers to line-line peak"
  Axis axis;
};
/// Every combination of what blank choices may mean (which ampere, which volt, which winding); none where
/// everything is said. Of a Kt and a Ke that are both open only what agrees within 5 % is kept, where
/// anything does: one motor has both.
std::vector<ReadingVariant> reading_variants(const Axis& axis);

/// Judges the limits of an axis at each possible reading and leaves the worst: a verdict must not hang on a
/// guess. The rule names the reading and how much the readings differ; a limit that another reading decides
/// has no step of its own.
void judge_readings(const LimitContext& context, std::vector<Limit>& limits);
/// The same for a verdict.
void judge_readings(const LimitContext& context, Verdict& verdict);

} // namespace fulmox
