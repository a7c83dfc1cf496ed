#pragma once
#include "core/evaluation/evaluation.hpp"
#include "core/support/text_file.hpp"

#include <optional>

namespace fulmox {

/// Why the cycle cannot be written at even steps of this length, s: no step, or more rows than anything
/// reads.
std::optional<Problem> refuses_step(const Evaluation& evaluation, double step);

/// Everything about the cycle at even steps of time, as CSV with units in the header; SI but rpm and kg·cm².
/// `step` as refuses_step() lets it pass; the last moment of the cycle is always there. Written as it is
/// made: it may be longer than the memory.
void write_trace(const Evaluation& evaluation, double step, const TextSink& sink);

} // namespace fulmox
