#include "core/support/series_window.hpp"
#include "core/support/two.hpp"

#include <boost/math/special_functions/legendre.hpp>

#include <algorithm>
#include <cmath>
#include <vector>

namespace fulmox {
namespace {

constexpr std::size_t most_points = 64;

std::vector<GaussPoint> rule_of(std::size_t points) {
  std::vector<GaussPoint> rule;
  const int n = static_cast<int>(points);
  for (const double zero : boost::math::legendre_p_zeros<double>(n)) {
    const double slope = boost::math::legendre_p_prime(n, zero);
    const double weight = 2.0 / ((1.0 - zero * zero) * slope * slope);
    rule.push_back({zero, weight});
    if (zero != 0.0) rule.push_back({-zero, weight});
  }
  std::sort(rule.begin(), rule.end(), [](const GaussPoint& a, const GaussPoint& b) { return a.at < b.at; });
  return rule;
}

/// A matrix whose rows are filled up with zeros to whole fours.
class Matrix {
public:
  Matrix() = default;
  template <class Entry>
  Matrix(std::size_t rows, std::size_t columns, const Entry& entry)
      : fours_((columns + 3) / 4), entries_(rows * fours_ * 4) {
    for (std::size_t i = 0; i < rows; ++i)
      for (std::size_t j = 0; j < columns; ++j) entries_[i * fours_ * 4 + j] = entry(i, j);
  }

  /// The sum of its first rows, each times a number; `out` takes whole fours.
  void sum_of_rows(std::span<const double> times, double* out) const {
    for (std::size_t q = 0; q < fours_; ++q, out += 4) {
      Two first{}, second{};
      const double* at = entries_.data() + 4 * q;
      for (const double by : times) {
        first += two_at(at) * by;
        second += two_at(at + 2) * by;
        at += 4 * fours_;
      }
      put(first, out);
      put(second, out + 2);
    }
  }

private:
  std::size_t fours_ = 0;
  std::vector<double> entries_;
};

/// (2k + 1)/2 · w_j · P_k(x_j), a row for each Gauss point: turns values there into terms.
Matrix transform_of(std::size_t terms) {
  return {terms, terms, [points = gauss_rule(terms)](std::size_t j, std::size_t k) {
            return (static_cast<double>(k) + 0.5) * points[j].weight *
                   boost::math::legendre_p(static_cast<int>(k), points[j].at);
          }};
}

/// P_k(x_j), a row for each term: turns terms into values at so many Gauss points.
Matrix values_of(std::size_t points) {
  return {Series::most_terms, points, [rule = gauss_rule(points)](std::size_t k, std::size_t j) {
            return boost::math::legendre_p(static_cast<int>(k), rule[j].at);
          }};
}

/// One matrix for every number of Gauss points, made when first asked for.
template <Matrix (*make)(std::size_t)> const Matrix& matrix(std::size_t points) {
  static const auto all = [] {
    std::array<Matrix, Series::most_terms + 1> matrices;
    for (std::size_t n = 1; n <= Series::most_terms; ++n) matrices[n] = make(n);
    return matrices;
  }();
  return all[points];
}

} // namespace

std::span<const GaussPoint> gauss_rule(std::size_t points) {
  static const auto all = [] {
    std::array<std::vector<GaussPoint>, most_points + 1> rules;
    rules[1] = {{0.0, 2.0}};
    for (std::size_t n = 2; n <= most_points; ++n) rules[n] = rule_of(n);
    return rules;
  }();
  return all[points];
}

Series Series::through(std::span<const double> values) {
  Series out;
  const std::size_t n = values.size();
  matrix<transform_of>(n).sum_of_rows(values, out.terms_.data());
  out.size_ = n;
  out.trim();
  return out;
}

void Series::at_gauss(std::size_t points, double* values) const {
  std::array<double, most_terms> there; // filled below
  matrix<values_of>(points).sum_of_rows({terms_.data(), size_}, there.data());
  std::copy_n(there.begin(), points, values);
}

/// Terms that rounding left are no terms: they would pretend roots.
void Series::trim() {
  const double least = 1e-14 * bound();
  while (size_ > 1 && std::abs(terms_[size_ - 1]) <= least) --size_;
}

bool Series::operator==(const Series& other) const {
  return std::equal(terms_.begin(), terms_.begin() + static_cast<std::ptrdiff_t>(size_), other.terms_.begin(),
                    other.terms_.begin() + static_cast<std::ptrdiff_t>(other.size_));
}

Series Series::derivative() const {
  Series out;
  out.size_ = size_ > 1 ? size_ - 1 : 1;
  // P′_{k+1} = (2k + 1)·P_k + P′_{k−1}
  for (std::size_t k = 0; k + 1 < size_; ++k) {
    double sum = 0.0;
    for (std::size_t j = k + 1; j < size_; j += 2) sum += terms_[j];
    out.terms_[k] = (2.0 * static_cast<double>(k) + 1.0) * sum;
  }
  out.trim();
  return out;
}

Series Series::antiderivative() const {
  Series out;
  out.size_ = size_ + 1;
  out.terms_[0] = terms_[0];
  out.terms_[1] = terms_[0];
  // ∫P_k = (P_{k+1} − P_{k−1})/(2k + 1), zero at −1 for k >= 1
  for (std::size_t k = 1; k < size_; ++k) {
    const double share = terms_[k] / (2.0 * static_cast<double>(k) + 1.0);
    out.terms_[k + 1] += share;
    out.terms_[k - 1] -= share;
  }
  out.trim();
  return out;
}

Series Series::part(double from, double to) const { return SeriesWindow(from, to)(*this); }

double Series::tail() const {
  double sum = 0.0;
  for (std::size_t k = size_ > 2 ? size_ - 2 : 0; k < size_; ++k) sum += std::abs(terms_[k]);
  return sum;
}

bool Series::free_of_roots() const {
  return size_ < 2 || std::abs(terms_[0]) > bound() - std::abs(terms_[0]);
}

namespace {

/// Coefficients in Bernstein's basis, which hold a polynomial in their hull.
using Hull = std::array<double, Series::most_terms>;

/// b_i of P_k raised to degree n − 1, a row for each k: (−1)^(k+i)·C(k, i), raised by
/// b′_i = i/m·b_{i−1} + (1 − i/m)·b_i (Farouki, The Bernstein polynomial basis, CAGD 29 (2012), §3.2 and §7).
Matrix hulls_of(std::size_t n) {
  std::vector<Hull> rows(n);
  for (std::size_t k = 0; k < n; ++k) {
    Hull& row = rows[k];
    double choose = k % 2 == 0 ? 1.0 : -1.0;
    for (std::size_t i = 0; i <= k; ++i) {
      row[i] = choose;
      choose *= -static_cast<double>(k - i) / static_cast<double>(i + 1);
    }
    for (std::size_t m = k + 1; m < n; ++m)
      for (std::size_t i = m + 1; i-- > 0;) {
        const double share = static_cast<double>(i) / static_cast<double>(m);
        row[i] = (i > 0 ? share * row[i - 1] : 0.0) + (i < m ? (1.0 - share) * row[i] : 0.0);
      }
  }
  return {n, n, [&](std::size_t k, std::size_t i) { return rows[k][i]; }};
}

/// Finds all sign changes of a series by halving. A polynomial has no more of them than the coefficients of
/// its hull (variation diminishing): a part without any is proven free of roots, a part with one holds just
/// one.
class RootSearch {
public:
  RootSearch(const Series& curve, double bound, Series::Places& found)
      : curve_(curve), slope_(curve.derivative()), nothing_(1e-13 * bound), n_(curve.size()), found_(found) {}

