#include "core/motion/cycle.hpp"

#include "core/form/curve.hpp"

#include "core/motion/formulas.hpp"
#include "core/motion/profile.hpp"
#include "core/quantity/format.hpp"
#include "core/support/intern.hpp"

#include <boost/math/tools/toms748_solve.hpp>

#include <algorithm>
#include <cmath>
#include <optional>

namespace fulmox {
namespace {

constexpr std::size_t piece_limit = 20000;
constexpr int most_nested = 20; ///< groups in each other

bool marker(const Section& segment) { return segment.is("repeat") || segment.is("end"); }

/// The run that comes before or after a move, markers skipped, over the end of the cycle; nullptr when
/// another kind of segment does.
const Section* neighbouring_run(std::span<const Section> segments, std::size_t index, bool after) {
  const std::size_t count = segments.size();
  for (std::size_t k = 1; k < count; ++k) {
    const Section& other = segments[(after ? index + k : index + count - k) % count];
    if (marker(other)) continue;
    return other.is("run") ? &other : nullptr;
  }
  return nullptr;
}

class Builder {
public:
  Builder(std::span<const Section> segments, const MotionKinds& kinds, Recorder& recorder)
      : segments_(segments), recorder_(recorder) {
    cycle_.kinds = kinds;
    cycle_.facts.resize(segments.size());
    plans_.resize(segments.size());
  }

  Expected<Cycle> build() {
    if (segments_.empty())
      return Problem{"cycle", "the cycle is empty.", "Add a move, for example 300 mm in 0.4 s."};
    for (std::size_t i = 0; i < segments_.size(); ++i)
      if (auto problem = plan(i)) return *problem;
    std::size_t at = 0;
    if (auto problem = lay_out(at)) return *problem;
    if (at < segments_.size())
      return Problem{segments_[at].path, "this end of a group has no beginning.",
                     "Remove it, or add a repeat."};
    if (auto problem = jumps()) return *problem;
    if (std::none_of(cycle_.pieces.begin(), cycle_.pieces.end(),
                     [](const MotionPiece& p) { return !p.rest(); }))
      return Problem{"cycle", "nothing moves in this cycle.", "Add a move, for example 300 mm in 0.4 s."};
    cycle_.net_travel = position_;
    return std::move(cycle_);
  }

private:
  void read_load(std::size_t i) {
    const Section& segment = segments_[i];
    SegmentFacts& facts = cycle_.facts[i];
    facts.payload = segment.term_or("payload", 0.0);
    facts.effort_first = segment.term_or("process", 0.0);
    facts.effort_last = segment.blank("process_end") ? facts.effort_first : segment.term("process_end");
    facts.effort_curve = segment.entry("process_curve").curve;
    facts.effort_ref = segment.term("process_curve").ref;
  }

  std::optional<Problem> plan(std::size_t i) {
    const Section& segment = segments_[i];
    if (marker(segment)) return std::nullopt;
    read_load(i);
    const Recorder::Scope scope(recorder_, "motion." + std::to_string(i + 1) + ".");
    Expected<MovePlan> planned = segment.is("move")      ? plan_move(i)
                                 : segment.is("run")     ? plan_run(segment)
                                 : segment.is("profile") ? plan_profile(segment)
                                                         : plan_rest(segment.term("time"));
    if (!planned) return planned.problem();
    SegmentFacts& facts = cycle_.facts[i];
    facts.time = planned->time;
    facts.peak_speed = planned->peak_speed;
    facts.peak_acceleration = planned->peak_acceleration;
    facts.peak_jerk = planned->peak_jerk;
    facts.accel_share = planned->accel_share;
    facts.decel_share = planned->decel_share;
    facts.distance = segment.is("move") ? segment.term("distance") : Term{travel(*planned), ""};
    plans_[i] = std::move(*planned);
    return std::nullopt;
  }

  static double travel(const MovePlan& plan) {
    return plan.pieces.back().path.position(plan.pieces.back().duration);
  }

