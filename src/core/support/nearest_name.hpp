#pragma once
#include <span>
#include <string_view>

namespace fulmox {

/// Of some names the one that was most likely meant by another: few letters differ (Levenshtein distance), or
/// one holds the other whole, or they begin alike. "" where none comes near.
std::string_view nearest_name(std::string_view written, std::span<const std::string_view> known);

} // namespace fulmox
