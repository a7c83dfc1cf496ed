#pragma once
#include "app/ribbon/ribbon.hpp"
#include "core/project/section.hpp"

#include <optional>
#include <string>

namespace fulmox::app {

/// What a drag writes: a text typed into a field of the segment.
struct DragEdit {
  std::string field;
  std::string text;
};

/// The value a drag of this grip starts from, in SI.
double drag_start(const Section& segment, Ribbon::Grip grip);

/// The edit for a pointer that moved by `seconds` sideways and `up` pixels; snapped to round values in the
/// unit the user typed. Nothing when the grip does not fit the segment.
std::optional<DragEdit> drag(const Section& segment, Ribbon::Grip grip, double start, double duration,
                             double seconds, double up);

} // namespace fulmox::app
