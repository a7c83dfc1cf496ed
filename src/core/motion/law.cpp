#include "core/motion/law.hpp"

#include "core/form/section.hpp"
#include "core/motion/laws/laws.hpp"

namespace fulmox {

namespace {
std::vector<const LawSpec*>& registry() {
  static std::vector<const LawSpec*> specs{
      &trapezoid_law(), &triangle_law(),       &s_curve_law(),
      &parabolic_law(), &polynomial_345_law(), &polynomial_4567_law(),
      &cycloidal_law(), &modified_sine_law(),  &modified_trapezoid_law()};
  return specs;
}
} // namespace

std::span<const LawSpec* const> law_specs() { return registry(); }

void register_law(const LawSpec& spec) {
  if (find_law(spec.id) == nullptr) registry().push_back(&spec);
}

const LawSpec* find_law(std::string_view id) {
  for (const LawSpec* spec : law_specs())
    if (spec->id == id) return spec;
  return nullptr;
}

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
