#pragma once
#include "core/load/piece_csv.hpp"
#include "core/project/axis.hpp"

#include <optional>
#include <string>
#include <vector>

namespace fulmox {

// CSV texts into an axis. Each leaves the axis as it was when it refuses; what it refuses names line and
// column.

/// Recorded time and position into a profile segment.
std::optional<Problem> import_profile(Axis& axis, std::size_t segment, std::string_view text);
/// Process force or torque over position into a segment that moves or stands.
std::optional<Problem> import_process(Axis& axis, std::size_t segment, std::string_view text);
/// Appends pieces to the load.
std::optional<Problem> import_pieces(Axis& axis, std::string_view text, RotationAxis about);

/// What of that file did not count though it may be meant to, in words; where the load goes along a line,
/// only the masses count anyway.
std::vector<std::string> import_remarks(const Axis& axis, std::string_view text, RotationAxis about);

} // namespace fulmox
