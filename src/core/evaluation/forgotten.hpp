#pragma once
#include "core/evaluation/evaluation.hpp"

#include <string_view>
#include <vector>

namespace fulmox {

/// Something often forgotten that the axis does not answer yet, and the input that would.
struct Forgotten {
  std::string_view id, title, why, input;
};

/// What of the often forgotten concerns this axis and is still open.
std::vector<Forgotten> often_forgotten(const Axis& axis, const Evaluation& evaluation);

} // namespace fulmox
