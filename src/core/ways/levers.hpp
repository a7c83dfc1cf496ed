#pragma once
#include "core/evaluation/evaluation.hpp"

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace fulmox {

/// One of several settings that a lever has no numbers between: a law of motion, a lead from the catalogue.
struct LeverOption {
  std::string told; ///< "5 mm"
  double effort = 0.0;
  Axis axis; ///< with it
};

/// Something about an axis that may be changed to help a limit: one input, or several that go together.
struct Lever {
  std::string id;       ///< "load.moved_mass"; "moves.time" for all moves together
  std::string label;    ///< "Load, moved mass"
  std::string path;     ///< the input a user is led to
  bool guessed = false; ///< nobody knows its value yet: to be measured before anything is changed

  // A number that may be any within its range, SI.
  Kind kind = Kind::number;
  double now = 0.0;
  double least = 0.0, most = 0.0; ///< how far it is looked at
  /// What counts as a plausible change: as much again, or as a factor where `by_factor`.
  double plausible = 0.0;
  bool by_factor = false;
  int helps = 0;    ///< which way it is looked at for a way out: −1 less, +1 more, 0 either
  int headroom = 0; ///< which way headroom is asked for; 0 not at all
  /// The axis with another value; what is typed there stays as text.
  std::function<Axis(double)> with;
  /// The axis with a value typed in the unit it has there, to so many figures, rounded up or down; and the
  /// text.
  std::function<std::pair<Axis, std::string>(double value, int digits, bool up)> typed;
  std::string told_now; ///< "9 kg"

  std::vector<LeverOption> options; ///< instead of a number

  /// In plausible changes; twice as much for what somebody gave.
  [[nodiscard]] double effort(double value) const;
};

/// The levers of an axis. `segment` is the one whose move is looked at alone.
std::vector<Lever> levers_of(const Axis& axis, std::size_t segment);

} // namespace fulmox
