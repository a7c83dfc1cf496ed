// Roots and extremes of polynomials and of paths, against values known in closed form and against dense
// looks.

#include "core/motion/path.hpp"
#include "core/support/series_window.hpp"

#include <boost/math/special_functions/legendre.hpp>
#include <catch2/catch.hpp>

#include <cmath>
#include <random>

using namespace fulmox;

namespace {

template <class F> Series through(std::size_t points, const F& f) {
  std::vector<double> values;
  for (const GaussPoint& point : gauss_rule(points)) values.push_back(f(point.at));
  return Series::through(values);
}

} // namespace

TEST_CASE("a series is its polynomial, its derivative and its part") {
  for (unsigned degree = 0; degree < 16; ++degree) {
    const auto f = [&](double u) { return boost::math::legendre_p(static_cast<int>(degree), u); };
    const Series series = through(16, f);
    INFO(degree);
    for (double u = -1.0; u <= 1.0; u += 0.0625) {
      CHECK(series(u) == Approx(f(u)).margin(1e-12));
      CHECK(series.derivative()(u) ==
            Approx(boost::math::legendre_p_prime(static_cast<int>(degree), u)).margin(1e-9));
      CHECK(series.part(-0.5, 0.25)(u) == Approx(f(-0.125 + 0.375 * u)).margin(1e-12));
    }
    // all zeros of a Legendre polynomial are simple and lie inside
    const auto roots = series.crossings();
    REQUIRE(roots.size() == degree);
    for (const double root : roots) CHECK(f(root) == Approx(0.0).margin(1e-9));
  }
}

TEST_CASE("one window cuts any series out of its place, whatever it cut before") {
  std::mt19937 engine(31);
  std::uniform_real_distribution<double> factor(-2.0, 2.0), place(-1.0, 1.0);
  std::uniform_int_distribution<std::size_t> terms(1, Series::most_terms);
  for (int round = 0; round < 300; ++round) {
    const double some = place(engine), other = place(engine);
    const double from = round % 5 == 0 ? -1.0 : std::min(some, other),
                 to = round % 7 == 0 ? 1.0 : std::max(some, other), half = 0.5 * (to - from);
    SeriesWindow window(from, to);
    for (int i = 0; i < 4; ++i) { // longer and shorter ones
      const std::size_t n = terms(engine);
      std::vector<double> values(n);
      for (double& value : values) value = factor(engine);
      const Series whole = Series::through(values), part = window(whole);
      INFO(from << " to " << to << ", " << n << " terms");
      for (double u = -1.0; u <= 1.0; u += 0.125)
        CHECK(part(u) == Approx(whole(from + half * (u + 1.0))).margin(1e-13 * whole.bound()));
      double square = 0.0;
      for (const GaussPoint& at : gauss_rule(16)) // exact up to degree 31
        square += at.weight * std::pow(whole(from + half * (at.at + 1.0)), 2);
      CHECK(product_integral(part, part) == Approx(square));
    }
  }
  CHECK(SeriesWindow(-0.5, 0.5)(Series()).size() == 0);
  // of a narrow part only the first terms are more than rounding
  const auto wave = through(16, [](double u) { return std::sin(9.0 * u); });
  CHECK(SeriesWindow(0.2, 0.2001)(wave).size() <= 5);
}

TEST_CASE("roots that touch, meet or lie at an end are told quickly and once") {
  CHECK(through(4, [](double u) { return std::pow(u + 1.0, 3); }).crossings().empty()); // triple, at the end
  CHECK(through(6, [](double u) { return std::pow(u - 0.3, 2) + 1e-6; }).crossings().empty());
  const auto triple = through(4, [](double u) { return std::pow(u - 0.3, 3); }).crossings();
  REQUIRE_FALSE(triple.empty());
  for (const double root : triple)
    CHECK(root == Approx(0.3).margin(1e-4)); // flat: the place is soft, the value is not
  const auto close = through(5, [](double u) { return (u - 0.1) * (u - 0.1001) * (u + 0.7); }).crossings();
  REQUIRE(close.size() == 3);
  CHECK(close[1] == Approx(0.1).margin(1e-8));
  CHECK(close[2] == Approx(0.1001).margin(1e-8));
}

TEST_CASE("the greatest speed, acceleration and jerk of any path, and where") {
  std::mt19937 engine(5);
  const auto between = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(engine);
  };
  for (int i = 0; i < 400; ++i) {
    Path path;
    const int degree = i % 8; // closed forms up to the third power of what is asked for, a search beyond
    const bool sine = i % 3 == 0;
    for (int k = 0; k <= (sine ? degree % 4 : degree); ++k)
      path.c[static_cast<std::size_t>(k)] = between(-1.0, 1.0);
    if (sine) {
      path.amplitude = between(-1.0, 1.0);
      path.omega = between(-12.0, 12.0);
      path.phase = between(-3.0, 3.0);
    }
    const double from = between(0.0, 0.8), to = between(1.0, 2.0);
    for (int n = 0; n <= 3; ++n)
      for (const double factor : {1.0, -1.0}) {
        const Extreme found = path.greatest(n, factor, from, to, -1e9);
        double most = -1e9;
        constexpr int looks = 2000;
        for (int k = 0; k <= looks; ++k)
          most = std::max(most, factor * path.derivative(n, from + (to - from) * k / looks));
        INFO(i << " derivative " << n << " factor " << factor);
        CHECK(found.value >= most - 1e-9 * (1.0 + std::abs(most)));
        // between two looks the curve rises by no more than this
        // derivative
        CHECK(found.value <= most + 1e-3 * (1.0 + std::abs(most)));
        CHECK(found.value == Approx(factor * path.derivative(n, found.at)).epsilon(1e-12));
        CHECK(found.at >= from);
        CHECK(found.at <= to);
      }
  }
}
