#include "core/motion/segment_edits.hpp"

#include "core/quantity/number_text.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

/// Enough that the pieces meet well within the tolerance of a jump of speed (1e-6), few enough to be read.
constexpr int digits = 10;

/// "-50 mm" → "50 mm", "2*3 mm ±5%" → "-2*3 mm ±5%".
std::string negated(std::string text) {
  const auto spread = std::min(text.find("±"), text.find("+-"));
  const std::string rest = spread == std::string::npos ? "" : text.substr(spread);
  text.resize(std::min(spread, text.size()));
  while (!text.empty() && text.back() == ' ') text.pop_back();
  const bool sum = text.find_first_of("+-", 1) != std::string::npos;
  const std::string turned = sum ? "-1*(" + text + ")" : text.starts_with('-') ? text.substr(1) : "-" + text;
  return rest.empty() ? turned : turned + " " + rest;
}

/// Types an SI value in the unit the field was typed in.
void type_si(Section& section, std::string_view field, double si) {
  const FieldSpec& spec = section.spec().fields[*section.spec().index_of(field)];
  const std::string unit = usual_unit(spec, section.entry(field));
  const auto one = parse_quantity("1", spec.kind, unit);
  std::string text = number_text(si / (one ? one->value : 1.0), digits);
  if (!unit.empty()) text += " " + unit;
  section.type(field, text, section.entry(field).origin);
}

/// Where a segment is cut, counted from the start of its first passage.
struct CutPoint {
  double position = 0.0, speed = 0.0, time = 0.0;
  double total_time = 0.0, total_distance = 0.0;
};

/// Pieces of the first time the segment runs.
std::span<const MotionPiece> pieces_of(const Cycle& cycle, std::size_t index) {
  std::size_t first = 0;
  while (first < cycle.pieces.size() && cycle.pieces[first].segment != index) ++first;
  std::size_t last = first;
  while (last < cycle.pieces.size() && cycle.pieces[last].segment == index &&
         cycle.pieces[last].passage == cycle.pieces[first].passage)
    ++last;
  return std::span(cycle.pieces).subspan(first, last - first);
}

CutPoint cut_point(const Cycle& cycle, std::size_t index, double tau) {
  const auto pieces = pieces_of(cycle, index);
  const double start = pieces.front().start;
  const auto after = std::find_if(pieces.begin(), pieces.end(), [&](const MotionPiece& piece) {
    return tau <= piece.start - start + piece.duration;
  });
  const MotionPiece& piece = after == pieces.end() ? pieces.back() : *after;
  const double within = std::clamp(tau - (piece.start - start), 0.0, piece.duration);
  return {piece.position(within) - pieces.front().position(0.0), piece.speed(within), tau,
          cycle.facts[index].time, cycle.facts[index].distance};
}

/// A process force that runs in a straight line goes on where it was cut.
void cut_process(Section& first, Section& second, double share) {
  if (first.blank("process_end")) return;
  const double from = first.term_or("process", 0.0);
  const double middle = from + share * (first.term("process_end") - from);
  type_si(first, "process_end", middle);
  type_si(second, "process", middle);
}

void cut_time(Section& first, Section& second, const CutPoint& at) {
  type_si(first, "time", at.time);
  type_si(second, "time", at.total_time - at.time);
}

void cut_run(Section& first, Section& second, const CutPoint& at) {
  if (!first.blank("time")) return cut_time(first, second, at);
  type_si(first, "distance", std::abs(at.position));
  type_si(second, "distance", std::abs(at.total_distance - at.position));
}

/// Each half says its time, its ramps as shares of it, and the speed at which they meet.
void cut_trapezoid(Section& first, Section& second, const SegmentFacts& facts, const CutPoint& at) {
  const double up = facts.accel_share * at.total_time, down = facts.decel_share * at.total_time;
  const double left = at.total_time - at.time;
  const double ends = at.total_time - down; // where the ramp down begins
  const auto share = [](double part, double whole) { return std::clamp(part / whole, 0.0, 1.0); };
  for (Section* half : {&first, &second})
    for (const char* field : {"peak_speed", "acceleration", "deceleration", "jerk"}) half->type(field, "");
  type_si(first, "distance", at.position);
  type_si(second, "distance", at.total_distance - at.position);
  cut_time(first, second, at);
  const auto ramps = [&](Section& half, double accelerating, double decelerating) {
    // together they must not take more than the whole, whatever the last figure
    accelerating = std::min(accelerating, 1.0 - decelerating);
    half.type("acceleration_share", number_text(accelerating, 17));
    half.type("deceleration_share", number_text(decelerating, 17));
  };
  ramps(first, share(std::min(up, at.time), at.time), share(at.time - ends, at.time));
  ramps(second, share(up - at.time, left), share(std::min(down, left), left));
  type_si(first, "end_speed", std::abs(at.speed));
  type_si(second, "start_speed", std::abs(at.speed));
}

} // namespace

