#pragma once
#include "core/demand/demand.hpp"
#include "core/rules/rules.hpp"

#include <boost/container/small_vector.hpp>

#include <array>
#include <functional>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace fulmox {

enum class LimitState : std::uint8_t { clear, tight, over, not_judged };

std::string_view word(LimitState state);
/// Over above 1, tight above the house's attention; NaN is not judged.
LimitState state_of(double used, double attention);

/// One rung of the ladder.
struct Limit {
  std::string_view id;
  std::string_view label;
  double used = 0.0; ///< demand / capacity
  double demand = 0.0;
  double capacity = 0.0;
  Kind kind = Kind::number;
  std::optional<Moment> moment; ///< where in the cycle it binds, if it does at one moment
  LimitState state = LimitState::not_judged;
  std::string rule;        ///< what set the threshold
  std::string_view reason; ///< why it is not judged
  std::string_view step;   ///< id of its step in the working
  std::string_view input;  ///< where a missing or governing value is typed
  bool only_fits = false;  ///< it fits or does not: close to its limit is as good as far from it
};

/// Everything a limit may look at.
struct LimitContext {
  const Axis& axis;
  const AxisModel& model;
  const Course& course;
  const Demand& demand;
  const Rules& rules; ///< of the house
  Recorder& recorder;
  UnitSet units = UnitSet::si; ///< in which warnings are worded

  /// Whether limits are to be worded: what only counts which parts fit needs numbers alone.
  [[nodiscard]] bool worded() const { return recorder.on(); }
  /// The moment at a time of the cycle.
  [[nodiscard]] Moment moment_at(double time) const;
};

/// Which of the parts that a search exchanges a limit looks at. What depends on less is judged less often.
enum class LooksAt : std::uint8_t {
  drive, ///< everything; also what is not told
  motor, ///< motor, head, brake and coupling, and of the drive no more than how it feeds and the volts it
         ///< gives
  head,  ///< head, brake and coupling
};

/// What a limit's share follows from besides the sheets of the parts it looks at. What follows from less is
/// told before the rest is worked out. Unless it follows from everything, a limit that looks at the drive
/// reads it from the model alone, and is used the more the weaker the drive: the less current it gives for
/// ever, at its peak and in its overload time, the less bus it bears, capacitance it has and power its brake
/// resistor takes. What the torque decides is used the more the greater the drive's peak current.
enum class Follows : std::uint8_t {
  course,  ///< everything; also what is not told
  power,   ///< besides the course, the power from the bus: what the drive loses and stores counts
  current, ///< besides the course, the drive's peak current alone: with more of it the share is never greater
  figures, ///< course and demand as they are with any drive that feeds alike, and the drive's own figures
  torque,  ///< speeds and inertia, and the most that motor and drive can give: the stronger the drive, the
           ///< greater the share
  sums,    ///< the demand's speeds, inertia and rms torque, whatever its course
  fittings, ///< nothing of the demand; of a motor shaft, flange, encoder and insulation alone
};

/// What a cycle asks of the motor at one moment.
struct ShaftMoment {
  double torque = 0.0;    ///< N·m, motor shaft
  double speed = 0.0;     ///< rad/s
  double direction = 0.0; ///< of rotation; 0 at rest
};

/// A limit: what it is called and how it is judged. Gives nothing when the axis has no such part.
struct LimitSpec {
  std::string_view id;
  std::string_view label;
  std::string_view help;
  std::optional<Limit> (*judge)(const LimitContext&);
  LooksAt looks_at = LooksAt::drive;
  Follows follows = Follows::course;
  /// Of a limit that is dear to judge: whether its share is below a value for sure, where that is told at
  /// little cost.
  bool (*stays_below)(const LimitContext&, double share) = nullptr;
  /// Of a limit that is judged moment by moment: its share at one of them, so never above that of the cycle;
  /// 0 where it does not count. Looks neither at course nor demand.
  double (*at_moment)(const LimitContext&, const ShaftMoment&) = nullptr;
  /// Follows from the drive's sheet and the surroundings: no other part counts, nor what the cycle asks.
  bool drive_alone = false;
  /// The figure of the drive that is its capacity; of the drive it looks at nothing else then.
  Term Drive::*drive_figure = nullptr;
};

