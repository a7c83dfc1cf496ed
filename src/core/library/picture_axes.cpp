#include "core/library/picture_axes.hpp"

#include <cmath>

namespace fulmox {
namespace {

PicturePoint step_of(const std::array<AxisMark, 2>& marks) {
  const double values = marks[1].value - marks[0].value;
  return {(marks[1].at.x - marks[0].at.x) / values, (marks[1].at.y - marks[0].at.y) / values};
}

double length(PicturePoint p) { return std::hypot(p.x, p.y); }

} // namespace

Expected<PictureAxes> PictureAxes::from(const std::array<AxisMark, 2>& along,
                                        const std::array<AxisMark, 2>& up) {
  for (const auto* marks : {&along, &up}) {
    const std::string axis = marks == &along ? "the axis along" : "the axis up";
    if (!((*marks)[0].value != (*marks)[1].value) || !std::isfinite((*marks)[0].value) ||
        !std::isfinite((*marks)[1].value))
      return Problem{axis, "its two marks have the same value.", "Give the values that stand at them."};
    constexpr double least = 2.0; // pixels
    if (std::hypot((*marks)[1].at.x - (*marks)[0].at.x, (*marks)[1].at.y - (*marks)[0].at.y) < least)
      return Problem{axis, "its two marks lie on each other.", "Click two that are far apart."};
  }
  PictureAxes axes;
  axes.along_ = along;
  axes.up_ = up;
  axes.step_along_ = step_of(along);
  axes.step_up_ = step_of(up);
  axes.determinant_ = axes.step_along_.x * axes.step_up_.y - axes.step_along_.y * axes.step_up_.x;
  constexpr double least_angle = 0.1; // of a right one
  if (std::abs(axes.determinant_) < least_angle * length(axes.step_along_) * length(axes.step_up_))
    return Problem{"the axes", "they run the same way.", "Mark one along and one up."};
  return axes;
}

std::array<double, 2> PictureAxes::read(PicturePoint at) const {
  // at − mark = a·step_along + b·step_up: a counts from the mark of the axis along, b from that of the axis
  // up
  const auto solve = [&](const PicturePoint& from) {
    const double x = at.x - from.x, y = at.y - from.y;
    return std::array{(x * step_up_.y - y * step_up_.x) / determinant_,
                      (step_along_.x * y - step_along_.y * x) / determinant_};
  };
  return {along_[0].value + solve(along_[0].at)[0], up_[0].value + solve(up_[0].at)[1]};
}

PicturePoint PictureAxes::place(const std::array<double, 2>& values) const {
  const auto here = read(along_[0].at);
  const double a = values[0] - here[0], b = values[1] - here[1];
  return {along_[0].at.x + a * step_along_.x + b * step_up_.x,
          along_[0].at.y + a * step_along_.y + b * step_up_.y};
}

} // namespace fulmox
