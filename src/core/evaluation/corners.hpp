#pragma once
#include "core/limits/limit.hpp"
#include "core/support/wanted.hpp"

#include <span>
#include <string>
#include <vector>

namespace fulmox {

/// An input somewhere in its spread.
struct CornerInput {
  std::string path, label; ///< "motor.kt", "Motor, torque constant"
  double end = 0.0;        ///< −1 least, +1 most, 0 as typed
  /// "at its most", "halfway to its least".
  [[nodiscard]] std::string where() const;
};

/// A limit as typed and where the typed spreads make it worst.
struct LimitCorner {
  std::string_view id, label;
  double nominal = 0.0, worst = 0.0; ///< used shares; NaN where not judged
  LimitState now = LimitState::not_judged, state = LimitState::not_judged;
  std::vector<CornerInput> at; ///< the inputs that are not as typed there
  std::string mainly;          ///< path of the spread that alone does most; "" where none makes it worse
};

struct Corners {
  std::vector<LimitCorner> limits;  ///< the worst corner first
  std::vector<std::string> spreads; ///< paths of the inputs with a typed spread
  std::size_t tried = 0;            ///< combinations judged
  std::size_t lost = 0;             ///< combinations with which the axis cannot be worked out
};

/// Judges every limit over the spreads that are typed ("0.2 N·m/A ±10%"). Up to three spreads: every
/// combination of least, typed and most. More: each by itself, and then for each limit all of them where each
/// alone is worst for it, those that are worse on both sides tried both ways; a limit that several spreads
/// move against each other may then be a little worse in between. The bus needs no spread: its least and most
/// voltage are judged anyway.
Expected<Corners> corners(const Axis& axis, const Section& house_rules, const Wanted& wanted = always_wanted);

/// Whether any input of the axis carries a spread.
bool has_spread(const Axis& axis);

/// The limits as they are, for an axis without a typed spread.
Corners as_typed(std::span<const Limit> limits);

} // namespace fulmox
