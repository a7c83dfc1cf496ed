#include "core/motion/cycle.hpp"

#include "core/motion/trapezoid.hpp"
#include "core/quantity/format.hpp"
#include "core/support/intern.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

const SectionSpec move_spec{"move",
                            "Move",
                            {{"distance",
                              "Distance",
                              "D",
                              FieldType::quantity,
                              Kind::length,
                              range::any,
                              true,
                              "300 mm",
                              "Forward is positive; a negative distance moves back.",
                              {}},
                             {"time",
                              "Time",
                              "t",
                              FieldType::quantity,
                              Kind::time,
                              range::positive,
                              true,
                              "0.4 s",
                              "From rest to rest.",
                              {}},
                             {"acceleration_share",
                              "Acceleration share",
                              "α",
                              FieldType::quantity,
                              Kind::share,
                              {0.0, 1.0, true},
                              true,
                              "1/3",
                              "Share of the move's time spent speeding up. A third each is a good start.",
                              {}},
                             {"deceleration_share",
                              "Deceleration share",
                              "δ",
                              FieldType::quantity,
                              Kind::share,
                              {0.0, 1.0, true},
                              true,
                              "1/3",
                              "Share of the move's time spent slowing down.",
                              {}}}};

const SectionSpec dwell_spec{
    "dwell",
    "Dwell",
    {{"time",
      "Time",
      "t",
      FieldType::quantity,
      Kind::time,
      range::positive,
      true,
      "0.3 s",
      "The axis stands still.",
      {}},
     {"held_by",
      "Held by",
      "",
      FieldType::choice,
      Kind::number,
      range::any,
      true,
      "motor",
      "What carries the load while it stands: the motor's torque or the closed brake.",
      {{"motor", "the motor"}, {"brake", "the brake"}}}}};

/// Ramp shares must fit into the move together; says the largest deceleration share that does.
std::optional<Problem> misfit(const Section& move) {
  const double accel = move.term("acceleration_share").value;
  const double decel = move.term("deceleration_share").value;
  constexpr double rounding = 1e-12;
  if (accel + decel <= 1.0 + rounding) return std::nullopt;
  const double fits = 1.0 - accel;
  const std::string remedy =
      fits > rounding ? "At most " + significant(fits) + " is left for it; or shorten the acceleration."
                      : "The acceleration takes the whole time: shorten it first.";
  return Problem{move.path + ".deceleration_share",
                 "the deceleration does not fit: the ramps take " + significant(100.0 * (accel + decel)) +
                     " % of the move's time.",
                 remedy};
}

class Builder {
public:
  explicit Builder(Recorder& recorder) : recorder_(recorder) {}

  void add_move(const Section& move, std::size_t segment) {
    const Term distance = move.term("distance");
    const Term time = move.term("time");
    const Term accel_share = move.term("acceleration_share");
    const Term decel_share = move.term("deceleration_share");
    const Recorder::Scope scope(recorder_, "motion." + std::to_string(segment + 1) + ".");
    const Term peak =
        recorder_.apply(book::trapezoid_peak_speed, "peak_speed", {distance, time, accel_share, decel_share});
    const Term accel = recorder_.apply(book::ramp_acceleration, "acceleration", {peak, accel_share, time});
    const Term decel = recorder_.apply(book::ramp_deceleration, "deceleration", {peak, decel_share, time});
    const double direction = distance > 0.0 ? 1.0 : distance < 0.0 ? -1.0 : 0.0;
    const double ramp_up = accel_share * time;
    const double ramp_down = decel_share * time;
    const double target = position_ + distance;
    add({0, ramp_up, position_, {0.0, ""}, accel, direction, segment});
    const double cruise = time - ramp_up - ramp_down;
    // a triangle leaves no cruise but rounding may pretend one
    if (cruise > 1e-12 * time) add({0, cruise, position_, peak, {0.0, ""}, direction, segment});
    add({0, ramp_down, position_, peak, decel, direction, segment});
    position_ = target; // keep rounding out of the next segment
  }

  void add_dwell(const Section& dwell, std::size_t segment) {
    Piece piece{0, dwell.term("time"), position_, {0.0, ""}, {0.0, ""}, 0.0, segment};
    piece.braked = dwell.text("held_by") == "brake";
    add(piece);
  }

  Cycle finish() {
    cycle_.net_travel = position_;
    return std::move(cycle_);
  }

  void start_segment() { cycle_.segment_start.push_back(cycle_.duration); }

private:
  void add(Piece piece) {
    piece.start = cycle_.duration;
    cycle_.duration += piece.duration;
    position_ = piece.position(piece.duration);
    cycle_.lowest = std::min(cycle_.lowest, position_);
    cycle_.highest = std::max(cycle_.highest, position_);
    cycle_.pieces.push_back(piece);
  }

  Recorder& recorder_;
  Cycle cycle_;
  double position_ = 0.0;
};

} // namespace

std::span<const SectionSpec* const> segment_specs() {
  static const std::array specs{&move_spec, &dwell_spec};
  return specs;
}

const SectionSpec* find_segment_spec(std::string_view id) {
  for (const SectionSpec* spec : segment_specs())
    if (spec->id == id) return spec;
  return nullptr;
}

Expected<Cycle> build_cycle(std::span<const Section> segments, Recorder& recorder) {
  if (segments.empty())
    return Problem{"cycle", "the cycle is empty.", "Add a move, for example 300 mm in 0.4 s."};
  Builder builder(recorder);
  bool moves = false;
  for (std::size_t i = 0; i < segments.size(); ++i) {
    builder.start_segment();
    if (&segments[i].spec() == &dwell_spec) {
      builder.add_dwell(segments[i], i);
      continue;
    }
    if (const auto problem = misfit(segments[i])) return *problem;
    builder.add_move(segments[i], i);
    moves |= segments[i].term("distance").value != 0.0;
  }
  if (!moves)
    return Problem{"cycle", "nothing moves in this cycle.", "Add a move, for example 300 mm in 0.4 s."};
  return builder.finish();
}

} // namespace fulmox
