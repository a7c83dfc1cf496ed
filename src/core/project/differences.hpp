#pragma once
#include "core/project/document.hpp"

namespace fulmox {

/// One input that two states of a machine have different.
struct Difference {
  std::string axis;          ///< its name; "" for the machine itself
  std::string input;         ///< in the user's words: "Load, moved mass"
  std::string before, after; ///< as typed; "" for nothing
};

/// What differs, in the order of the forms; axes and list members are compared by their place.
std::vector<Difference> differences(const Document& before, const Document& after);

} // namespace fulmox
