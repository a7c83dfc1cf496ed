#pragma once
#include "core/requirements/duty.hpp"

#include <array>
#include <string_view>

namespace fulmox {

enum class Bears : std::uint8_t { yes, only_with, no };

/// Whether a kind of motor may be in some surroundings, and why: "only with", "no" end before the reason.
struct PlaceWord {
  Bears bears = Bears::yes;
  std::string_view reason;
};

/// What is told of a kind of motor that no formula gives. All of it common practice, from memory.
struct MotorTraits {
  std::string_view name;     ///< in a sentence: "the servo"
  std::string_view overload; ///< what happens where more is asked than it gives
  std::string_view noise, tuning, control;
  std::string_view life;                    ///< what wears
  double life_least = 0.0, life_most = 0.0; ///< h, of what wears first
  bool loses_steps = false;                 ///< without anybody noticing
  bool has_brushes = false;
  int wires = 0;          ///< of power, protective earth not counted; 0: its leads
  int feedback_wires = 0; ///< usual
  std::array<PlaceWord, place_count> place;
};

/// Hours that brushes last, least and most: under 100 to 10,000, a few thousand usual; fast ones (above
/// 10,000 rpm) wear sooner, lightly loaded ones later. From memory: a range, never a date. Speed in rad/s;
/// `load`: rms current over the rated one, NaN where not known.
std::array<double, 2> brush_life(double mean_speed, double load);

const MotorTraits& servo_traits();
const MotorTraits& open_stepper_traits();
const MotorTraits& closed_stepper_traits();
const MotorTraits& five_phase_traits();
const MotorTraits& six_step_traits();
const MotorTraits& brushed_traits();

} // namespace fulmox
