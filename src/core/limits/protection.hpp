#pragma once
#include "core/limits/limit.hpp"

namespace fulmox {

/// The current set on the drive that keeps the motor from breaking what it drives.
struct Protection {
  Term torque;  ///< N·m at the motor that head and coupling bear again and again
  Term current; ///< A, in the motor's ampere
};
/// Nothing where neither head nor coupling has a rating, the motor's current is unknown, or motor and drive
/// cannot reach that torque anyway. Losses of the head are not trusted: the smaller of what driving and
/// braking bear; the rotor's own share is not counted off, which is the safe side.
std::optional<Protection> protecting_current(const AxisModel& model, Recorder& recorder);

namespace book {
extern const Formula borne_torque;
}

} // namespace fulmox
