#include "core/keeping/disk_stamp.hpp"

#include "core/project/document.hpp"
#include "core/support/text_file.hpp"

#include <functional>
#include <sys/stat.h>

namespace fulmox {

DiskStamp::DiskStamp(const std::filesystem::path& path)
    : path_(path), status_(status()), content_(content()) {}

std::optional<DiskStamp::Status> DiskStamp::status() const {
  struct stat about {};
  if (path_.empty() || ::stat(path_.c_str(), &about) != 0) return std::nullopt;
  return Status{about.st_mtim.tv_sec, about.st_mtim.tv_nsec, about.st_size, about.st_ino};
}

std::optional<std::size_t> DiskStamp::content() const {
  if (path_.empty()) return std::nullopt;
  const auto text = read_text_file(path_, document_size_limit);
  return text ? std::optional(std::hash<std::string>{}(*text)) : std::nullopt;
}

bool DiskStamp::outdated() const {
  const auto now = status();
  if (!now || now == status_) return false;
  return content() != content_; // touched or copied back is not changed
}

} // namespace fulmox
