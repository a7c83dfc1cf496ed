#include "core/quantity/trade_units.hpp"

#include <array>
#include <cctype>

namespace fulmox {
namespace {

struct TradeUnit {
  Kind kind;
  std::string_view written;
  std::string_view means;
};

// longer ones before those they begin with
constexpr std::array units{
    TradeUnit{Kind::torque, "oz-in", "ozfin"},      TradeUnit{Kind::torque, "oz.in", "ozfin"},
    TradeUnit{Kind::torque, "oz·in", "ozfin"},      TradeUnit{Kind::torque, "ozin", "ozfin"},
    TradeUnit{Kind::torque, "in-oz", "ozfin"},      TradeUnit{Kind::torque, "in-lb", "lbfin"},
    TradeUnit{Kind::torque, "in.lb", "lbfin"},      TradeUnit{Kind::torque, "in·lb", "lbfin"},
    TradeUnit{Kind::torque, "lb-in", "lbfin"},      TradeUnit{Kind::torque, "lb.in", "lbfin"},
    TradeUnit{Kind::torque, "lb·in", "lbfin"},      TradeUnit{Kind::torque, "lbin", "lbfin"},
    TradeUnit{Kind::torque, "ft-lb", "lbfft"},      TradeUnit{Kind::torque, "ft.lb", "lbfft"},
    TradeUnit{Kind::torque, "ft·lb", "lbfft"},      TradeUnit{Kind::torque, "lb-ft", "lbfft"},
    TradeUnit{Kind::torque, "lb.ft", "lbfft"},      TradeUnit{Kind::torque, "lb·ft", "lbfft"},
    TradeUnit{Kind::torque, "kg-cm", "kgfcm"},      TradeUnit{Kind::torque, "kg.cm", "kgfcm"},
    TradeUnit{Kind::torque, "kg·cm", "kgfcm"},      TradeUnit{Kind::acceleration, "g", "gn"},
    TradeUnit{Kind::angular_speed, "1/min", "rpm"}, TradeUnit{Kind::angular_speed, "/min", " rpm"},
    TradeUnit{Kind::angular_speed, "r/min", "rpm"}, TradeUnit{Kind::angular_speed, "min^-1", "rpm"},
    TradeUnit{Kind::angular_speed, "min⁻¹", "rpm"}, TradeUnit{Kind::angular_speed, "min-1", "rpm"},
    TradeUnit{Kind::angular_speed, "rps", "rev/s"}};

bool part_of_a_word(char c) {
  return std::isalnum(static_cast<unsigned char>(c)) != 0 || static_cast<unsigned char>(c) >= 0x80 ||
         c == '%';
}

/// Whether what is written at a place stands for itself: not within a word, its digit not that of a number.
bool stands_alone(std::string_view text, std::size_t at, const TradeUnit& unit) {
  const std::size_t after = at + unit.written.size();
  if (after < text.size() && (part_of_a_word(text[after]) || text[after] == '^')) return false;
  if (at == 0 || unit.written.front() == '/') return true;
  const char before = text[at - 1];
  if (unit.written.front() == '1') return before == ' ';
  return std::isalpha(static_cast<unsigned char>(before)) == 0 && static_cast<unsigned char>(before) < 0x80 &&
         before != '.' && before != '/';
}

} // namespace

std::string as_trade_writes(std::string_view text, Kind kind) {
  std::string out;
  for (std::size_t at = 0; at < text.size();) {
    const TradeUnit* met = nullptr;
    for (const TradeUnit& unit : units)
      if (met == nullptr && unit.kind == kind && text.substr(at).starts_with(unit.written) &&
          stands_alone(text, at, unit))
        met = &unit;
    if (met != nullptr) {
      out += met->means;
      at += met->written.size();
    } else {
      out += text[at++];
    }
  }
  return out;
}

} // namespace fulmox
