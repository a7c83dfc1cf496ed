#include "core/support/series_window.hpp"

#include "core/support/two.hpp"

namespace fulmox {
namespace {

/// x·P_j = ((j + 1)·P_{j+1} + j·P_{j−1})/(2j + 1): what a term takes of the one before it and the one after.
struct Neighbours {
  std::array<double, Series::most_terms + 2> before{}, after{};
  constexpr Neighbours() {
    for (std::size_t j = 0; j < before.size(); ++j) {
      const double n = static_cast<double>(j);
      before[j] = n / (2.0 * n - 1.0);
      after[j] = (n + 1.0) / (2.0 * n + 3.0);
    }
  }
};
constexpr Neighbours neighbours;

} // namespace

/// Bonnet's recursion (k + 1)·P_{k+1} = (2k + 1)·y·P_k − k·P_{k−1} with y = middle + half·x.
void SeriesWindow::know(std::size_t terms) {
  if (known_ == 0) {
    rows_[0].terms()[0] = 1.0;
    rows_[1].terms()[0] = middle_;
    rows_[1].terms()[1] = half_;
    known_ = 2;
  }
  for (; known_ < terms; ++known_) {
    const std::size_t k = known_ - 1;
    const double here = legendre_recursion.a[k] * middle_, beside = legendre_recursion.a[k] * half_,
                 last = legendre_recursion.b[k];
    const double *now = rows_[k].terms(), *before = rows_[k - 1].terms();
    double* next = rows_[k + 1].terms();
    for (std::size_t j = 0; j <= k + 1; j += 2) {
      const Two moved = two_at(&neighbours.before[j]) * two_at(now + j - 1) +
                        two_at(&neighbours.after[j]) * two_at(now + j + 1);
      put(here * two_at(now + j) + beside * moved - last * two_at(before + j), next + j);
    }
  }
}

Series SeriesWindow::operator()(const Series& whole) {
  know(whole.size_);
  Series part;
  part.size_ = whole.size_;
  for (std::size_t j = 0; j < whole.size_; j += 2) {
    Two sum{};
    for (std::size_t k = j; k < whole.size_; ++k) sum += whole.terms_[k] * two_at(rows_[k].terms() + j);
    put(sum, &part.terms_[j]);
  }
  part.trim();
  return part;
}

} // namespace fulmox
