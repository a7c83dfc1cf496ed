#include "core/power/fit_power.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

constexpr int deepest = 8;
constexpr std::size_t most_nodes = 7;

/// Whether a fit is as near as asked where it was not looked at.
bool close(const PowerPiece& fit, FunctionRef<double(double)> watts, double fine) {
  constexpr std::array<double, 4> looks{-0.97, -0.35, 0.31, 0.93};
  return std::all_of(looks.begin(), looks.end(),
                     [&](double u) { return std::abs(fit.watts(u) - watts(fit.time(u))) <= fine; });
}

void fit(FunctionRef<double(double)> watts, double from, double to, double fine, int depth,
         std::vector<PowerPiece>& out) {
  // what runs straight in torque and speed is a square at most; the rest takes more
  for (const std::size_t nodes : {std::size_t{3}, std::size_t{5}, most_nodes}) {
    std::array<double, most_nodes> values{};
    const auto rule = gauss_rule(nodes);
    PowerPiece piece{from, to, {}};
    for (std::size_t j = 0; j < nodes; ++j) values[j] = watts(piece.time(rule[j].at));
    piece.watts = Series::through({values.data(), nodes});
    if (close(piece, watts, fine) || (nodes == most_nodes && depth == deepest)) {
      out.push_back(std::move(piece));
      return;
    }
  }
  const double middle = 0.5 * (from + to);
  fit(watts, from, middle, fine, depth + 1, out);
  fit(watts, middle, to, fine, depth + 1, out);
}

} // namespace

void fit_power(FunctionRef<double(double)> watts, double from, double to, double fine,
               std::vector<PowerPiece>& out) {
  fit(watts, from, to, fine, 0, out);
}

} // namespace fulmox
