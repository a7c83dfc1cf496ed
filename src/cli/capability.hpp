#pragma once
#include "core/project/document.hpp"
#include "core/support/expected.hpp"

#include <string>

namespace fulmox::cli {

/// What an axis can press with over its speed, or at one speed ("20 mm/s"; "" for the curve).
Expected<std::string> capability_report(const Document& document, const Axis& axis, const std::string& speed,
                                        bool json);
/// Supply current and efficiency of its motor over speed with a torque at the shaft ("0.2 N.m"; "" for none).
Expected<std::string> bench_report(const Document& document, const Axis& axis, const std::string& torque,
                                   bool json);

} // namespace fulmox::cli
