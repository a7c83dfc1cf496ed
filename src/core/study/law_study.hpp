#pragma once
#include "core/study/least_jerk.hpp"
#include "core/study/quick.hpp"
#include "core/support/wanted.hpp"

#include <string_view>
#include <vector>

namespace fulmox {

/// One way to make a move in the time it takes now: peak torque, speed and jerk of the move, rms of the
/// cycle.
struct LawChoice {
  std::string_view law;                        ///< id
  std::string label;                           ///< "Trapezoid, least rms"
  double accel_share = 0.0, decel_share = 0.0; ///< of trapezoids and S-curves, else 0
  std::optional<double> rounding;              ///< of S-curves; nothing leaves what is typed
  QuickNumbers numbers;
  bool present = false; ///< what is typed now
  bool within = true;   ///< keeps the limits on speed and acceleration
  bool least_rms = false, least_peak = false, least_jerk = false;
};

/// The present move beside every law in the same time, and beside the ramp shares of a trapezoid that give
/// the least rms and the least peak torque, and the S-curve of least jerk within the limits. Least of all is
/// marked among those that keep the limits. Only moves from rest to rest can change their law; others get
/// their ramps compared. Refuses when the axis cannot be worked out or the segment is no move.
Expected<std::vector<LawChoice>> compare_laws(const Axis& axis, std::size_t segment,
                                              const MoveLimits& limits = {},
                                              const Wanted& wanted = always_wanted);

/// Types a choice into the segment: law, time, shares; limits are cleared.
void use_law(Section& move, const LawChoice& choice, double time);

} // namespace fulmox
