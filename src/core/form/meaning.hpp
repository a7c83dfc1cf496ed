#pragma once
#include "core/form/section.hpp"

#include <span>

namespace fulmox {

/// A choice of a part's form that says what one of its numbers means: which ampere, which volt, which
/// winding.
struct Meaning {
  std::string_view slot, number, choice; ///< the slot's path and fields of its form
};
std::span<const Meaning> meanings();

/// Whether the sheet of a part in its slot tells the number but leaves its meaning open.
bool leaves_open(const Section& part, const Meaning& meaning);
/// The same of any of them.
bool leaves_open(const Section& part);

} // namespace fulmox
