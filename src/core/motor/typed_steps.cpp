#include "core/motor/typed_steps.hpp"

#include <array>
#include <cctype>
#include <cmath>

namespace fulmox {
namespace {

constexpr std::array<std::string_view, 2> of_steps{"steps/s", "step/s"};
constexpr std::array<std::string_view, 3> of_pulses{"pulses/s", "pulse/s", "pps"};

bool letter(char c) {
  return std::isalnum(static_cast<unsigned char>(c)) != 0 || static_cast<unsigned char>(c) >= 0x80;
}

/// Length of the unit that stands at a place by itself; 0 where none does.
template <class Words> std::size_t met(std::string_view text, std::size_t at, const Words& words) {
  if (at > 0 && std::isalpha(static_cast<unsigned char>(text[at - 1])) != 0) return 0;
  for (const std::string_view word : words) {
    const std::size_t end = at + word.size();
    if (text.substr(at).starts_with(word) && (end == text.size() || !letter(text[end]))) return word.size();
  }
  return 0;
}

/// Whether what stands before a unit, back to the start of its point of a curve, is one number: of "2+3
/// steps/s" the division would take the 3 alone.
bool after_a_number(std::string_view before) {
  const auto start = before.find_last_of(";:");
  const std::string_view number = before.substr(start == before.npos ? 0 : start + 1);
  return number.find_first_of("0123456789") != number.npos &&
         number.find_first_not_of("0123456789., ") == number.npos;
}

std::string a_turn(double count) {
  char text[40];
  std::snprintf(text, sizeof text, "/%.10g rev/s", count);
  return text;
}

} // namespace

double full_steps_of(const Section& motor) {
  constexpr double of_five_phases = 10.0, of_two = 4.0; // a tooth
  if (!motor.has("teeth")) return std::nan("");
  return motor.term("teeth") * (motor.is("five_phase") ? of_five_phases : of_two);
}

std::string steps_as_turns(std::string_view text, double full_steps, double pulses) {
  std::string out;
  for (std::size_t at = 0; at < text.size();) {
    const std::size_t steps = std::isnan(full_steps) ? 0 : met(text, at, of_steps);
    const std::size_t counted = std::isnan(pulses) ? 0 : met(text, at, of_pulses);
    if (steps + counted == 0 || !after_a_number(out)) {
      out += text[at++];
      continue;
    }
    while (!out.empty() && out.back() == ' ') out.pop_back();
    out += a_turn(steps > 0 ? full_steps : pulses);
    at += steps + counted;
  }
  return out;
}

} // namespace fulmox
