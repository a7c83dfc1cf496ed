#pragma once
#include "core/support/series.hpp"

namespace fulmox {

/// Two places −1 <= from < to <= 1, between which several series are cut out. How the Legendre polynomials of
/// the whole look in those of the part is worked out once for all of them.
class SeriesWindow {
public:
  SeriesWindow(double from, double to) : middle_(0.5 * (from + to)), half_(0.5 * (to - from)) {}

  /// The curve between the two places, as a polynomial on −1 … 1 of its own.
  [[nodiscard]] Series operator()(const Series& whole);

private:
  void know(std::size_t terms);

  /// P_k(middle + half·x) in P_0(x) … P_k(x); zeros before and behind, so that two are taken at once.
  struct Row {
    std::array<double, Series::most_terms + 4> padded{};
    [[nodiscard]] double* terms() { return padded.data() + 1; }
  };
  double middle_, half_;
  std::array<Row, Series::most_terms> rows_;
  std::size_t known_ = 0; ///< how many rows are worked out
};

} // namespace fulmox
