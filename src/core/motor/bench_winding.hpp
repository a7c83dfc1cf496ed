#pragma once
#include <array>
#include <cstdint>
#include <optional>
#include <string_view>

namespace fulmox {

// What a bench tells of a three-phase winding whose sheet says little: readings between leads, typed in.

/// How the three windings are joined, as far as readings tell.
enum class WindingKind : std::uint8_t { unknown, wye, delta, open_winding };

struct BenchWinding {
  std::array<double, 3> pairs{};                ///< Ω between the leads 1–2, 2–3, 3–1, all > 0
  double temperature = 0.0;                     ///< K, of the winding when they were read
  std::optional<std::array<double, 3>> heating; ///< first rises of the three windings with current through
                                                ///< one pair of leads, in any one unit, >= 0, not all 0
};

struct ToldWinding {
  double resistance = 0.0; ///< Ω between two leads at 20 °C, mean of the pairs
  double uncertainty =
      0.0; ///< relative, expanded (k = 2): 1 % meter, 2 K of the winding, half of what they differ
  double spread = 0.0; ///< greatest less least of the pairs over their mean
  WindingKind kind = WindingKind::unknown;
  std::string_view why; ///< what tells the kind, or why nothing does
};

/// What a winding on a bench can have, K: colder or hotter is a slip of the unit.
inline constexpr double bench_coldest = 233.15, bench_hottest = 473.15;

/// Neither R nor L between leads can tell wye from delta; the heat of a current through two leads can: two
/// hot and one cold (1:1:0) is a wye, one hot and two warm (4:1:1) a delta. The trap: a delta whose winding
/// between those leads is open heats like a wye. So the three resistances are compared first.
ToldWinding told_winding(const BenchWinding& bench);

} // namespace fulmox
