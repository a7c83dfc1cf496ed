#pragma once
#include "core/project/axis.hpp"
#include "core/support/expected.hpp"

#include <exception>
#include <utility>

namespace fulmox {

/// The border between the core and a program: no input should make the core throw, but should one, the
/// program says so with the axis named, and lives on.
template <class Work> auto guarded(const Axis& axis, const Work& work) -> decltype(work()) {
  try {
    return work();
  } catch (const std::exception& error) {
    return Problem{"", "axis \"" + axis.name + "\" could not be worked out (" + error.what() + ").",
                   "This is a fault of the program, not of the input. Undo the last change to go on."};
  }
}

} // namespace fulmox
