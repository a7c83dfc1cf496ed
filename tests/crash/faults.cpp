#include "crash/faults.hpp"

#include <atomic>
#include <cerrno>
#include <csignal>
#include <cstdarg>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <sys/types.h>
#include <unistd.h>

namespace {

std::atomic<bool> armed{false};
std::atomic<long> calls{0};
long fault_at = 0;
bool refusing = false;

/// Whether this call is to be refused; does not return from one that is to be the last.
bool refused() {
  if (!armed || ++calls != fault_at) return false;
  if (!refusing) ::kill(::getpid(), SIGKILL);
  errno = ENOSPC;
  return true;
}

} // namespace

// The linker sends the calls of the program's own objects here (--wrap).
extern "C" {
int __real_open(const char* path, int flags, ...);
int __real_mkostemps(char* name, int tail, int flags);
ssize_t __real_write(int file, const void* data, size_t size);
int __real_fchmod(int file, mode_t mode);
int __real_fsync(int file);
int __real_close(int file);
int __real_rename(const char* from, const char* to);

int __wrap_open(const char* path, int flags, ...) {
  va_list arguments;
  va_start(arguments, flags);
  const mode_t mode = (flags & O_CREAT) != 0 ? va_arg(arguments, mode_t) : 0;
  va_end(arguments);
  return refused() ? -1 : __real_open(path, flags, mode);
}
int __wrap_mkostemps(char* name, int tail, int flags) {
  return refused() ? -1 : __real_mkostemps(name, tail, flags);
}
ssize_t __wrap_write(int file, const void* data, size_t size) {
  // half of it arrives: a torn write is the worst a crash leaves
  if (!armed || size < 2) return refused() ? -1 : __real_write(file, data, size);
  const ssize_t half = __real_write(file, data, size / 2);
  if (half < 0 || refused()) return -1;
  const ssize_t rest =
      __real_write(file, static_cast<const char*>(data) + half, size - static_cast<size_t>(half));
  return rest < 0 ? half : half + rest;
}
int __wrap_fchmod(int file, mode_t mode) { return refused() ? -1 : __real_fchmod(file, mode); }
int __wrap_fsync(int file) { return refused() ? -1 : __real_fsync(file); }
int __wrap_close(int file) {
  const bool failing = refused();
  const int result = __real_close(file);
  if (failing) errno = ENOSPC;
  return failing ? -1 : result;
}
int __wrap_rename(const char* from, const char* to) { return refused() ? -1 : __real_rename(from, to); }
}

namespace fulmox::testing {

void arm_faults() {
  if (const char* at = std::getenv("FULMOX_FAULT_AT")) fault_at = std::atol(at);
  if (const char* kind = std::getenv("FULMOX_FAULT")) refusing = std::strcmp(kind, "fail") == 0;
  armed = true;
}
void disarm_faults() { armed = false; }
long calls_made() { return calls; }

} // namespace fulmox::testing
