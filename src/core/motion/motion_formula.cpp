#include "core/motion/motion_formula.hpp"

#include "core/support/intern.hpp"

namespace fulmox {
namespace {

Kind turned(Kind kind) {
  switch (kind) {
  case Kind::length:
    return Kind::angle;
  case Kind::speed:
    return Kind::angular_speed;
  case Kind::acceleration:
    return Kind::angular_acceleration;
  case Kind::jerk:
    return Kind::angular_jerk;
  default:
    return kind;
  }
}

Formula turned(Formula formula) {
  formula.id = intern("turn" + std::string(formula.id.substr(formula.id.find('.'))));
  formula.kind = turned(formula.kind);
  for (Parameter& parameter : formula.parameters) parameter.kind = turned(parameter.kind);
  return formula;
}

} // namespace

MotionFormula::MotionFormula(Formula along) : line(along), turn(turned(std::move(along))) {}

} // namespace fulmox
