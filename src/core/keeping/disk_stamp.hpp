#pragma once
#include <cstdint>
#include <filesystem>
#include <optional>

namespace fulmox {

/// A file as it was when it was read or written last.
class DiskStamp {
public:
  DiskStamp() = default;
  explicit DiskStamp(const std::filesystem::path& path);
  /// Whether the file holds something else now. A file that is gone has not changed: saving makes it anew.
  [[nodiscard]] bool outdated() const;

private:
  struct Status {
    std::int64_t seconds = 0, nanoseconds = 0, size = 0;
    std::uint64_t inode = 0;
    bool operator==(const Status&) const = default;
  };
  [[nodiscard]] std::optional<Status> status() const;
  [[nodiscard]] std::optional<std::size_t> content() const;

  std::filesystem::path path_;
  std::optional<Status> status_;
  std::optional<std::size_t> content_; ///< of what it held
};

} // namespace fulmox
