#pragma once
#include "core/motion/cycle.hpp"

#include <vector>

namespace fulmox {

/// The same segment the other way: distance, speed of a run or recorded positions with the other sign.
/// Payload and process force stay: they belong to the work, not to the direction.
Section mirrored(const Section& segment);
/// Whether mirroring changes this kind of segment.
bool can_mirror(const Section& segment);

/// Two moves of half the way in half the time each, with a stop between them.
std::vector<Section> halved(const Section& move);

/// Cuts a segment in two at `tau` seconds after its start (0 < tau < its time) so that the motion and the
/// process force stay what they were. Trapezoids, runs and dwells can be cut anywhere; other laws and
/// recorded profiles are refused with what to do instead.
/// `cycle` must have been built from `segments`.
Expected<std::vector<Section>> cut(const Cycle& cycle, std::span<const Section> segments, std::size_t index,
                                   double tau);

/// A handy moment near `tau` to cut at: a corner of the motion when one is close, else a round figure.
double handy_cut(const Cycle& cycle, std::size_t index, double tau);

} // namespace fulmox
