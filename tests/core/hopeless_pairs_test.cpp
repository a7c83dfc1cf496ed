// The pairs that fit with no drive come in the order of their bounds, also where bounds rise meanwhile.

#include "core/match/hopeless_pairs.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <random>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;

TEST_CASE("pairs without a fitting drive come nearest first, however many there are") {
  std::mt19937 random(97);
  const double without_end = std::numeric_limits<double>::infinity();
  for (const std::size_t many : {0U, 1U, 300U, 20000U}) {
    PairBounds bounds;
    bounds.reset(many);
    std::set<std::pair<float, std::size_t>> plain; // all of them, in order
    std::lognormal_distribution<double> share(0.5, 1.0);
    for (std::size_t pair = 0; pair < many; ++pair) {
      if (random() % 7 == 0) continue; // not tried
      bounds.lower(pair, random() % 50 == 0 ? without_end : share(random));
      if (random() % 9 == 0)
        bounds.fits(pair);
      else
        plain.insert({bounds.at_least(pair), pair});
    }
    HopelessPairs left(bounds);
    while (!plain.empty()) {
      const Hopeless* next = left.nearest();
      REQUIRE(next != nullptr);
      REQUIRE(next->at_least == plain.begin()->first);
      REQUIRE(next->pair == plain.begin()->second);
      Hopeless one = left.take();
      plain.erase(plain.begin());
      if (one.by_sums) continue;
      one.by_sums = true; // found to be up to ten times as far off
      one.at_least *= 1.0F + 9.0F * static_cast<float>(random() % 1000) / 1000.0F;
      left.put_back(one);
      plain.insert({one.at_least, one.pair});
    }
    CHECK(left.nearest() == nullptr);
  }
}
