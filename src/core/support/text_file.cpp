#include "core/support/text_file.hpp"

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <fstream>
#include <sys/stat.h>
#include <unistd.h>

namespace fulmox {
namespace {

Problem from_errno(const std::filesystem::path& path, const std::string& doing, std::string remedy) {
  return {path.string(), doing + ": " + std::strerror(errno) + ".", std::move(remedy)};
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

} // namespace

Expected<std::string> read_text_file(const std::filesystem::path& path, std::uintmax_t limit) {
  std::error_code error;
  if (!std::filesystem::exists(path, error))
    return Problem{path.string(), "there is no such file.", "Check the name."};
  if (!std::filesystem::is_regular_file(path, error))
    return Problem{path.string(), "this is not a file.", "Name a file."};
  const std::uintmax_t size = std::filesystem::file_size(path, error);
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

std::optional<Problem> write_text_file(const std::filesystem::path& path, std::string_view content) {
  // follow a symbolic link: the file behind it is replaced, not the link
  std::error_code error;
  std::filesystem::path target = path;
  if (std::filesystem::is_symlink(path, error)) target = std::filesystem::weakly_canonical(path, error);
  std::string aside = target.string() + ".XXXXXX";
  const int file = ::mkstemp(aside.data());
  const std::string remedy = "Save it under another name or in another folder.";
  if (file < 0) return from_errno(path, "cannot write here", remedy);
  mode_t mode = 0644;
  struct stat old {};
  if (::stat(target.c_str(), &old) == 0) mode = old.st_mode & 0777;
  const bool done = write_all(file, content) && ::fchmod(file, mode) == 0 && ::fsync(file) == 0;
  if (!done) {
    auto problem = from_errno(path, "writing failed", remedy);
    ::close(file);
    ::unlink(aside.c_str());
    return problem;
  }
  ::close(file);
  if (::rename(aside.c_str(), target.c_str()) != 0) {
    auto problem = from_errno(path, "the new file cannot take the place of the old one", remedy);
    ::unlink(aside.c_str());
    return problem;
  }
  return std::nullopt;
}

} // namespace fulmox
