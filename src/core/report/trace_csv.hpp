#pragma once
#include "core/evaluation/evaluation.hpp"

#include <string>

namespace fulmox {

/// Everything about the cycle at even steps of time, as CSV with units in the header; SI but rpm and kg·cm².
/// `step` > 0 in s; the last moment of the cycle is always there.
std::string trace_csv(const Evaluation& evaluation, double step);

} // namespace fulmox
