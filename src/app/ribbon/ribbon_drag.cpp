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

/// The fields a move or run must not also hold once this one is dragged.
void clear_others(std::vector<DragEdit>& edits, const Section& segment,
                  std::initializer_list<const char*> fields) {
  for (const char* field : fields)
    if (segment.spec().index_of(field) && !segment.blank(field)) edits.push_back({field, ""});
}

} // namespace

double drag_start(const SegmentFacts& facts, Ribbon::Grip grip) {
  switch (grip) {
  case Ribbon::Grip::duration:
    return facts.time;
  case Ribbon::Grip::ramp_up:
    return facts.accel_share;
  case Ribbon::Grip::ramp_down:
    return facts.decel_share;
  case Ribbon::Grip::distance:
    return facts.distance;
  case Ribbon::Grip::none:
  case Ribbon::Grip::cursor:
  case Ribbon::Grip::selection:
    break;
  }
  return 0.0;
}

std::vector<DragEdit> drag(const Section& segment, Ribbon::Grip grip, double start, double duration,
                           double seconds, double up) {
  constexpr double share_step = 0.01;
  constexpr double least_share = 0.02;
  std::vector<DragEdit> edits;
  const auto other_share = [&](std::string_view field) {
    return segment.blank(field) ? 1.0 / 3.0 : segment.term(field).value;
  };
  const auto drag_share = [&](const char* field, const char* other, double moved) {
    const double rest = other_share(other);
    const double most = std::max(least_share, std::floor((1.0 - rest) / share_step + 1e-9) * share_step);
    edits.push_back({field, significant(std::clamp(snap(start + moved, share_step), least_share, most), 4)});
    if (segment.blank(other)) edits.push_back({other, significant(rest, 4)});
    if (segment.blank("time")) edits.push_back({"time", in_usual_unit(segment, "time", duration)});
    clear_others(edits, segment, {"peak_speed", "acceleration", "deceleration", "jerk"});
  };
  switch (grip) {
  case Ribbon::Grip::duration: {
    const double step = duration < 0.1 ? 0.001 : 0.005;
    edits.push_back({"time", in_usual_unit(segment, "time", std::max(step, snap(start + seconds, step)))});
    clear_others(edits, segment, {"peak_speed", "acceleration", "deceleration", "jerk"});
    if (segment.spec().id == "run") clear_others(edits, segment, {"distance"});
    break;
  }
  case Ribbon::Grip::ramp_up:
    drag_share("acceleration_share", "deceleration_share", seconds / duration);
    break;
  case Ribbon::Grip::ramp_down:
    drag_share("deceleration_share", "acceleration_share", -seconds / duration);
    break;
  case Ribbon::Grip::distance: {
    // a hundred pixels double the move or bring it to nothing
    const bool turning = segment.spec().fields[*segment.spec().index_of("distance")].kind == Kind::angle;
    const double unit = turning ? M_PI / 180.0 : 1e-3;
    const double size = std::abs(start) > 0.0 ? std::abs(start) / 100.0 : unit;
    const double step = std::abs(start) < 20.0 * unit ? 0.1 * unit : unit;
    edits.push_back({"distance", in_usual_unit(segment, "distance", snap(start + up * size, step))});
    break;
  }
  case Ribbon::Grip::none:
  case Ribbon::Grip::cursor:
  case Ribbon::Grip::selection:
    break;
  }
  return edits;
}

} // namespace fulmox::app
