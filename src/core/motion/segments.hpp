#pragma once
#include "core/form/section.hpp"
#include "core/motion/motion_kinds.hpp"

#include <span>

namespace fulmox {

/// The forms of the kinds of segment ("move", "run", "dwell", "profile", "repeat", "end"), in the units of a
/// motion.
std::span<const SectionSpec> segment_specs(const MotionKinds& kinds);
const SectionSpec* find_segment_spec(std::string_view id, const MotionKinds& kinds = along_a_line);

} // namespace fulmox