std::span<const LimitSpec> match_limits(); ///< first: what breaks them makes the others void
std::span<const LimitSpec> fit_limits();   ///< whether the parts go together
std::span<const LimitSpec> motor_limits();
std::span<const LimitSpec> heat_limits();
std::span<const LimitSpec> stepper_limits();
std::span<const LimitSpec> drive_limits();
std::span<const LimitSpec> gearhead_limits();
std::span<const LimitSpec> coupling_limits();
std::span<const LimitSpec> brake_limits();
std::span<const LimitSpec> mechanism_limits();
std::span<const LimitSpec> supply_limits();
std::span<const LimitSpec> accuracy_limits();
std::span<const LimitSpec> jam_limits();

/// Every limit of the program.
std::span<const LimitSpec* const> limit_specs();
/// The label of the limit with that id; the id where there is none.
std::string_view label_of_limit(std::string_view id);
/// Adds one; what is already there stays.
void register_limit(const LimitSpec& limit);

/// Judges all limits, worst first, those not judged last.
std::vector<Limit> judge_limits(const LimitContext& context);

/// Worst first, those not judged last.
void sort_limits(std::vector<Limit>& limits);

/// What decides about a part: which limits it breaks, without their words.
struct Verdict {
  struct Over {
    std::string_view label;
    double used = 0.0;
    LooksAt looks_at = LooksAt::drive;
    const LimitSpec* limit = nullptr;
    std::optional<Moment> moment = {}; ///< where in the cycle it is worst, if it is so at one moment
  };
  /// The worst of some limits; nothing where none of them is judged.
  struct Worst {
    double used = 0.0;
    const LimitSpec* limit = nullptr;
  };
  double used = std::numeric_limits<double>::quiet_NaN(); ///< of the worst limit; NaN when none is judged
  std::string_view worst;                                 ///< its label
  boost::container::small_vector<Over, 8> over;           ///< the worst first
  /// A limit that cannot be judged, and the input whose value is missing.
  struct Unjudged {
    std::string_view label, input;
    LooksAt looks_at = LooksAt::drive;
  };
  boost::container::small_vector<Unjudged, 4> unjudged;
  /// The worst of those that look at the head alone; at the motor too, the same whatever drive of a class;
  /// at the motor too, following more than that. What fits exactly does not count.
  Worst of_head, by_figures, by_course;
};
/// Counts a share in what a verdict tells by what limits look at.
void note(Verdict& verdict, const LimitSpec& spec, double used);
/// The same judges, each limit forgotten once it is judged.
Verdict judge(const LimitContext& context);

// What judges are made of.

/// A limit that cannot be judged because a value is missing.
/// The reason must outlive the program.
Limit missing(std::string_view reason, std::string_view input);

/// A limit whose demand and capacity stand for the whole cycle. Records used = demand/capacity.
Limit compare(const LimitContext& context, std::string_view step, const Term& demand, const Term& capacity,
              Kind kind, std::string_view rule);

/// A limit that binds at one moment.
Limit compare_at(const LimitContext& context, std::string_view step, const Moment& moment, const Term& demand,
                 const Term& capacity, Kind kind, std::string_view rule);

/// For a range that a value lies in or not: using it to the full is a fit, not a thin margin.
Limit fits_or_not(Limit limit);

namespace book {
extern const Formula used_share, scaled, divided, derated, mounting_derating, least_torque, stop_torque,
    rise_above, held_for_ever, turn_of_travel;
}
std::span<const Formula* const> limit_formulas();

} // namespace fulmox
