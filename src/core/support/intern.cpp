#include "core/support/intern.hpp"

#include <mutex>
#include <string>
#include <unordered_set>

namespace fulmox {
namespace {

struct TextHash {
  using is_transparent = void;
  std::size_t operator()(std::string_view text) const { return std::hash<std::string_view>{}(text); }
};

} // namespace

std::string_view intern(std::string_view text) {
  static std::mutex mutex;
  static std::unordered_set<std::string, TextHash, std::equal_to<>> pool; // node-based: elements never move
  const std::lock_guard lock(mutex);
  const auto found = pool.find(text);
  return found != pool.end() ? *found : *pool.emplace(text).first;
}

std::string_view intern(std::string_view head, std::string_view tail) {
  thread_local std::string whole; // grows to the longest id and stays: most are known already
  whole = head;
  whole += tail;
  return intern(whole);
}

} // namespace fulmox
