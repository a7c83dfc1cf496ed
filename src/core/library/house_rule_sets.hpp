#pragma once
#include "core/form/section.hpp"
#include "core/support/expected.hpp"

#include <filesystem>
#include <optional>
#include <vector>

namespace fulmox {

/// The sets of house rules in a folder, one JSON file each, by file name. Refuses the first bad file.
Expected<std::vector<Section>> load_house_rules(const std::filesystem::path& folder);

/// One set from a file; says where and what is wrong with it.
Expected<Section> read_house_rules(const std::filesystem::path& file);
/// Writes a set atomically.
std::optional<Problem> write_house_rules(const std::filesystem::path& file, const Section& rules);

} // namespace fulmox
