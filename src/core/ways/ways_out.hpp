#pragma once
#include "core/library/part_library.hpp"
#include "core/limits/limit.hpp"
#include "core/support/wanted.hpp"
#include "core/ways/levers.hpp"

#include <string>
#include <vector>

namespace fulmox {

/// What a change does to another limit.
struct Moved {
  std::string_view limit; ///< its label
  double before = 0.0, after = 0.0;
};

/// One input changed.
struct WayChange {
  std::string label, path; ///< "Load, moved mass", where it is typed
  std::string from, to;    ///< as typed: "9 kg", "7.4 kg"
  double share = 0.0;      ///< of what it was, −0.18 = 18 % less; NaN where it is no number
  bool guessed = false;
};

/// A change that clears a limit, judged in full at the values told.
struct Way {
  std::vector<WayChange> changes; ///< one, or two that go together
  double used = 0.0;              ///< of the limit, afterwards
  double effort = 0.0;            ///< for ordering: in plausible changes
  std::vector<Moved> worse;       ///< what it makes worse by more than two points, the worst first
  bool breaks = false;            ///< makes another limit red that was not
  bool about = false;             ///< the least of those looked at, not of all there are
  Axis axis;                      ///< with it
};

/// Ways out of one limit.
struct WaysOut {
  std::string_view limit, label;
  double used = 0.0, wanted = 1.0; ///< as it is; what it is to come down to
  std::vector<Way> ways;           ///< the least effort first, those that break another limit last
  /// Where nothing helps: how far each input came at best.
  struct Stuck {
    std::string label;
    double best = 0.0; ///< used share
    std::string at;
  };
  std::vector<Stuck> stuck;
  std::string sentence; ///< why nothing helps; "" where something does
};

/// How far an input may go.
struct Room {
  std::string label, path;
  std::string from, to;   ///< as typed; `to` is the last value at which every limit holds
  double share = 0.0;     ///< of what it was
  std::string_view limit; ///< label of the one that is reached; "" where none is as far as is looked
  bool unlimited = false;
};

struct WayOptions {
  bool pairs = true;                ///< look for pairs where no change alone helps
  const Library* library = nullptr; ///< to try parts from; none where null
  Wanted wanted = always_wanted;
};

/// The smallest change of each input that brings a limit down: to 100 %, or for a tight one below the share
/// at which attention begins. Each is rounded away from the limit and judged again in full.
Expected<WaysOut> ways_out(const Axis& axis, const Section& house_rules, std::string_view limit,
                           const WayOptions& options = {});

/// How far each input may go until the first limit is reached; an axis that breaks one has no room.
Expected<std::vector<Room>> headroom(const Axis& axis, const Section& house_rules,
                                     const Wanted& wanted = always_wanted);

} // namespace fulmox
