#pragma once
#include "core/match/search.hpp"

#include <array>
#include <span>

namespace fulmox {

/// The parts of a combination; where there is none, nothing.
inline std::array<const PartChoice*, 5> parts_of(const MatchSpace& s, const Trial& t) {
  return {&s.motors[t.parts.motor], &s.heads[t.parts.head], &s.brakes[t.parts.brake],
          &s.couplings[t.parts.coupling], &s.drives[t.parts.drive]};
}

inline double sum_of(std::span<const PartChoice* const> parts, double PartChoice::*what) {
  double sum = 0.0;
  for (const PartChoice* part : parts)
    if (!part->none()) sum += part->*what;
  return sum;
}
inline double sum_of(const MatchSpace& s, const Trial& t, double PartChoice::*what) {
  return sum_of(parts_of(s, t), what);
}

} // namespace fulmox
