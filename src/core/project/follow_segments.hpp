#pragma once
#include "core/project/document.hpp"

namespace fulmox {

/// Blocks that wait for the end of one segment of another cycle tell it by its number. Where segments were
/// put in, cut, moved or taken out on the way from `before` to `now`, the numbers follow their segments. A
/// segment that is gone gives way to the one before it, which ends where it began.
void follow_segments(const Document& before, Document& now);

} // namespace fulmox
