#pragma once
#include "core/limits/limit.hpp"
#include "core/limits/second_look.hpp"
#include "core/limits/stepper_band.hpp"

#include <memory>
#include <optional>
#include <string_view>
#include <vector>

namespace fulmox {

/// What a number is about; results are shown by these.
enum class ResultGroup : std::uint8_t { demand, electrical, heat, train };
std::string_view title_of(ResultGroup group);

/// One number told to the user.
struct ResultValue {
  std::string_view id, label, symbol, help;
  Kind kind = Kind::number;
  double value = 0.0;
  std::string_view step; ///< id of its step in the working
  ResultGroup group = ResultGroup::demand;
};

/// All that follows from an axis and a set of house rules.
struct Evaluation {
  std::shared_ptr<const AxisModel> model;
  Course course;
  Demand demand;
  std::vector<ResultValue> results;
  std::vector<Limit> limits;
  std::vector<Warning> warnings;
  std::vector<Step> steps;
  /// Share of the motor's greatest torque that may be asked of it: below 1 for steppers, by the house rules.
  double torque_use = 1.0;
  std::optional<SpeedBand> resonance; ///< of a stepper with its load

  [[nodiscard]] const ResultValue* find(std::string_view id) const;
  /// The step of that id.
  [[nodiscard]] const Step* step(std::string_view id) const;
  /// The step behind what a user may name: a result ("demand.peak_torque"), a limit ("limit.motor.peak"), or
  /// the step of that id; nothing where none of them is there.
  [[nodiscard]] const Step* step_behind(std::string_view name) const;
  /// State at a time of the cycle, for the cursor.
  [[nodiscard]] Instant at(double time) const;
};

/// Works everything out, or says what keeps it from being worked out. Pure. The unit set only words the
/// warnings.
Expected<Evaluation> evaluate(const Axis& axis, const Section& house_rules, UnitSet units = UnitSet::si);

} // namespace fulmox
