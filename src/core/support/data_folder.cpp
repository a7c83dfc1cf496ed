#include "core/support/data_folder.hpp"

#include <cstdlib>

namespace fulmox {

std::filesystem::path data_folder() {
  if (const char* given = std::getenv("FULMOX_DATA"); given != nullptr && *given != '\0') return given;
  std::error_code error;
  const auto program = std::filesystem::read_symlink("/proc/self/exe", error);
  return program.parent_path().parent_path() / "share" / "fulmox";
}

} // namespace fulmox
