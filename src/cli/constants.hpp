#pragma once
#include "core/support/expected.hpp"

#include <string>
#include <vector>

namespace fulmox::cli {

/// One constant in every reading: "kt_rms=0.5", bare numbers SI. Flux linkages need the pole pairs.
Expected<std::string> constants_report(const std::string& given, const std::string& pole_pairs, bool json);

} // namespace fulmox::cli
