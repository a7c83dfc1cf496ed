#pragma once
#include <cstdint>
#include <ostream>
#include <string_view>

namespace fulmox {

/// A text in two bytes, for names of which there are some hundred and that millions of values tell: labels of
/// limits, ids of fields. Each is kept once, for the whole run of the program. Safe in all threads.
class SmallName {
public:
  SmallName() = default; ///< ""
  /// Not more than 65,535 different ones: a text that comes later is told as "".
  SmallName(std::string_view text) : place_(place_of(text)) {}
  SmallName(const char* text) : SmallName(std::string_view(text)) {}

  [[nodiscard]] std::string_view text() const;
  operator std::string_view() const { return text(); }
  [[nodiscard]] bool empty() const { return place_ == 0; }
  bool operator==(const SmallName&) const = default;
  bool operator==(std::string_view other) const { return text() == other; }
  bool operator==(const char* other) const { return text() == other; }
  friend std::ostream& operator<<(std::ostream& out, const SmallName& name) { return out << name.text(); }

private:
  static std::uint16_t place_of(std::string_view text);

  std::uint16_t place_ = 0;
};

} // namespace fulmox