  Expected<MovePlan> plan_move(std::size_t i) {
    const Section& move = segments_[i];
    MoveGiven given = MoveGiven::from(move, cycle_.kinds);
    const auto end_of = [&](std::string_view field, bool after) -> Term {
      if (!move.blank(field)) return move.term(field);
      const Section* run = neighbouring_run(segments_, i, after);
      return run == nullptr ? Term{0.0, ""} : Term{std::abs(run->term("speed")), run->term("speed").ref};
    };
    given.start_speed = end_of("start_speed", false);
    given.end_speed = end_of("end_speed", true);
    if (given.direction() == 0.0) {
      if (std::isnan(given.time))
        return given.problem("time", "a move over no distance needs its time.", "Give it.");
      return plan_rest(given.time);
    }
    return find_law(move.text("law"))->plan(given, recorder_);
  }

  static MovePlan plan_rest(const Term& time) {
    PlanPiece piece;
    piece.duration = time;
    piece.ramp = true;
    MovePlan plan;
    plan.pieces = {piece};
    plan.time = time;
    plan.peak_speed = plan.peak_acceleration = {0.0, ""};
    plan.peak_jerk = {0.0, ""};
    return plan;
  }

  Expected<MovePlan> plan_run(const Section& run) {
    const Term speed = run.term("speed");
    if (speed == 0.0)
      return Problem{run.path + ".speed", "a run at no speed is a dwell.", "Give a speed, or take a dwell."};
    if (!run.blank("distance") && run.term("distance") == 0.0)
      return Problem{run.path + ".distance", "a run over no distance takes no time.",
                     "Give it, or remove the run."};
    if (run.blank("time") == run.blank("distance"))
      return Problem{run.path + ".time",
                     run.blank("time") ? "the run has no end."
                                       : "time and distance of a run follow from each other.",
                     run.blank("time") ? "Give its time or its distance." : "Clear one of them."};
    MovePlan plan = plan_rest(run.blank("time") ? recorder_.apply(book::run_time.in(cycle_.kinds), "time",
                                                                  {run.term("distance"), speed})
                                                : run.term("time"));
    // told backwards by its speed or, as a move is, by its distance
    const bool backwards = speed < 0.0 || (!run.blank("distance") && run.term("distance") < 0.0);
    const Term along{backwards ? -std::abs(speed) : speed.value, speed.ref};
    plan.pieces.front().path = Path::polynomial(0.0, along);
    plan.pieces.front().v0 = along;
    plan.peak_speed = along;
    return plan;
  }

  Expected<MovePlan> plan_profile(const Section& profile) {
    const auto fitted = fit_profile(profile.entry("points").curve, profile.term_or("smoothing", 0.0),
                                    profile.text("ends") != "free");
    if (!fitted) return Problem{profile.path + ".points", fitted.problem().what, fitted.problem().remedy};
    return plan_of(*fitted);
  }

  /// Lays out segments from `at` on; inside a group, up to its end.
  std::optional<Problem> lay_out(std::size_t& at, int depth = 0) {
    for (; at < segments_.size(); ++at) {
      const Section& segment = segments_[at];
      if (segment.is("end")) return std::nullopt;
      if (!segment.is("repeat")) {
        emit(at);
        if (cycle_.pieces.size() > piece_limit)
          return Problem{"cycle", "the cycle is cut into too many pieces.", "Repeat less often."};
        continue;
      }
      const std::size_t first = at + 1;
      if (depth == most_nested)
        return Problem{segment.path, "groups are nested too deeply.",
                       "Nest at most " + std::to_string(most_nested) + " in each other."};
      const int count = static_cast<int>(segment.term("count"));
      const std::size_t before = cycle_.pieces.size();
      for (int n = 0; n < count; ++n) {
        at = first;
        if (auto problem = lay_out(at, depth + 1)) return problem;
        if (cycle_.pieces.size() == before)
          return Problem{segment.path, "this group holds nothing to repeat.",
                         "Move segments between it and its end, or remove both."};
      }
      if (at >= segments_.size())
        return Problem{segment.path, "this group has no end.", "Add an end of group after its last segment."};
    }
    return std::nullopt;
  }

