#include "core/support/intern.hpp"

#include <mutex>
#include <unordered_set>

namespace fulmox {

std::string_view intern(std::string text) {
  static std::mutex mutex;
  static std::unordered_set<std::string> pool; // node-based: elements never move
  const std::lock_guard lock(mutex);
  return *pool.insert(std::move(text)).first;
}

} // namespace fulmox
