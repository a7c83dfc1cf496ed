#include "core/support/text_file.hpp"

#include "core/support/process.hpp"

#include <cerrno>
#include <cstring>
#include <ctime>
#include <fcntl.h>
#include <fstream>
#include <sys/stat.h>
#include <unistd.h>

namespace fulmox {
namespace {

namespace fs = std::filesystem;

constexpr std::string_view remedy = "Save it under another name or in another folder.";

Problem from_errno(const fs::path& path, const std::string& doing) {
  return {path.string(), doing + ": " + std::strerror(errno) + ".", std::string(remedy)};
}

bool write_all(int file, std::string_view content) {
  while (!content.empty()) {
    const ssize_t written = ::write(file, content.data(), content.size());
    if (written < 0) {
      if (errno == EINTR) continue;
      return false;
    }
    content.remove_prefix(static_cast<std::size_t>(written));
  }
  return true;
}

bool flushed(int file) {
  int result = 0;
  do {
    result = ::fsync(file);
  } while (result != 0 && errno == EINTR);
  return result == 0;
}

/// The file behind any number of symbolic links, also when it is not there yet.
Expected<fs::path> behind_links(const fs::path& path) {
  constexpr int most_links = 40; // as many as the system follows
  fs::path target = path;
  std::error_code error;
  for (int i = 0; i < most_links; ++i) {
    if (!fs::is_symlink(fs::symlink_status(target, error))) return target;
    const fs::path next = fs::read_symlink(target, error);
    if (error) break;
    target = next.is_absolute() ? next : target.parent_path() / next;
  }
  return Problem{path.string(), "this link leads nowhere: it runs in a circle.", std::string(remedy)};
}

/// Why a target cannot take a file's content; its permissions when it can.
Expected<mode_t> permissions_for(const fs::path& path, const fs::path& target) {
  constexpr mode_t usual = 0644;
  struct stat old {};
  if (::stat(target.c_str(), &old) != 0) return usual;
  if (!S_ISREG(old.st_mode))
    return Problem{path.string(),
                   S_ISDIR(old.st_mode) ? "this is a folder." : "this is a device, not a file.",
                   std::string(remedy)};
  const mode_t mode = old.st_mode & 0777;
  if ((mode & 0222) == 0 || ::access(target.c_str(), W_OK) != 0)
    return Problem{path.string(), "the file is write-protected.",
                   "Save it under another name, or allow writing to this file first."};
  return mode;
}

constexpr std::string_view aside_head = ".fulmox-", aside_tail = ".part";

/// Files that writers left behind which were ended before they were done.
void sweep(const fs::path& folder) {
  constexpr std::size_t random = 7; // "-XXXXXX"
  std::error_code error;
  for (fs::directory_iterator entry(folder, error), end; !error && entry != end; entry.increment(error)) {
    std::string name = entry->path().filename().string();
    if (!name.starts_with(aside_head) || !name.ends_with(aside_tail)) continue;
    name = name.substr(aside_head.size(), name.size() - aside_head.size() - aside_tail.size());
    if (name.size() <= random) continue;
    const Process writer = process_from(name.substr(0, name.size() - random));
    std::error_code ignored;
    if (writer.id != 0 && !running(writer)) fs::remove(entry->path(), ignored);
  }
}

/// Makes a rename last beyond a power cut. Some file systems cannot; then there is nothing more to do.
void flush_folder(const fs::path& folder) {
  const int handle = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
  if (handle < 0) return;
  flushed(handle);
  ::close(handle);
}

} // namespace

Expected<std::string> read_text_file(const fs::path& path, std::uintmax_t limit) {
  std::error_code error;
  if (!fs::exists(path, error)) return Problem{path.string(), "there is no such file.", "Check the name."};
  if (!fs::is_regular_file(path, error)) return Problem{path.string(), "this is not a file.", "Name a file."};
  const std::uintmax_t size = fs::file_size(path, error);
  if (error)
    return Problem{path.string(), "the file cannot be read: " + error.message() + ".",
                   "Check its permissions."};
  if (size > limit)
    return Problem{path.string(),
                   "the file has " + std::to_string(size / 1000000) + " MB, more than the " +
                       std::to_string(limit / 1000000) + " MB that are read.",
                   "This is probably another kind of file."};
  std::ifstream in(path, std::ios::binary);
  std::string content(static_cast<std::size_t>(size), '\0');
  if (!in || !in.read(content.data(), static_cast<std::streamsize>(size)))
    return Problem{path.string(), "the file cannot be read.", "Check its permissions."};
  return content;
}

std::optional<Problem> write_text_file(const fs::path& path, std::string_view content) {
  return write_text_file(path, [&](const auto& sink) { sink(content); });
}

std::optional<Problem> write_text_file(const fs::path& path, const TextProducer& produce) {
  const auto target = behind_links(path);
  if (!target) return target.problem();
  const auto mode = permissions_for(path, *target);
  if (!mode) return mode.problem();
  const fs::path folder = target->has_parent_path() ? target->parent_path() : fs::path(".");
  sweep(folder);
  // a name of its own, however long that of the file is
  std::string aside = (folder / (std::string(aside_head) + this_process().text() + "-XXXXXX")).string() +
                      std::string(aside_tail);
  const int file = ::mkostemps(aside.data(), static_cast<int>(aside_tail.size()), O_CLOEXEC);
  if (file < 0) return from_errno(path, "cannot write here");
  const auto give_up = [&](const std::string& doing) {
    auto problem = from_errno(path, doing);
    ::unlink(aside.c_str());
    return problem;
  };
  bool done = true;
  produce([&](std::string_view part) { return done = done && write_all(file, part); });
  done = done && ::fchmod(file, *mode) == 0 && flushed(file);
  const int kept = errno;
  if (::close(file) != 0 || !done) {
    if (!done) errno = kept;
    return give_up("writing failed");
  }
  if (::rename(aside.c_str(), target->c_str()) != 0)
    return give_up("the new file cannot take the place of the old one");
  flush_folder(folder);
  return std::nullopt;
}

} // namespace fulmox
