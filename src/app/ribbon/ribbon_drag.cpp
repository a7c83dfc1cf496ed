#include "app/ribbon/ribbon_drag.hpp"

#include "core/quantity/format.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

double snap(double value, double step) { return std::round(value / step) * step; }

/// ASCII number with the unit last typed in this field.
std::string in_usual_unit(const Section& segment, std::string_view field, double si) {
  const FieldSpec& spec = segment.spec().fields[*segment.spec().index_of(field)];
  const std::string unit = usual_unit(spec, segment.entry(field));
  const auto one = parse_quantity("1", spec.kind, unit);
  std::string number = significant(si / (one ? one->value : 1.0), 4);
  if (number.starts_with("−")) number.replace(0, std::string("−").size(), "-");
  return unit.empty() ? number : number + " " + unit;
}

} // namespace

double drag_start(const Section& segment, Ribbon::Grip grip) {
  switch (grip) {
  case Ribbon::Grip::duration:
    return segment.term("time");
  case Ribbon::Grip::ramp_up:
    return segment.term("acceleration_share");
  case Ribbon::Grip::ramp_down:
    return segment.term("deceleration_share");
  case Ribbon::Grip::distance:
    return segment.term("distance");
  case Ribbon::Grip::none:
  case Ribbon::Grip::cursor:
    break;
  }
  return 0.0;
}

std::optional<DragEdit> drag(const Section& segment, Ribbon::Grip grip, double start, double duration,
                             double seconds, double up) {
  constexpr double share_step = 0.01;
  constexpr double least_share = 0.02;
  switch (grip) {
  case Ribbon::Grip::duration: {
    const double step = duration < 0.1 ? 0.001 : 0.005;
    return DragEdit{"time", in_usual_unit(segment, "time", std::max(step, snap(start + seconds, step)))};
  }
  case Ribbon::Grip::ramp_up: {
    const double most = 1.0 - segment.term("deceleration_share");
    const double share = std::clamp(snap(start + seconds / duration, share_step), least_share,
                                    std::max(least_share, std::floor(most / share_step + 1e-9) * share_step));
    return DragEdit{"acceleration_share", significant(share, 4)};
  }
  case Ribbon::Grip::ramp_down: {
    const double most = 1.0 - segment.term("acceleration_share");
    const double share = std::clamp(snap(start - seconds / duration, share_step), least_share,
                                    std::max(least_share, std::floor(most / share_step + 1e-9) * share_step));
    return DragEdit{"deceleration_share", significant(share, 4)};
  }
  case Ribbon::Grip::distance: {
    // a hundred pixels double the move or bring it to nothing; a move from nothing grows by a millimetre a
    // pixel
    const double size = std::abs(start) > 0.0 ? std::abs(start) / 100.0 : 1e-3;
    const double step = std::abs(start) < 0.02 ? 1e-4 : 1e-3;
    return DragEdit{"distance", in_usual_unit(segment, "distance", snap(start + up * size, step))};
  }
  case Ribbon::Grip::none:
  case Ribbon::Grip::cursor:
    break;
  }
  return std::nullopt;
}

} // namespace fulmox::app
