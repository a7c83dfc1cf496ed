#include "core/limits/limit.hpp"
#include "core/mechanism/wheel_pull.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// Loose goods against the greater of both accelerations; the direction with less grip decides.
std::optional<Limit> slip(const LimitContext& c) {
  if (const std::string_view input = c.model.load->mechanism->missing_grip(); !input.empty())
    return missing("The grip of the goods on the belt is missing.", input);
  const auto grip = c.model.load->mechanism->grip(c.recorder);
  if (!grip) return std::nullopt;
  const Moment &speeding = c.model.load->peaks.speeding, &slowing = c.model.load->peaks.slowing;
  const bool forward = speeding.value / grip->forward >= slowing.value / grip->backward;
  const Moment& moment = forward ? speeding : slowing;
  const Term& holds = forward ? grip->forward : grip->backward;
  // on a slope too steep for the goods to lie still nothing holds them
  const Term capacity{std::max(holds.value, 1e-9), holds.ref};
  return compare_at(c, "load.slip", moment, {moment.value, ""}, capacity, Kind::acceleration,
                    "Goods stay where they lie while friction can accelerate them.");
}

/// A belt whose slack span has lost all its tension jumps teeth.
std::optional<Limit> slack(const LimitContext& c) {
  const Mechanism::Pretension belt = c.model.load->mechanism->pretension();
  if (std::isnan(belt.force)) return std::nullopt;
  const Moment& moment = c.model.load->peaks.mechanism;
  const Term lost = c.recorder.apply(book::slackening, "belt.slackening", {{moment.value, ""}, belt.arm});
  return compare_at(c, "belt.slack", moment, lost, belt.force, Kind::force,
                    "Pulling slackens one span by half the pull: without tension left its teeth jump.");
}

/// A rope only pulls. What its least pull lacks of its greatest is at most all of it.
std::optional<Limit> rope(const LimitContext& c) {
  const auto& pull = c.model.load->peaks.rope;
  if (std::isnan(pull.greatest)) return std::nullopt;
  const Term greatest{std::max(pull.greatest, 1e-9), ""}; // it may have to push all the way
  const Term lost = c.recorder.apply(book::rope_loss, "rope.lost", {greatest, {pull.least.value, ""}});
  return compare_at(c, "rope.slack", pull.least, lost, greatest, Kind::force,
                    "A rope only pulls: a slack one jumps off its drum, and the load drops into it.");
}

/// What a wheel does to the shaft of gearhead or motor that carries it: the most, and what that shaft bears;
/// nothing where stage or coupling lies between, or nobody told what it bears.
struct ShaftLoad {
  Term rated, torque;
};
std::optional<ShaftLoad> carried(const LimitContext& c, std::string_view rating) {
  if (!c.model.load->stages.empty() || c.model.load->coupling.fitted) return std::nullopt;
  const Term rated = c.axis[c.model.gear.fitted ? "gearhead" : "motor"].term_if(rating);
  if (std::isnan(rated)) return std::nullopt;
  return ShaftLoad{rated, {c.model.load->peaks.mechanism.value, ""}};
}

std::optional<Limit> overhung(const LimitContext& c) {
  const auto shaft = carried(c, "radial_load");
  if (!shaft) return std::nullopt;
  const Mechanism& wheel = *c.model.load->mechanism;
  const Term pull = wheel.shaft_pull(shaft->torque, c.recorder);
  if (!std::isnan(pull))
    return compare(c, "shaft.radial", pull, shaft->rated, Kind::force,
                   "Across the middle of the shaft's end; further out it bears less.");
  if (!(wheel.pretension().arm > 0.0)) return std::nullopt;
  return missing("The belt's pretension is missing: it bends the shaft.", "mechanism.tension");
}

std::optional<Limit> thrust(const LimitContext& c) {
  const auto shaft = carried(c, "axial_load");
  if (!shaft) return std::nullopt;
  const Term along = c.model.load->mechanism->shaft_thrust(shaft->torque, c.recorder);
  if (std::isnan(along)) return std::nullopt;
  return compare(c, "shaft.axial", along, shaft->rated, Kind::force, "Leaning teeth push along the shaft.");
}

} // namespace

std::span<const LimitSpec> mechanism_limits() {
  static constexpr std::array list{
      LimitSpec{"load.slip", "Goods slip", "Acceleration of the belt against what friction gives the goods.",
                &slip, LooksAt::head},
      LimitSpec{"belt.slack", "Belt goes slack", "Half the greatest pull against the pretension of a span.",
                &slack, LooksAt::motor, Follows::figures},
      LimitSpec{"rope.slack", "Rope goes slack",
                "What the rope's pull loses on its way down from its greatest, against all of it.", &rope,
                LooksAt::head},
      LimitSpec{"shaft.radial", "Load across the shaft",
                "What belt or pinion pull across the shaft that carries them, against what it bears.",
                &overhung, LooksAt::motor, Follows::figures},
      LimitSpec{"shaft.axial", "Load along the shaft",
                "What leaning teeth push along the shaft that carries them, against what it bears.", &thrust,
                LooksAt::motor, Follows::figures}};
  return list;
}

} // namespace fulmox
