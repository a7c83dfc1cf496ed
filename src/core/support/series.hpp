#pragma once
#include <boost/container/static_vector.hpp>

#include <array>
#include <cmath>
#include <cstddef>
#include <span>

namespace fulmox {

/// A polynomial on −1 … 1, written in Legendre polynomials. Made from its values at as many Gauss points as
/// it has terms, which also integrate it: one set of looks at a curve gives the curve, its roots, its
/// extremes and its integrals. |P_k| <= 1 there, so the sum of |terms| bounds it without looking.
class Series {
public:
  static constexpr std::size_t most_terms = 16;
  using Places = boost::container::static_vector<double, most_terms + 2>;

  Series() = default;
  /// The polynomial of degree n − 1 through n values at the n points of gauss_rule(n), 1 <= n <= most_terms.
  static Series through(std::span<const double> values);

  [[nodiscard]] double operator()(double u) const;
  /// Its values at the points of gauss_rule(n), 1 <= n <= most_terms.
  void at_gauss(std::size_t points, double* values) const;
  [[nodiscard]] Series derivative() const;
  /// ∫ from −1 to u; at most most_terms − 1 terms.
  [[nodiscard]] Series antiderivative() const;
  /// The same curve between two places, −1 <= from < to <= 1, as a polynomial on −1 … 1 of its own.
  [[nodiscard]] Series part(double from, double to) const;
  [[nodiscard]] std::size_t size() const { return size_; }
  /// The mean over −1 … 1; every value lies within bound() − |mean()| of it.
  [[nodiscard]] double mean() const { return terms_[0]; }
  /// No magnitude on −1 … 1 is greater.
  [[nodiscard]] double bound() const;
  /// Size of the last two terms: what the next ones could add when it stands for another, smooth curve.
  [[nodiscard]] double tail() const;

  /// Where it changes sign inside −1 … 1, rising; all of them: what is passed over is proven to hold none.
  [[nodiscard]] Places crossings() const;
  /// Where it may be greatest or least: both ends and the crossings of its derivative, rising.
  [[nodiscard]] Places turning_points() const;

  /// Term by term.
  Series& operator+=(const Series& other);
  Series& operator+=(double constant);
  Series& operator*=(double factor);
  /// Term by term the same, to the last bit.
  bool operator==(const Series& other) const;

  /// ∫ a·b over −1 … 1, exact: Legendre polynomials are orthogonal, ∫P_k² = 2/(2k + 1).
  friend double product_integral(const Series& a, const Series& b) {
    double sum = 0.0;
    for (std::size_t k = 0; k < a.size_ && k < b.size_; ++k) sum += a.terms_[k] * b.terms_[k] * squares[k];
    return sum;
  }

private:
  friend class SeriesWindow;
  /// ∫P_k² over −1 … 1.
  static constexpr std::array<double, most_terms> squares = [] {
    std::array<double, most_terms> all{};
    for (std::size_t k = 0; k < most_terms; ++k) all[k] = 2.0 / (2.0 * static_cast<double>(k) + 1.0);
    return all;
  }();
  void trim();
  [[nodiscard]] bool free_of_roots() const;

  std::array<double, most_terms> terms_{};
  std::size_t size_ = 0;
};

/// Factors of Bonnet's recursion P_{k+1} = a_k·x·P_k − b_k·P_{k−1}, for Clenshaw's summation.
struct LegendreRecursion {
  std::array<double, Series::most_terms + 1> a{}, b{};
  constexpr LegendreRecursion() {
    for (std::size_t k = 0; k < a.size(); ++k) {
      const double n = static_cast<double>(k);
      a[k] = (2.0 * n + 1.0) / (n + 1.0);
      b[k] = n / (n + 1.0);
    }
  }
};
inline constexpr LegendreRecursion legendre_recursion;

// these two are inline: an evaluation asks them some thousand times
inline double Series::operator()(double u) const {
  if (size_ == 0) return 0.0;
  const auto& [a, b] = legendre_recursion;
  double next = 0.0, after = 0.0;
  for (std::size_t k = size_ - 1; k > 0; --k) {
    // in this order the step waits for one product and one sum only
    const double here = (terms_[k] - b[k + 1] * after) + a[k] * u * next;
    after = next;
    next = here;
  }
  return (terms_[0] - b[1] * after) + u * next;
}

inline double Series::bound() const {
  double even = 0.0, odd = 0.0; // two sums beside each other
  std::size_t k = 0;
  for (; k + 1 < size_; k += 2) {
    even += std::abs(terms_[k]);
    odd += std::abs(terms_[k + 1]);
  }
  return k < size_ ? even + odd + std::abs(terms_[k]) : even + odd;
}

/// A point of a quadrature and its weight on −1 … 1.
struct GaussPoint {
  double at, weight;
};
/// The Gauss–Legendre rule of n points, rising, 1 <= n <= 64: exact up to degree 2n − 1.
std::span<const GaussPoint> gauss_rule(std::size_t points);

} // namespace fulmox
