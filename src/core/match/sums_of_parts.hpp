#pragma once
#include "core/match/search.hpp"

#include <array>
#include <span>
#include <vector>

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

/// What adds up over the parts of many combinations: a figure of each part in rows, read once.
class SumsOfParts {
public:
  /// `figure` of a part that is one; where there is none it is nothing.
  template <class Figure> SumsOfParts(const MatchSpace& space, const Figure& figure) {
    const auto row = [&](const std::vector<PartChoice>& parts) {
      std::vector<double> figures;
      figures.reserve(parts.size());
      for (const PartChoice& part : parts) figures.push_back(part.none() ? 0.0 : figure(part));
      return figures;
    };
    rows_ = {row(space.motors), row(space.heads), row(space.brakes), row(space.couplings), row(space.drives)};
  }
  SumsOfParts(const MatchSpace& space, double PartChoice::*what)
      : SumsOfParts(space, [what](const PartChoice& part) { return part.*what; }) {}

  /// In the order of sum_of(): the same to the last bit.
  double operator()(const Combination& parts) const {
    return rows_[0][parts.motor] + rows_[1][parts.head] + rows_[2][parts.brake] + rows_[3][parts.coupling] +
           rows_[4][parts.drive];
  }

private:
  std::array<std::vector<double>, 5> rows_;
};

} // namespace fulmox