  void emit(std::size_t i) {
    const MovePlan& plan = plans_[i];
    Passage passage{i, cycle_.duration, 0.0, position_, cycle_.facts[i].distance};
    for (const PlanPiece& planned : plan.pieces) {
      MotionPiece piece;
      piece.start = cycle_.duration;
      piece.duration = planned.duration;
      piece.path = planned.path;
      piece.path.c[0] += passage.from;
      piece.ramp = planned.ramp;
      piece.v0 = planned.v0;
      piece.a = planned.a;
      piece.segment = i;
      piece.index = cycle_.pieces.size();
      piece.passage = cycle_.passages.size();
      piece.braked = segments_[i].is("dwell") && segments_[i].text("held_by") == "brake";
      const double middle = piece.speed(0.5 * piece.duration);
      piece.direction = middle > 0.0 ? 1.0 : middle < 0.0 ? -1.0 : 0.0;
      cut_at_curve(piece);
      cycle_.duration += piece.duration;
      for (const double tau : {0.0, piece.duration}) {
        cycle_.lowest = std::min(cycle_.lowest, piece.position(tau));
        cycle_.highest = std::max(cycle_.highest, piece.position(tau));
      }
      cycle_.pieces.push_back(std::move(piece));
    }
    position_ = passage.from + passage.distance; // keep rounding out of the next segment
    passage.duration = cycle_.duration - passage.start;
    cycle_.passages.push_back(passage);
  }

  /// Moments at which the piece passes a corner of its process curve.
  void cut_at_curve(MotionPiece& piece) const {
    if (piece.rest()) return;
    const double from = piece.position(0.0);
    const double to = piece.position(piece.duration);
    for (const CurvePoint& point : cycle_.facts[piece.segment].effort_curve) {
      const double x = point[0];
      if (!(x > std::min(from, to) && x < std::max(from, to))) continue;
      const auto miss = [&](double tau) { return piece.position(tau) - x; };
      std::uintmax_t tries = 60;
      const auto root = boost::math::tools::toms748_solve(
          miss, 0.0, piece.duration, from - x, to - x, boost::math::tools::eps_tolerance<double>(48), tries);
      piece.cuts.push_back(0.5 * (root.first + root.second));
    }
  }

  /// The first place where the speed jumps from one segment to the next, the end of the cycle included.
  std::optional<Problem> jumps() const {
    double fastest = 0.0;
    for (const MotionPiece& piece : cycle_.pieces)
      fastest = std::max({fastest, std::abs(piece.speed(0.0)), std::abs(piece.speed(0.5 * piece.duration))});
    for (std::size_t i = 0; i < cycle_.pieces.size(); ++i) {
      const MotionPiece& before = cycle_.pieces[i == 0 ? cycle_.pieces.size() - 1 : i - 1];
      const MotionPiece& here = cycle_.pieces[i];
      const double left = before.speed(before.duration);
      const double right = here.speed(0.0);
      if (std::abs(left - right) <= 1e-6 * fastest) continue;
      const Section& segment = segments_[here.segment];
      return Problem{segment.path,
                     "the speed jumps from " + format(left, cycle_.kinds.speed).text() + " to " +
                         format(right, cycle_.kinds.speed).text() + " where this segment starts.",
                     segment.is("run") || segments_[before.segment].is("run")
                         ? "A run needs moves beside it that end and start at its speed."
                         : "Give both segments the same speed there."};
    }
    return std::nullopt;
  }

  std::span<const Section> segments_;
  Recorder& recorder_;
  Cycle cycle_;
  std::vector<MovePlan> plans_;
  double position_ = 0.0;
};

} // namespace

Term Cycle::effort(const MotionPiece& piece, double tau, Recorder& recorder) const {
  const SegmentFacts& fact = facts[piece.segment];
  if (!fact.effort_curve.empty()) return {value_on(fact.effort_curve, piece.position(tau)), fact.effort_ref};
  if (fact.effort_first == fact.effort_last) return fact.effort_first;
  const Passage& passage = passages[piece.passage];
  const double share = passage.distance == 0.0 ? (piece.start + tau - passage.start) / passage.duration
                                               : (piece.position(tau) - passage.from) / passage.distance;
  return recorder.apply(kinds.effort == Kind::torque ? book::ramped_torque : book::ramped_force, "process",
                        {fact.effort_first, fact.effort_last, {share, ""}});
}

double Cycle::greatest_payload() const {
  double most = 0.0;
  for (const SegmentFacts& fact : facts) most = std::max(most, fact.payload.value);
  return most;
}

Expected<Cycle> build_cycle(std::span<const Section> segments, const MotionKinds& kinds, Recorder& recorder) {
  return Builder(segments, kinds, recorder).build();
}

} // namespace fulmox
