#include "core/support/intern.hpp"

#include <algorithm>
#include <array>
#include <cstdint>
#include <cstring>
#include <mutex>
#include <string>
#include <unordered_set>

namespace fulmox {
namespace {

struct TextHash {
  using is_transparent = void;
  std::size_t operator()(std::string_view text) const { return std::hash<std::string_view>{}(text); }
};

/// A number that differs for most pairs, from the ends of the first and the place of the second; only for
/// remembering where to look first.
std::size_t slot_of(std::string_view head, std::string_view tail) {
  std::uint64_t first = 0, last = 0;
  const std::size_t some = std::min(head.size(), sizeof first);
  if (some > 0) { // copying nothing from nowhere is not allowed
    std::memcpy(&first, head.data(), some);
    std::memcpy(&last, head.data() + head.size() - some, some);
  }
  constexpr std::uint64_t spread = 0x9e3779b97f4a7c15; // 2⁶⁴ over the golden ratio: mixes all bits upwards
  std::uint64_t mark = (first ^ head.size()) * spread;
  mark = (mark ^ (mark >> 32) ^ last) * spread;
  mark = (mark ^ (mark >> 32) ^ reinterpret_cast<std::uintptr_t>(tail.data())) * spread;
  return static_cast<std::size_t>(mark >> 40);
}

} // namespace

std::string_view intern(std::string_view text) {
  static std::mutex mutex;
  static std::unordered_set<std::string, TextHash, std::equal_to<>> pool; // node-based: elements never move
  const std::lock_guard lock(mutex);
  const auto found = pool.find(text);
  return found != pool.end() ? *found : *pool.emplace(text).first;
}

std::string_view intern(std::string_view head, std::string_view tail, std::string_view between) {
  // every evaluation names its steps like the one before it, and tails stand where they stood: most are found
  // where they were put, without hashing the whole
  thread_local std::array<std::string_view, 4096> recent{};
  std::string_view& known = recent[slot_of(head, tail) % recent.size()];
  if (known.size() == head.size() + between.size() + tail.size() && known.starts_with(head) &&
      known.ends_with(tail) && known.substr(head.size(), between.size()) == between)
    return known;
  thread_local std::string whole; // grows to the longest id and stays
  whole = head;
  whole += between;
  whole += tail;
  known = intern(whole);
  return known;
}

} // namespace fulmox
