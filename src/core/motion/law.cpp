#include "core/motion/law.hpp"

#include "core/form/section.hpp"
#include "core/motion/laws/laws.hpp"
#include "core/support/registry.hpp"

namespace fulmox {

static Registry<LawSpec>& registry() {
  static Registry<LawSpec> laws([](const LawSpec& law) { return law.id; },
                                {&trapezoid_law(), &triangle_law(), &s_curve_law(), &parabolic_law(),
                                 &polynomial_345_law(), &polynomial_4567_law(), &cycloidal_law(),
                                 &modified_sine_law(), &modified_trapezoid_law()});
  return laws;
}

std::span<const LawSpec* const> law_specs() { return registry().all(); }
void register_law(const LawSpec& spec) { registry().add(spec); }
const LawSpec* find_law(std::string_view id) { return registry().find(id); }

MoveGiven MoveGiven::from(const Section& move, const MotionKinds& kinds) {
  MoveGiven out;
  out.path = move.path;
  out.kinds = kinds;
  out.distance = move.term("distance");
  out.time = move.term("time");
  out.speed = move.term("peak_speed");
  out.acceleration = move.term("acceleration");
  out.deceleration = move.term("deceleration");
  out.jerk = move.term("jerk");
  out.accel_share = move.term("acceleration_share");
  out.decel_share = move.term("deceleration_share");
  out.rounding = move.term("rounding");
  return out;
}

Problem MoveGiven::problem(std::string_view field, std::string what, std::string remedy) const {
  return {path + "." + std::string(field), std::move(what), std::move(remedy)};
}

} // namespace fulmox
