#pragma once
#include "app/ribbon/ribbon.hpp"
#include "core/motion/cycle.hpp"

#include <string>

namespace fulmox::app {

/// What a drag writes: a text typed into a field of the segment.
struct DragEdit {
  std::string field;
  std::string text;
};

/// The texts for a pointer that moved by `seconds` sideways and `up` pixels; snapped to round values in the
/// unit the user typed. The shape of a move stays; what would contradict the dragged value (a typed peak
/// speed) is cleared. Empty when the grip does not fit the segment.
std::vector<DragEdit> drag(const Section& segment, Ribbon::Grip grip, const Ribbon::DragStart& start,
                           double seconds, double up);

} // namespace fulmox::app
