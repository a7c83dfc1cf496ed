#pragma once
#include "core/support/expected.hpp"

#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>
#include <string_view>

namespace fulmox {

/// The whole content of a file of at most `limit` bytes; refuses missing, unreadable and larger ones.
Expected<std::string> read_text_file(const std::filesystem::path& path, std::uintmax_t limit);

/// Replaces a file by a new content in one step (write aside, flush to disk, rename).
std::optional<Problem> write_text_file(const std::filesystem::path& path, std::string_view content);

} // namespace fulmox
