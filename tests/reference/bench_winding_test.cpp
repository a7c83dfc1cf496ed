// Windings as a bench reads them: resistances and losses of wye and delta worked out from the network, whole
// and with one winding open.

#include "core/motor/bench_winding.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

constexpr double celsius = 273.15;

/// Resistance between the leads and loss in the windings for 1 A through the first pair. A delta's windings
/// lie between the leads 1–2, 2–3, 3–1; a wye's go from a lead to the middle.
struct Read {
  std::array<double, 3> pairs, losses;
};

Read wye(const std::array<double, 3>& r) {
  return {{r[0] + r[1], r[1] + r[2], r[2] + r[0]}, {r[0], r[1], 0.0}};
}

Read delta(const std::array<double, 3>& r) {
  const auto beside = [](double a, double b) { // both may be open
    return std::isinf(a) ? b : std::isinf(b) ? a : a * b / (a + b);
  };
  Read out;
  for (std::size_t i = 0; i < 3; ++i) out.pairs[i] = beside(r[i], r[(i + 1) % 3] + r[(i + 2) % 3]);
  const double volts = out.pairs[0], across = volts / (r[1] + r[2]);
  out.losses = {std::isinf(r[0]) ? 0.0 : volts * volts / r[0],
                std::isinf(r[1]) ? 0.0 : across * across * r[1],
                std::isinf(r[2]) ? 0.0 : across * across * r[2]};
  return out;
}

ToldWinding told(const Read& read, double temperature = celsius + 20.0) {
  return told_winding({read.pairs, temperature, read.losses});
}

} // namespace

TEST_CASE("the heat of a current through two leads tells wye from delta") {
  RandomAxes random(51);
  for (int n = 0; n < 200; ++n) {
    const double ohms = random.between(0.05, 20.0);
    std::array<double, 3> r{};
    for (double& one : r) one = ohms * random.between(0.995, 1.005);
    const ToldWinding star = told(wye(r)), ring = told(delta(r));
    CHECK(star.kind == WindingKind::wye);
    CHECK(ring.kind == WindingKind::delta);
    CHECK(star.resistance == Approx(2.0 * ohms).epsilon(0.006));
    CHECK(ring.resistance == Approx(2.0 / 3.0 * ohms).epsilon(0.006));
    // the order in which the windings are named does not matter
    Read turned = delta(r);
    std::rotate(turned.losses.begin(), turned.losses.begin() + 1 + n % 2, turned.losses.end());
    CHECK(told(turned).kind == WindingKind::delta);
  }
}

TEST_CASE("a delta with an open winding heats like a wye and is told by its resistances") {
  constexpr double open = std::numeric_limits<double>::infinity();
  for (std::size_t which = 0; which < 3; ++which) {
    std::array<double, 3> r{3.0, 3.0, 3.0};
    r[which] = open;
    const Read read = delta(r);
    if (which == 0)
      CHECK((read.losses[0] == 0.0 && read.losses[1] == Approx(read.losses[2]))); // two hot, one cold
    CHECK(told(read).kind == WindingKind::open_winding);
    CHECK(told_winding({read.pairs, celsius + 20.0, std::nullopt}).kind == WindingKind::open_winding);
  }
  // one winding shorted in part is no open one
  const ToldWinding shorted = told(delta({3.0, 3.0, 2.4}));
  CHECK(shorted.kind == WindingKind::unknown);
  CHECK(shorted.why.find("2 %") != std::string_view::npos);
}

TEST_CASE("heat looked at too late, or that fits nothing, tells nothing") {
  const std::array<double, 3> pairs{2.0, 2.0, 2.0};
  const auto kind = [&](std::array<double, 3> rises) {
    return told_winding({pairs, celsius + 20.0, rises}).kind;
  };
  CHECK(kind({1.0, 0.51, 0.2}) == WindingKind::unknown);
  CHECK(kind({1.0, 0.49, 0.45}) == WindingKind::delta);
  CHECK(kind({1.0, 0.71, 0.1}) == WindingKind::wye);
  CHECK(kind({1.0, 0.69, 0.1}) == WindingKind::unknown);
  CHECK(kind({1.0, 0.9, 0.8}) == WindingKind::unknown); // all alike by now
  CHECK(kind({1.0, 0.05, 0.04}) == WindingKind::unknown);
  CHECK(told_winding({pairs, celsius + 20.0, std::nullopt}).kind == WindingKind::unknown);
}

// IEC 60028: 0.393 % a kelvin at 20 °C.
TEST_CASE("a resistance read warm is told at 20 °C, with what is uncertain about it") {
  const ToldWinding warm = told(wye({1.0, 1.0, 1.0}), celsius + 45.0);
  CHECK(warm.resistance == Approx(2.0 / (1.0 + 0.00393 * 25.0)));
  CHECK(told(wye({1.0, 1.0, 1.0}), celsius).resistance == Approx(2.0 / (1.0 - 0.00393 * 20.0)));
  // 1 % meter and 2 K, even spreads, k = 2: 2·√(0.577² + 0.454²) %
  CHECK(warm.uncertainty == Approx(0.014687).epsilon(1e-4));
  const ToldWinding apart = told_winding({{2.0, 2.0, 2.03}, celsius + 20.0, std::nullopt});
  CHECK(apart.spread == Approx(0.03 / 2.01).epsilon(1e-6));
  CHECK(apart.uncertainty > warm.uncertainty);
}
