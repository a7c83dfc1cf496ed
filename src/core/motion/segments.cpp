#include "core/motion/segments.hpp"

#include "core/motion/law.hpp"

#include <array>

namespace fulmox {
namespace {

FieldSpec law_field() {
  std::vector<Choice> choices;
  for (const LawSpec* law : law_specs()) choices.push_back({law->id, law->label});
  return one_of("law", "Law", std::move(choices), "How the speed runs over the move.");
}

/// What may change during any segment.
std::vector<FieldSpec> with_load(std::vector<FieldSpec> fields, const MotionKinds& k) {
  const bool torque = k.effort == Kind::torque;
  fields.push_back(optional("payload", "Payload", "m_p", Kind::mass, range::not_negative,
                            "Mass carried besides the load during this segment: a picked part."));
  fields.push_back(optional("process", torque ? "Process torque" : "Process force", torque ? "T_p" : "F_p",
                            k.effort, range::any,
                            "External; positive opposes forward motion. Besides that of the load."));
  fields.push_back(
      optional("process_end", "… at its end", torque ? "T_p1" : "F_p1", k.effort, range::any,
               "Runs in a straight line over the distance (in a dwell: over the time). Blank: constant."));
  fields.push_back(
      points("process_curve", "… over position", "", k.distance, k.effort, range::any,
             "Points like 0 mm: 0 N; 20 mm: 150 N, position counted from the start of the cycle; the end "
             "values hold beyond."));
  return fields;
}

SectionSpec move(const MotionKinds& k) {
  const bool turning = k.rotary();
  return {
      "move", "Move",
      with_load(
          {needed("distance", turning ? "Angle" : "Distance", turning ? "φ" : "D", k.distance, range::any,
                  turning ? "90 deg" : "300 mm", "Forward is positive; negative moves back."),
           law_field(),
           usually("time", "Time", "t", Kind::time, range::positive, "0.4 s",
                   "From the start of the move to its end."),
           optional("peak_speed", "Peak speed", "v", k.speed, range::positive, "Greatest speed of the move."),
           optional("acceleration", "Acceleration", "a", k.acceleration, range::positive, "Of the ramp up."),
           optional("deceleration", "Deceleration", "d", k.acceleration, range::positive,
                    "Of the ramp down. Blank: the same as the acceleration."),
           optional("jerk", "Jerk", "j", k.jerk, range::positive, "Greatest jerk of an S-curve."),
           optional("acceleration_share", "Acceleration share", "α", Kind::share, range::share,
                    "Share of the move's time spent speeding up. Blank: follows, or a third."),
           optional("deceleration_share", "Deceleration share", "δ", Kind::share, range::share,
                    "Share of the move's time spent slowing down. Blank: follows, or as the acceleration."),
           optional("rounding", "Ramp rounding", "ρ", Kind::share, range::share,
                    "Share of each ramp of an S-curve that is rounded. Blank: half."),
           optional("start_speed", "Start speed", "v_s", k.speed, range::not_negative,
                    "Along the move. Blank: that of a run before it, else rest."),
           optional("end_speed", "End speed", "v_e", k.speed, range::not_negative,
                    "Along the move. Blank: that of a run after it, else rest.")},
          k)};
}

SectionSpec run(const MotionKinds& k) {
  return {"run", "Run",
          with_load(
              {needed("speed", "Speed", "v", k.speed, range::any, k.rotary() ? "60 rpm" : "200 mm/s",
                      "Constant. Forward is positive; negative runs back."),
               usually("time", "Time", "t", Kind::time, range::positive, "1 s", "Give this or the distance."),
               optional("distance", k.rotary() ? "Angle" : "Distance", k.rotary() ? "φ" : "D", k.distance,
                        range::any, "Give this or the time. Forward is positive; negative runs back.")},
              k)};
}

SectionSpec dwell(const MotionKinds& k) {
  return {
      "dwell", "Dwell",
      with_load({needed("time", "Time", "t", Kind::time, range::positive, "0.3 s", "The axis stands still."),
                 one_of("held_by", "Held by", {{"motor", "the motor"}, {"brake", "the brake"}},
                        "What carries the load while it stands: the motor's torque or the closed brake.")},
                k)};
}

SectionSpec profile(const MotionKinds& k) {
  FieldSpec record = points("points", "Recorded points", "", Kind::time, k.distance, range::any,
                            "Time and position, like 0 s: 0 mm; 0.01 s: 0.4 mm; …");
  record.required = true;
  return {
      "profile", "Profile",
      with_load(
          {std::move(record),
           optional("smoothing", "Noise of the record", "σ", k.distance, range::not_negative,
                    "Rms deviation the fitted curve may keep from the record. Blank: through every point, "
                    "which makes torque out of noise."),
           one_of("ends", "Ends", {{"rest", "at rest"}, {"free", "as fitted"}},
                  "Whether the record starts and ends standing still.")},
          k)};
}

SectionSpec repeat() {
  return {"repeat",
          "Repeat",
          {needed("count", "Times", "n", Kind::number, range::whole(1.0, 10000.0), "2",
                  "How often the segments up to the end of this group run."),
           written("name", "Name", "", "What this group is.")}};
}

std::vector<SectionSpec> all(const MotionKinds& k) {
  return {move(k), run(k), dwell(k), profile(k), repeat(), {"end", "End of group", {}}};
}

} // namespace

std::span<const SectionSpec> segment_specs(const MotionKinds& kinds) {
  static const auto line = all(along_a_line);
  static const auto axis = all(about_an_axis);
  static const auto crank = all(turning_against_force);
  return !kinds.rotary() ? line : kinds.effort == Kind::torque ? axis : crank;
}

const SectionSpec* find_segment_spec(std::string_view id, const MotionKinds& kinds) {
  for (const SectionSpec& spec : segment_specs(kinds))
    if (spec.id == id) return &spec;
  return nullptr;
}

} // namespace fulmox
