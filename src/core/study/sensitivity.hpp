#pragma once
#include "core/study/quick.hpp"
#include "core/support/wanted.hpp"

#include <vector>

namespace fulmox {

/// How one input moves the numbers that decide.
struct Influence {
  std::string path;   ///< "load.moved_mass"
  std::string label;  ///< "Load, moved mass"
  double value = 0.0; ///< SI
  Kind kind = Kind::number;
  double tolerance = 0.0;       ///< half width, SI
  bool tolerance_typed = false; ///< else a tenth is assumed
  /// Relative change of the result per relative change of the input: 1 means in proportion.
  double peak = 0.0, rms = 0.0, ratio = 0.0;
  /// The results at both ends of the tolerance; NaN where the axis cannot be worked out there.
  double peak_low = 0.0, peak_high = 0.0, rms_low = 0.0, rms_high = 0.0, ratio_low = 0.0, ratio_high = 0.0;
  /// Greatest relative swing of any of the numbers over the tolerance.
  double swing = 0.0;
};

/// Every quantity the user typed, the strongest over its tolerance first. Derivatives are central
/// differences. A zero counts when it carries a tolerance ("0 deg ±2 deg"); it has no relative derivative.
Expected<std::vector<Influence>> sensitivities(const Axis& axis, const Wanted& wanted = always_wanted);

/// The axis with one input at another value; nothing when the path names no quantity.
std::optional<Axis> with_input(const Axis& axis, std::string_view path, double value);

} // namespace fulmox
