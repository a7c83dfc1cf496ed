#pragma once
#include "core/study/law_study.hpp"
#include "core/study/ratio_study.hpp"
#include "core/study/sensitivity.hpp"

#include <string>

namespace fulmox::cli {

/// A move under every law: SI values as JSON, or a table.
std::string laws_report(const std::vector<LawChoice>& choices, bool json);
/// The gearhead's ratio swept.
std::string ratio_report(const RatioSweep& sweep, bool json);
/// Which input moves what.
std::string sensitivities_report(const std::vector<Influence>& influences, bool json);

} // namespace fulmox::cli