  void search(double from, double to, Hull& hull, int depth) {
    int changes = 0;
    double first = 0.0, last = 0.0;
    for (std::size_t i = 0; i < n_; ++i) {
      if (std::abs(hull[i]) <= nothing_) continue; // rounding, or a root at an end
      if (first == 0.0) first = hull[i];
      if (last * hull[i] < 0.0) ++changes;
      last = hull[i];
    }
    if (changes == 0 || full()) return;
    constexpr int deepest = 40; // roots closer than that are one
    if (changes == 1 || depth == deepest) {
      if (first * last < 0.0) found_.push_back(root(from, to, first));
      return;
    }
    Hull left;
    for (std::size_t i = 0; i < n_; ++i) { // de Casteljau: `hull` becomes the right half
      left[i] = hull[0];
      average_neighbours(hull.data(), n_ - i - 1);
    }
    const double middle = 0.5 * (from + to);
    search(from, middle, left, depth + 1);
    // the curve may pass through here or only touch: a cut does no harm
    if (std::abs(hull[0]) <= nothing_ && !full()) found_.push_back(middle);
    search(middle, to, hull, depth + 1);
  }

private:
  /// The first so many numbers become the mean of themselves and the next.
  static void average_neighbours(double* numbers, std::size_t count) {
    for (; count >= 2; count -= 2, numbers += 2) put(0.5 * (two_at(numbers) + two_at(numbers + 1)), numbers);
    if (count == 1) *numbers = 0.5 * (numbers[0] + numbers[1]);
  }

  [[nodiscard]] bool full() const { return found_.size() + 2 >= found_.capacity(); }

  /// Newton's steps, halving where one would leave the bracket. An error here counts squared: where a curve
  /// is cut it is 0, where it is greatest it is level.
  [[nodiscard]] double root(double from, double to, double at_from) const {
    constexpr double close = 1e-11;
    double u = 0.5 * (from + to);
    for (int i = 0; i < 100; ++i) {
      const double value = curve_(u);
      if (value == 0.0) return u;
      ((value > 0.0) == (at_from > 0.0) ? from : to) = u;
      double next = u - value / slope_(u);
      if (!(next > from && next < to)) next = 0.5 * (from + to);
      if (std::abs(next - u) <= close) return next;
      u = next;
    }
    return u;
  }

  const Series& curve_;
  Series slope_;
  double nothing_; ///< what is no more than rounding
  std::size_t n_;
  Series::Places& found_;
};

} // namespace

Series::Places Series::crossings() const {
  Places found;
  if (free_of_roots()) return found;
  if (size_ == 2) {
    const double root = -terms_[0] / terms_[1];
    if (std::abs(root) < 1.0) found.push_back(root);
    return found;
  }
  Hull hull;
  matrix<hulls_of>(size_).sum_of_rows({terms_.data(), size_}, hull.data());
  RootSearch(*this, bound(), found).search(-1.0, 1.0, hull, 0);
  return found;
}

Series::Places Series::turning_points() const {
  Places stops = derivative().crossings();
  stops.insert(stops.begin(), -1.0);
  stops.push_back(1.0);
  return stops;
}

Series& Series::operator+=(const Series& other) {
  for (std::size_t k = 0; k < other.size_; ++k) terms_[k] += other.terms_[k];
  size_ = std::max(size_, other.size_);
  trim();
  return *this;
}

Series& Series::operator+=(double constant) {
  terms_[0] += constant;
  if (size_ == 0) size_ = 1;
  trim();
  return *this;
}

Series& Series::operator*=(double factor) {
  for (std::size_t k = 0; k < size_; ++k) terms_[k] *= factor;
  return *this;
}

} // namespace fulmox
