#include "core/support/small_name.hpp"

#include "core/support/intern.hpp"

#include <array>
#include <mutex>
#include <unordered_map>

namespace fulmox {
namespace {

constexpr std::size_t most_names = 1U << 16U;

/// By place; "" comes first. Whoever knows a place was told it after its text was put there.
std::array<std::string_view, most_names>& texts() {
  static std::array<std::string_view, most_names> all;
  return all;
}

std::uint16_t looked_up(std::string_view text) {
  static std::mutex mutex;
  static std::unordered_map<std::string_view, std::uint16_t> places{{"", 0}};
  const std::string_view kept = intern(text);
  const std::lock_guard lock(mutex);
  if (const auto known = places.find(kept); known != places.end()) return known->second;
  if (places.size() == most_names) return 0;
  const auto place = static_cast<std::uint16_t>(places.size());
  texts()[place] = kept;
  places.emplace(kept, place);
  return place;
}

/// Where a text lay when it was looked up: the same few labels come again and again.
struct Recent {
  const char* data = nullptr;
  std::size_t size = 0;
  std::uint16_t place = 0;
};

} // namespace

std::string_view SmallName::text() const { return texts()[place_]; }

std::uint16_t SmallName::place_of(std::string_view text) {
  if (text.empty()) return 0;
  thread_local std::array<Recent, 64> recent;
  Recent& known = recent[(reinterpret_cast<std::uintptr_t>(text.data()) >> 3U) % recent.size()];
  // what lay there may have been another text that is gone
  if (known.data == text.data() && known.size == text.size() && texts()[known.place] == text)
    return known.place;
  known = {text.data(), text.size(), looked_up(text)};
  return known.place;
}

} // namespace fulmox