bool can_mirror(const Section& segment) {
  return segment.is("move") || segment.is("run") || segment.is("profile");
}

Section mirrored(const Section& segment) {
  Section turned = segment;
  if (segment.is("profile")) {
    const FieldSpec& spec = segment.spec().fields[*segment.spec().index_of("points")];
    const std::string unit(info(spec.kind).si);
    std::string text;
    for (const CurvePoint& point : segment.entry("points").curve)
      text += (text.empty() ? "" : "; ") + number_text(point[0], digits) +
              " s: " + number_text(0.0 - point[1], digits) + " " + unit;
    turned.type("points", text, segment.entry("points").origin);
    return turned;
  }
  const auto turn = [&](const char* field) {
    if (!segment.blank(field)) turned.type(field, negated(segment.text(field)), segment.entry(field).origin);
  };
  if (segment.is("move")) {
    turn("distance");
    return turned;
  }
  // a run told backwards by its distance is turned by it
  if (!segment.blank("distance") && segment.term("distance") < 0.0)
    turn("distance");
  else
    turn("speed");
  if (segment.term("speed") < 0.0 && segment.term_or("distance", 0.0) < 0.0) turn("speed");
  return turned;
}

std::vector<Section> halved(const Section& move) {
  Section first = move;
  // a text that means nothing yet stays as typed
  for (const char* field : {"distance", "time"})
    if (std::isfinite(move.term(field))) type_si(first, field, 0.5 * move.term(field));
  Section second = first;
  first.type("end_speed", "");
  second.type("start_speed", "");
  cut_process(first, second, 0.5);
  return {std::move(first), std::move(second)};
}

double handy_cut(const Cycle& cycle, std::size_t index, double tau) {
  const auto pieces = pieces_of(cycle, index);
  const double total = cycle.facts[index].time;
  constexpr double near = 0.03; // of the segment
  double best = total;
  for (std::size_t i = 1; i < pieces.size(); ++i) {
    const double corner = pieces[i].start - pieces.front().start;
    if (std::abs(corner - tau) < std::min(near * total, std::abs(best - tau))) best = corner;
  }
  if (best < total) return best;
  const double step = std::pow(10.0, std::floor(std::log10(total)) - 2.0);
  return std::clamp(std::round(tau / step) * step, step, total - step);
}

Expected<std::vector<Section>> cut(const Cycle& cycle, std::span<const Section> segments, std::size_t index,
                                   double tau) {
  const Section& segment = segments[index];
  if (segment.is("repeat") || segment.is("end"))
    return Problem{segment.path, "a mark of a group has no duration to cut.", "Cut a segment within it."};
  if (segment.is("profile"))
    return Problem{segment.path, "a recorded profile is one curve.", "Cut the record before reading it."};
  const SegmentFacts& facts = cycle.facts[index];
  if (!(tau > 0.0 && tau < facts.time))
    return Problem{segment.path, "the cut lies outside of this segment.", "Put the cursor inside it."};
  if (segment.is("move") && facts.distance != 0.0 && segment.text("law") != "trapezoid")
    return Problem{segment.path, "only a trapezoid keeps its motion when it is cut.",
                   "Split it into two moves, or choose the trapezoid."};
  const CutPoint at = cut_point(cycle, index, tau);
  Section first = segment, second = segment;
  cut_process(first, second, at.total_distance == 0.0 ? tau / facts.time : at.position / at.total_distance);
  if (segment.is("run"))
    cut_run(first, second, at);
  else if (segment.is("dwell") || facts.distance == 0.0)
    cut_time(first, second, at);
  else
    cut_trapezoid(first, second, facts, at);
  return std::vector<Section>{std::move(first), std::move(second)};
}

} // namespace fulmox
