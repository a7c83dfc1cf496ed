// Parts are judged by numbers alone on a load's side that was made once: every limit must come out as in the
// full evaluation of the axis with that part.

#include "core/evaluation/part_fit.hpp"
#include "core/study/ratio_study.hpp"
#include "reference/dense_axis.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>
#include <thread>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

constexpr double to_the_end = 1e-12;

/// Shares a thousand times over stand next to where the capacity ends: how far is no number any more.
bool alike(double a, double b, double within = to_the_end) {
  constexpr double no_number = 1e3;
  return (a > no_number && b > no_number) || a == Approx(b).epsilon(within).margin(1e-300);
}

/// A band's edges follow from sums whose order differs; short stays in it tell that more than others.
double precision_of(std::string_view label) { return label == "Time in resonance" ? 1e-9 : to_the_end; }

void check_alike(const PartFit& lean, const Evaluation& full) {
  const double used = worst_used(full);
  if (std::isnan(used)) {
    CHECK(std::isnan(lean.used));
    return;
  }
  CHECK(alike(lean.used, used, precision_of(lean.worst)));
  std::vector<std::pair<std::string_view, double>> over, told;
  for (const Limit& limit : full.limits)
    if (limit.state == LimitState::over) over.emplace_back(limit.label, limit.used);
  for (const PartFit::Missed& missed : lean.missed) told.emplace_back(missed.label, missed.used);
  REQUIRE(told.size() == over.size());
  for (const auto& one : over) { // those that tie may stand in another order
    const auto found =
        std::find_if(told.begin(), told.end(), [&](const auto& t) { return t.first == one.first; });
    REQUIRE(found != told.end());
    CHECK(alike(found->second, one.second, precision_of(one.first)));
  }
}

/// Every part of a slot, or every so manieth from one that differs from axis to axis.
void check_parts(Axis axis, std::string_view slot, std::size_t step = 1, std::size_t first = 0) {
  const Section rules = house_rules();
  PartTrial trial(axis, slot, rules);
  const Parts& parts = library().of(slot);
  for (std::size_t k = first % step; k < parts.size(); k += step) {
    const Section& part = parts[k];
    INFO(axis.name << ", " << part.text("part_number"));
    const PartFit lean = trial(part);
    choose_part(axis, slot, part);
    const auto full = evaluate(axis, rules);
    REQUIRE(static_cast<bool>(full) == lean.problem.what.empty());
    if (full) check_alike(lean, *full);
  }
}

} // namespace

TEST_CASE("parts tried on one load's side are judged as in the full evaluation, on the demo machine") {
  std::size_t first = 0;
  for (const Axis& axis : demo().axes)
    for (const std::string_view slot : {"motor", "gearhead", "drive", "coupling"})
      check_parts(axis, slot, every(1), first++);
}

TEST_CASE("parts tried on one load's side are judged as in the full evaluation, on random axes") {
  unsigned seed = 7000;
  for (const std::string_view mechanism : all_mechanisms())
    for (int i = 0; i < rounds(3); ++i) {
      Axis axis = DenseAxis(++seed, std::string(mechanism)).axis();
      axis.name = std::string(mechanism) + " " + std::to_string(seed);
      constexpr std::size_t some = every(7); // all of them on every axis take minutes
      check_parts(axis, i % 2 == 0 ? "motor" : "gearhead", some, seed);
      if (i == 0) check_parts(axis, "drive", some, seed);
    }
}

TEST_CASE("each limit of each part alone is the same number in both") {
  std::size_t first = 0;
  for (const Axis& given : demo().axes) {
    Axis axis = given;
    const Section rules = house_rules();
    Recorder silent(false);
    const auto load = LoadSide::build(axis, silent);
    REQUIRE(load);
    const Parts& motors = library().of("motor");
    for (std::size_t k = first++ % every(1); k < motors.size(); k += every(1)) {
      const Section& part = motors[k];
      choose_part(axis, "motor", part);
      const auto full = evaluate(axis, rules);
      REQUIRE(full);
      const AxisModel model = AxisModel::on(*load, axis, silent);
      const Course course = follow(model);
      const Rules read(rules);
      const Demand demand = work_out_demand(model, course, read, silent);
      const LimitContext context{axis, model, course, demand, read, silent};
      for (const LimitSpec* spec : limit_specs()) {
        const auto lean = spec->judge(context);
        const auto same_id = [&](const Limit& l) { return l.id == spec->id; };
        const auto found = std::find_if(full->limits.begin(), full->limits.end(), same_id);
        INFO(given.name << ", " << part.text("part_number") << ", " << spec->id);
        REQUIRE(lean.has_value() == (found != full->limits.end()));
        if (!lean) continue;
        CHECK(lean->state == found->state);
        if (lean->state == LimitState::not_judged) continue;
        const double within = precision_of(spec->label);
        CHECK(alike(lean->used, found->used, within));
        if (found->used > 1e3 || !std::isfinite(found->demand)) continue;
        CHECK(lean->demand == Approx(found->demand).epsilon(within).margin(1e-300));
        CHECK(lean->capacity == Approx(found->capacity).epsilon(to_the_end));
      }
    }
  }
}

TEST_CASE("a part that cannot be put on an axis says why, and the next one is tried afresh") {
  Axis axis = demo().axes.front();
  axis["load"].type("moved_mass", "");
  PartTrial trial(axis, "motor", house_rules());
  const PartFit fit = trial(library().of("motor").front());
  CHECK(fit.problem.where == "load.moved_mass");
  CHECK(std::isnan(fit.used));
  CHECK_FALSE(fit.fits());
  CHECK(fit.rank() > 1e8);
  Section rules = house_rules();
  rules.type("attention", "5 kg");
  PartTrial wrong_rules(demo().axes.front(), "motor", rules);
  CHECK(wrong_rules(library().of("motor").front()).problem.where == "house_rules.attention");
}

TEST_CASE("a sweep on one load's side gives what each ratio gives alone") {
  for (const Axis& given : demo().axes) {
    const auto sweep = sweep_ratio(given, 0.7, 20.0, 12);
    REQUIRE(sweep);
    Axis axis = given;
    for (const RatioPoint& point : sweep->points) {
      axis["gearhead"].put("ratio", with_value(axis["gearhead"].entry("ratio"), point.ratio));
      const Evaluation e = evaluated(axis);
      INFO(given.name << " at " << point.ratio);
      CHECK(point.with_motor.rms_torque == Approx(value(e, "demand.rms_torque")).epsilon(to_the_end));
      CHECK(point.with_motor.max_speed == Approx(value(e, "demand.max_speed")).epsilon(to_the_end));
      CHECK(point.with_motor.inertia_ratio == Approx(value(e, "demand.ratio")).epsilon(to_the_end));
      CHECK(point.with_motor.load_inertia == Approx(value(e, "inertia.load")).epsilon(to_the_end));
      CHECK(point.bare.rms_torque < point.with_motor.rms_torque);
    }
  }
}

TEST_CASE("two threads may judge parts on the same load's side") {
  const Axis axis = demo().axes[1];
  std::vector<double> used[2];
  const auto run = [&](int k) {
    PartTrial trial(axis, "motor", house_rules());
    for (int round = 0; round < 5; ++round)
      for (const Section& part : library().of("motor")) used[k].push_back(trial(part).used);
  };
  library(); // read before
  std::thread other([&] { run(1); });
  run(0);
  other.join();
  for (std::size_t i = 0; i < used[0].size(); ++i)
    CHECK((used[0][i] == used[1][i] || std::isnan(used[0][i])));
}
