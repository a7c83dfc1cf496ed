#pragma once
#include "core/support/process.hpp"

#include <cstdint>
#include <filesystem>
#include <optional>

namespace fulmox {

/// Who holds a lock.
struct LockHolder {
  Process process;
  std::int64_t since = 0; ///< s since 1970
};

/// A file that exists, locked, as long as somebody works on what it stands for. The lock goes with the
/// process, however it ends, so none is ever stale; a file without a lock means nothing and is taken over.
class LockFile {
public:
  LockFile() = default;
  /// Takes the lock; not held() when another holds it or the file cannot be made.
  explicit LockFile(const std::filesystem::path& path);
  ~LockFile() { release(); }
  LockFile(LockFile&& other) noexcept;
  LockFile& operator=(LockFile&& other) noexcept;
  LockFile(const LockFile&) = delete;
  LockFile& operator=(const LockFile&) = delete;

  [[nodiscard]] bool held() const { return handle_ >= 0; }
  [[nodiscard]] const std::filesystem::path& path() const { return path_; }
  void release();

private:
  std::filesystem::path path_;
  int handle_ = -1;
};

/// Who holds the lock of this file, also when it is this process; nothing when nobody does.
std::optional<LockHolder> holder_of(const std::filesystem::path& path);

} // namespace fulmox
