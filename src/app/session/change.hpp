#pragma once
#include <QFlags>

namespace fulmox::app {

/// What was changed since somebody was told last.
enum class Change : unsigned {
  axis = 1,    ///< the present axis, its results, what is tried of it, or which one it is
  machine = 2, ///< its name, the other axes and their results, its file, what can be undone
  rules = 4,   ///< the house rules, and how the whole machine works
  units = 8,
  theme = 16,
  cursor = 32
};
Q_DECLARE_FLAGS(Changes, Change)
Q_DECLARE_OPERATORS_FOR_FLAGS(Changes)

inline constexpr Changes results_changed = Changes(Change::axis) | Change::rules | Change::units;
inline constexpr Changes any_change = results_changed | Change::machine | Change::theme | Change::cursor;

} // namespace fulmox::app
