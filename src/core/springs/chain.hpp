#pragma once
#include <optional>
#include <span>
#include <vector>

namespace fulmox {

/// Inertias in a row with springs between them, all seen at one shaft: the rotor first, the load last.
struct SpringChain {
  std::vector<double> inertias;    ///< kg·m², one more than springs, each > 0
  std::vector<double> stiffnesses; ///< N·m/rad, each > 0
};

/// The lowest natural frequencies of a chain that turns freely, rad/s, rising; the standstill mode left out.
std::vector<double> resonances(const SpringChain& chain);
/// The same with the rotor held still: where the load swings by itself and a stiff motor loop sees nothing of
/// it.
std::vector<double> antiresonances(const SpringChain& chain);

} // namespace fulmox
