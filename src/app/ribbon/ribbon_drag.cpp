#include "app/ribbon/ribbon_drag.hpp"

#include "core/quantity/number_text.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <span>

namespace fulmox::app {
namespace {

double snap(double value, double step) { return std::round(value / step) * step; }

constexpr int figures = 6;

/// The number with the unit last typed in this field.
std::string in_usual_unit(const Section& segment, std::string_view field, double si) {
  const FieldSpec& spec = segment.spec().fields[*segment.spec().index_of(field)];
  const std::string unit = usual_unit(spec, segment.entry(field));
  const auto one = parse_quantity("1", spec.kind, unit);
  const std::string number = number_text(si / (one ? one->value : 1.0), figures);
  return unit.empty() ? number : number + " " + unit;
}

/// What a move or run must not also hold once its time or its shares are dragged.
constexpr std::array limits{"peak_speed", "acceleration", "deceleration", "jerk"};

void clear_others(std::vector<DragEdit>& edits, const Section& segment, std::span<const char* const> fields) {
  for (const char* field : fields)
    if (segment.spec().index_of(field) && !segment.blank(field)) edits.push_back({field, ""});
}

} // namespace

std::vector<DragEdit> drag(const Section& segment, Ribbon::Grip grip, const Ribbon::DragStart& start,
                           double seconds, double up) {
  constexpr double share_step = 0.01;
  constexpr double least_share = 0.02;
  const double duration = start.time;
  std::vector<DragEdit> edits;
  const auto keep_share = [&](const char* field, double share) {
    if (segment.spec().index_of(field) && segment.blank(field) && share > 0.0)
      edits.push_back({field, number_text(share, figures)});
  };
  const auto drag_share = [&](const char* field, double from, const char* other, double rest, double moved) {
    const double most = std::max(least_share, std::floor((1.0 - rest) / share_step + 1e-9) * share_step);
    edits.push_back(
        {field, number_text(std::clamp(snap(from + moved, share_step), least_share, most), figures)});
    keep_share(other, rest);
    if (segment.blank("time")) edits.push_back({"time", in_usual_unit(segment, "time", duration)});
    clear_others(edits, segment, limits);
  };
  switch (grip) {
  case Ribbon::Grip::duration: {
    const double step = duration < 0.1 ? 0.001 : 0.005;
    edits.push_back({"time", in_usual_unit(segment, "time", std::max(step, snap(duration + seconds, step)))});
    // the shape stays when the limits it followed from give way
    const bool followed = std::any_of(limits.begin(), limits.end(), [&](const char* field) {
      return segment.spec().index_of(field) && !segment.blank(field);
    });
    if (followed) {
      keep_share("acceleration_share", start.accel_share);
      keep_share("deceleration_share", start.decel_share);
    }
    clear_others(edits, segment, limits);
    if (segment.is("run")) clear_others(edits, segment, std::array{"distance"});
    break;
  }
  case Ribbon::Grip::ramp_up:
    drag_share("acceleration_share", start.accel_share, "deceleration_share", start.decel_share,
               seconds / duration);
    break;
  case Ribbon::Grip::ramp_down:
    drag_share("deceleration_share", start.decel_share, "acceleration_share", start.accel_share,
               -seconds / duration);
    break;
  case Ribbon::Grip::distance: {
    // a hundred pixels double the move or bring it to nothing
    const bool turning = segment.spec().fields[*segment.spec().index_of("distance")].kind == Kind::angle;
    const double unit = turning ? M_PI / 180.0 : 1e-3;
    const double from = start.distance;
    const double size = std::abs(from) > 0.0 ? std::abs(from) / 100.0 : unit;
    const double step = std::abs(from) < 20.0 * unit ? 0.1 * unit : unit;
    edits.push_back({"distance", in_usual_unit(segment, "distance", snap(from + up * size, step))});
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
