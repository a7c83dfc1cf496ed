#pragma once
#include "core/support/expected.hpp"

#include <functional>

namespace fulmox {

/// Asked now and then by long work: false means that nobody waits for its answer any more.
using Wanted = std::function<bool()>;

inline bool always_wanted() { return true; }

/// The answer of work that was given up.
inline Problem given_up() { return {"", "it was stopped before it was done.", ""}; }

} // namespace fulmox
