// Thousands of random axes against a second, independent calculation of the same physics (dense_axis.cpp):
// every mechanism, law, stage, payload and process force, narrow spikes included.

#include "reference/dense_axis.hpp"

#include "core/demand/demand.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <cstdlib>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

/// FULMOX_DENSE_AXES of each of the ten mechanisms, when asked for: 1000 take some three minutes.
unsigned axes_of_each() {
  if (const char* asked = std::getenv("FULMOX_DENSE_AXES")) return static_cast<unsigned>(std::atoi(asked));
#ifdef FULMOX_SANITIZED
  return 5;
#else
  return 100;
#endif
}

/// What of a result is not what it should be, "" where all is well.
std::string misses(const Evaluation& e, const DenseAxis& dense, int parts) {
  const DenseSums expected = dense.integrate(parts);
  const CycleIntegrals& found = e.demand.integrals;
  const double energy = expected.driven + expected.returned, bus = expected.drawn + expected.given_back;
  std::string all;
  const auto check = [&](std::string_view what, double value, double reference, double within,
                         double size = 0.0) {
    if (std::abs(value - reference) <= within * std::max(std::abs(reference), size)) return;
    char text[120];
    std::snprintf(text, sizeof text, ": %.9g is not %.9g; ", value, reference);
    all += std::string(what) + text;
  };
  check("peak torque", value(e, "demand.peak_torque"), expected.peak_torque, 1e-6);
  check("peak speed", value(e, "demand.max_speed"), expected.peak_speed, 1e-6);
  check("peak current", value(e, "drive.peak_current"), expected.peak_current, 1e-6);
  check("peak power", value(e, "supply.peak_power"), expected.peak_bus, 1e-6);
  check("torque²", found.torque_squared, expected.torque_squared, 1e-6);
  check("current²", found.current_squared, expected.current_squared, 1e-6);
  check("turns", found.turns, expected.turns, 1e-6);
  check("driven", found.driven, expected.driven, 1e-6, 0.01 * energy);
  check("returned", found.returned, expected.returned, 1e-6, 0.01 * energy);
  check("drawn", found.bus_drawn, expected.drawn, 1e-6, 0.01 * bus);
  check("given back", found.bus_returned, expected.given_back, 1e-6, 0.01 * bus);
  check("torque³ of the gear", found.gear_weighted, expected.gear_cubed, 1e-6);
  check("holding", std::abs(value(e, "hold.torque")), dense.holding(), 1e-9, 1e-6);
  const double over = overload(*e.model, e.course, dense.continuous_current()).greatest;
  // where the cycle's mean is the continuous current itself, growing and steady are a rounding apart
  if (std::isinf(over) != std::isinf(expected.overload)) all += "overload grows or not; ";
  if (std::isfinite(over) && std::isfinite(expected.overload))
    check("overload", over, expected.overload, 1e-4, 1e-4 * expected.current_squared);
  for (const ResultValue& number : e.results)
    if (!std::isfinite(number.value)) all += std::string(number.id) + " is no number; ";
  return all;
}

} // namespace

TEST_CASE("random axes of every mechanism agree with dense integration of other code") {
  unsigned seed = 7000;
  for (const std::string_view mechanism : all_mechanisms())
    for (unsigned i = 0; i < axes_of_each(); ++i) {
      const DenseAxis dense(++seed, std::string(mechanism));
      const auto result = evaluate(dense.axis(), house_rules());
      if (!result) FAIL(mechanism << " " << seed << ": " << result.problem().text());
      std::string wrong = misses(*result, dense, 2);
      // a dip between two looks is the reference's own miss: it then looks closer
      if (!wrong.empty()) wrong = misses(*result, dense, 60);
      INFO(mechanism << " seed " << seed);
      CHECK(wrong == "");
    }
}
