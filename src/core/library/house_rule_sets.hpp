#pragma once
#include "core/form/section.hpp"
#include "core/support/expected.hpp"

#include <filesystem>
#include <vector>

namespace fulmox {

/// The sets of house rules in a folder, one JSON file each, by file name. Refuses the first bad file.
Expected<std::vector<Section>> load_house_rules(const std::filesystem::path& folder);

} // namespace fulmox
