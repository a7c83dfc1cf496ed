#pragma once
#include "core/evaluation/part_fit.hpp"
#include "core/match/drive_group.hpp"
#include "core/match/group_floor.hpp"

#include <boost/container/small_vector.hpp>

#include <array>
#include <limits>
#include <optional>
#include <span>

namespace fulmox {

/// The drive's losses say where the bus power turns and the cycle is cut; what is integrated between cuts
/// moves by less than this with them, the swing of the winding's heat by some 1e-5.
inline constexpr double moved_by_cuts = 1e-4;

/// What a combination judged in full tells of the other drives of its class. Limits that look at the drive
/// are judged again by their own judges: on the same course and demand where these are all they follow from,
/// at the drive's peak current where they follow from nothing else of it, and on bounds of the bus power.
/// Where the bounds do not decide, only judging in full does.
class DriveSweep {
public:
  /// Nothing can be told where a data sheet leaves open what its numbers mean.
  DriveSweep(const Axis& axis, const Rules& rules, AxisModel model, JudgedAxis judged, bool leaves_open);

  /// The worst share lies between `least` and `most`.
  struct Outlook {
    double least = 0.0, most = std::numeric_limits<double>::infinity();
    std::string_view label;            ///< of the limit that `least` comes from
    std::string_view unjudged, wanted; ///< a limit that cannot be judged, and what is missing
    double energy = 0.0;               ///< J, not less is drawn in a cycle; NaN where not known
    bool exact = false;                ///< nothing would change were it judged in full

    [[nodiscard]] bool fits() const { return most <= 1.0; }
    [[nodiscard]] bool fails() const { return least > 1.0; }
  };
  /// The drive of the class with the greatest peak current: what it leaves no stronger one is needed for. It
  /// spares looking at many currents.
  void strongest(std::shared_ptr<const Drive> drive) { strongest_ = std::move(drive); }
  /// More than `beyond` is not looked at closer: the worst share may be greater than `least` then.
  /// `clear_alone` where it is known that nothing which follows from its sheet alone counts.
  Outlook operator()(const std::shared_ptr<const Drive>& drive, bool clear_alone, double beyond = 1.0);
  /// What follows from the peak current of the strongest drive: no drive of the class is used less. 0 where
  /// nothing is told.
  [[nodiscard]] double least_by_current();
  /// The same by a look at the moments that were the worst of the drive that was judged: for much less.
  [[nodiscard]] double least_at_worst_moments();
  /// What is known of a drive that fits by its outlook.
  [[nodiscard]] Trial trial(const Combination& parts, const Outlook& outlook) const;

  /// Whether the first so many drives of a group all fit, for sure; nothing that follows from their sheets
  /// alone may count.
  [[nodiscard]] bool all_fit(const DriveGroup& group, std::size_t number);
  /// What is known of the first so many drives of a group, which are known to fit.
  [[nodiscard]] GroupFloor floor_of(const DriveGroup& group, std::size_t number);

private:
  /// Between two shares, and the place of a limit in the order of all.
  struct Bounds;
  /// Bounds of what another drive loses more (`up`) or less (`down`) at any moment, W.
  struct LossChange {
    double up = 0.0, down = 0.0;
  };
  /// What limits that follow from the drive's peak current alone are worth at one.
  struct AtCurrent {
    double current = 0.0, used = 0.0;
    std::size_t order = 0;
    std::string_view unjudged, wanted;
  };
  struct Listed {
    const LimitSpec* spec;
    std::size_t order;
  };

  using Limits = boost::container::small_vector<Listed, 8>;

  void judge_again(Bounds& bounds, const Limits& limits, bool least, bool most);
  [[nodiscard]] bool bears(const Limits& limits);
  void judge_torque(Bounds& bounds);
  void judge_power(Bounds& bounds, const LossChange& change);
  void judge_moved_power(Bounds& bounds, const LossChange& change, bool most);
  [[nodiscard]] const AtCurrent& by_torque(const std::shared_ptr<const Drive>& drive);
  void add_torques(GroupFloor& floor, std::span<const std::shared_ptr<const Drive>> drives);
  void tell_energy(GroupFloor& floor, const LossChange& change) const;
  [[nodiscard]] Bounds base_bounds(double moved) const;
  [[nodiscard]] LossChange loss_change(const DriveGroup& group, std::size_t number) const;
  [[nodiscard]] bool current_stays_below(double share);
  void judge_current(Bounds& bounds);
  AtCurrent at_current();
  void look_at_strongest();
  [[nodiscard]] LossChange loss_change(const Drive& drive) const;
  [[nodiscard]] double least_energy(const LossChange& change) const;

  Axis axis_;
  const Rules& rules_;
  AxisModel model_;
  JudgedAxis judged_;
  Recorder silent_{false};
  std::shared_ptr<const Drive> judged_drive_, strongest_;
  double beyond_ = 1.0;
  bool tells_ = true;
  /// The worst of what does not look at the drive, and of it what moves with the drive's losses.
  struct Base {
    double used = 0.0;
    std::size_t order = 0;
  };
  Base steady_, moving_;
  std::string_view open_, open_input_; ///< of what does not look at the drive
  std::array<Limits, 7> drive_limits_; ///< by what they follow from
  Limits alone_;                       ///< follow from the drive's sheet alone
  [[nodiscard]] const Limits& following(Follows what) const {
    return drive_limits_[static_cast<std::size_t>(what)];
  }
  std::size_t limits_ = 0;             ///< how many there are
  double ratio_ = 0.0, winding_ = 0.0; ///< of inertia; K
  boost::container::small_vector<AtCurrent, 16> at_currents_;
  boost::container::small_vector<AtCurrent, 16> by_torque_; ///< at the peak currents of drives in groups
  /// What the strongest drive makes of limits that follow from the torque; not below any other's share.
  std::optional<double> most_by_torque_;
  /// A current, A, and a share that what follows from it was shown to stay below there, or was not.
  struct Shown {
    double current, share;
  };
  static constexpr double without_end = std::numeric_limits<double>::infinity();
  Shown below_{without_end, without_end}, not_below_{-without_end, -without_end};
};

} // namespace fulmox
