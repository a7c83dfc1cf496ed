#pragma once
#include "core/form/field.hpp"
#include "core/motion/law.hpp"

#include <string_view>

namespace fulmox {

/// A recorded motion and the smooth curve through it: cubic pieces with continuous speed and acceleration.
struct FittedProfile {
  std::vector<double> time, recorded, fitted, slope; ///< s, m or rad, per second
  double residual_rms = 0.0, residual_max = 0.0;     ///< between record and curve
};

/// Points of a record that are fitted: each becomes a piece of the cycle.
inline constexpr std::size_t most_recorded = 20'000;

/// Cubic smoothing spline (Reinsch 1967): of all curves within the rms deviation of the record the one with
/// the least ∫a²dt; through every point when the deviation is 0. First and last position are kept; with
/// `rest`, speed starts and ends at zero. Refuses fewer than four points and more
/// than most_recorded.
Expected<FittedProfile> fit_profile(const std::vector<CurvePoint>& record, double deviation, bool rest);

/// Rms by which neighbouring points of a record scatter about a smooth motion, in the unit of the positions:
/// from the third divided differences of any four points in a row, which a parabola does not have. A noise to
/// smooth by; too high where the record is so coarse that its jerk shows between four points. 0 for fewer
/// than four points.
double scatter_of(const std::vector<CurvePoint>& record);

/// The fitted curve as pieces, cut where the motion turns round.
MovePlan plan_of(const FittedProfile& fitted);

/// What two CSV columns hold, and the units they have when the header names none.
struct CsvPair {
  Kind first, second;
  std::string first_unit, second_unit;
  std::size_t least_rows = 2;
  std::size_t most_rows = most_recorded;
};
/// Time and position of a recorded profile.
CsvPair profile_columns(const MotionKinds& kinds);
/// Position and process force or torque.
CsvPair process_columns(const MotionKinds& kinds);

/// Reads two columns from the text of a CSV file as a text for a field of points. Units come from the header
/// ("time [ms], position (mm)"), else the usual ones. Commas, semicolons, tabs or blanks separate. The first
/// column must rise. Refuses with line and column.
Expected<std::string> points_from_csv(std::string_view text, const CsvPair& columns);

} // namespace fulmox
