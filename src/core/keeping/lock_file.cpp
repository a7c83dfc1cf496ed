#include "core/keeping/lock_file.hpp"

#include <ctime>
#include <fcntl.h>
#include <fstream>
#include <string>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>
#include <utility>

namespace fulmox {
namespace {

/// Whether the path still names the file behind the handle: it may have been removed while we waited.
bool still_there(int handle, const std::filesystem::path& path) {
  struct stat held {
  }, named{};
  return ::fstat(handle, &held) == 0 && ::stat(path.c_str(), &named) == 0 && held.st_ino == named.st_ino &&
         held.st_dev == named.st_dev;
}

} // namespace

LockFile::LockFile(const std::filesystem::path& path) : path_(path) {
  for (int tries = 0; tries < 20; ++tries) {
    const int handle = ::open(path.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0644);
    if (handle < 0) return;
    if (::flock(handle, LOCK_EX | LOCK_NB) != 0) {
      ::close(handle);
      return;
    }
    if (!still_there(handle, path)) { // removed by its last holder just now: take the next one
      ::close(handle);
      continue;
    }
    const std::string text = this_process().text() + "\n" + std::to_string(std::time(nullptr)) + "\n";
    // who holds it is told to others only; the lock holds without
    if (::ftruncate(handle, 0) != 0 || ::write(handle, text.data(), text.size()) < 0)
      ::lseek(handle, 0, SEEK_SET);
    handle_ = handle;
    return;
  }
}

LockFile::LockFile(LockFile&& other) noexcept
    : path_(std::move(other.path_)), handle_(std::exchange(other.handle_, -1)) {}

LockFile& LockFile::operator=(LockFile&& other) noexcept {
  if (this == &other) return *this;
  release();
  path_ = std::move(other.path_);
  handle_ = std::exchange(other.handle_, -1);
  return *this;
}

void LockFile::release() {
  if (handle_ < 0) return;
  ::unlink(path_.c_str()); // before the lock goes: who waits for it looks again
  ::close(std::exchange(handle_, -1));
}

std::optional<LockHolder> holder_of(const std::filesystem::path& path) {
  const int handle = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
  if (handle < 0) return std::nullopt;
  const bool free = ::flock(handle, LOCK_SH | LOCK_NB) == 0;
  ::close(handle);
  if (free) return std::nullopt;
  std::ifstream in(path);
  std::string process;
  LockHolder holder;
  std::getline(in, process);
  in >> holder.since;
  holder.process = process_from(process);
  return holder;
}

} // namespace fulmox
