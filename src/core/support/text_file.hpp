#pragma once
#include "core/support/expected.hpp"

#include <cstdint>
#include <filesystem>
#include <functional>
#include <optional>
#include <string>
#include <string_view>

namespace fulmox {

/// The whole content of a file of at most `limit` bytes; refuses missing, unreadable and larger ones.
Expected<std::string> read_text_file(const std::filesystem::path& path, std::uintmax_t limit);

/// Replaces a file by a new content in one step (write aside, flush to disk, rename, flush the folder).
/// Follows symbolic links; refuses folders, devices and write-protected files. Removes what writers that were
/// killed have left in the folder.
std::optional<Problem> write_text_file(const std::filesystem::path& path, std::string_view content);
/// Takes one part of a long text after the other; false ends it.
using TextSink = std::function<bool(std::string_view)>;
/// The same for a content that is made part by part: `produce` hands each to the sink it is given.
using TextProducer = std::function<void(const TextSink&)>;
std::optional<Problem> write_text_file(const std::filesystem::path& path, const TextProducer& produce);

} // namespace fulmox
