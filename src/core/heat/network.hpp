#pragma once
#include <cstddef>
#include <optional>
#include <span>
#include <vector>

namespace fulmox {

/// Where the heat of a motor goes: each phase of its winding to the case, the case to the air. Two nodes
/// while all phases take alike; at rest one may stand at its crest, and is followed on its own.
struct ThermalNetwork {
  double winding_capacity = 0.0; ///< C_w, J/K, all phases
  double case_capacity = 0.0;    ///< C_c, J/K
  double winding_to_case = 0.0;  ///< R_wc, K/W, all phases side by side
  double case_to_ambient = 0.0;  ///< R_ca, K/W
  double ambient = 0.0;          ///< T_a, K
  double phases = 3.0;           ///< 1 for a winding that heats as a whole
};

/// Part of a cycle in which the losses count as constant.
struct HeatSpan {
  double time = 0.0;        ///< s
  double copper = 0.0;      ///< W in all phases, as if the winding were at 20 °C
  double worst_phase = 0.0; ///< W at 20 °C, times the number of phases: `copper` where all take alike
  double body = 0.0;        ///< W in the case: friction, iron, a brake's coil
  bool varies = false;      ///< the losses are means: what they swing to inside is bounded, not followed
};

/// K; the three nodes.
struct HeatState {
  double worst_phase = 0.0, others = 0.0, body = 0.0;
};

/// A cycle repeated until nothing changes any more.
struct PeriodicHeat {
  bool runs_away = false;    ///< rising resistance makes more heat than the case sheds: no steady state
  double growth = 0.0;       ///< greatest magnitude of an eigenvalue of one cycle; >= 1 runs away
  HeatState start;           ///< at the cycle's start
  double hottest = 0.0;      ///< K, of the worst phase, not below any moment
  double coldest = 0.0;      ///< K, of the worst phase where spans meet
  double hottest_body = 0.0; ///< K, of the case where spans meet
  std::size_t hottest_span = 0;
  double mean_copper = 0.0; ///< W, at the temperatures reached
  double mean_body = 0.0;   ///< W, put into the case
};

/// Method: within a span ẏ = A·y with constant A, solved by the matrix exponential; one cycle is the product
/// of them, its fixed point y* = (1 − B)⁻¹·c. All of the network must be positive, all times and losses >= 0.
PeriodicHeat periodic_heat(const ThermalNetwork& network, std::span<const HeatSpan> cycle);

/// The state after a time of constant losses.
HeatState heated(const ThermalNetwork& network, const HeatState& from, const HeatSpan& losses, double time);

/// Seconds until the worst phase first reaches a temperature (K) when the cycle starts at `from` and repeats;
/// nothing when it never does within 1000 hours. A span's swing counts as reached at its start.
std::optional<double> time_to(const ThermalNetwork& network, std::span<const HeatSpan> cycle,
                              const HeatState& from, double limit);

/// A moment of the warming.
struct HeatPoint {
  double time = 0.0; ///< s
  HeatState at;
};
/// From `from`, where spans meet, over whole cycles until `until` is passed; at most `most` points, whole
/// cycles left out between them.
std::vector<HeatPoint> warming(const ThermalNetwork& network, std::span<const HeatSpan> cycle,
                               const HeatState& from, double until, std::size_t most);

/// How much more current than for ever is allowed for a share (0 < share <= 1) of every period, none in the
/// rest of it: the hottest moment of the steady cycle just reaches the limit (K). 1 for share 1.
/// IEC 60034-1, S3; its rule 1/√share holds only for periods far below the winding's time constant.
double intermittent_factor(const ThermalNetwork& network, double limit, double share, double period);

} // namespace fulmox
