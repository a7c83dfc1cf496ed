// What limits say they stay below, and which of them a verdict may pass over: never more than judging them
// says.

#include "core/limits/limit.hpp"
#include "core/motor/stepper.hpp"
#include "reference/match_cases.hpp"

#include <catch2/catch.hpp>

#include <map>

using namespace fulmox;
using namespace fulmox::testing;

namespace {
/// Calls `look(spec, limit, context)` with every limit that can be judged; gives what was asked of the axis,
/// nothing where it cannot be worked out.
template <class Look>
std::optional<Demand> look_at_limits(const Axis& axis, const Rules& rules, const Look& look) {
  Recorder silent(false);
  const auto model = AxisModel::build(axis, silent);
  if (!model) return std::nullopt;
  const JudgedAxis judged = judge_all(*model, axis, rules);
  const LimitContext context{axis, *model, judged.course, judged.demand, rules, silent};
  for (const LimitSpec* spec : limit_specs())
    if (const auto limit = spec->judge(context); limit && limit->state != LimitState::not_judged)
      look(*spec, *limit, context);
  return judged.demand;
}

/// Steppers closed over the load angle, one axis each.
std::vector<Axis> closed_steppers() {
  std::vector<Axis> axes;
  for (const Section& motor : parts_of_form("motor", closed_stepper_section())) {
    axes.push_back(demo().axes[5]);
    axes.back()["surroundings"].type("shared_bus", "");
    axes.back()["surroundings"].type("bus_low", "30 V");
    choose_part(axes.back(), "motor", motor);
  }
  return axes;
}

bool counts(const Limit& limit) { return !(limit.only_fits && limit.state == LimitState::clear); }
} // namespace

TEST_CASE("the stronger the drive, the more what follows from the greatest torque is used") {
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  std::map<std::string_view, int> grew;
  for (Axis axis : many_axes(9800)) {
    if (axis["gearhead"].has("emergency_torque")) axis["gearhead"].type("emergency_torque", "60 N.m");
    axis["coupling"].type("stiffness", "400 N.m/rad");
    axis["coupling"].type("rated_torque", "30 N.m");
    for (const char* speed : {"end_speed", "end_speed_angle"})
      if (axis["requirements"].has(speed))
        axis["requirements"].type(speed, std::string(speed) == "end_speed" ? "0.2 m/s" : "2 rad/s");
    if (!faults(axis).empty()) continue;
    std::map<std::string_view, double> before;
    for (const char* peak : {"0.1 A", "1 A", "4 A", "16 A", "64 A", "256 A"}) {
      axis["drive"].type("peak_current", peak);
      const auto grows = [&](const LimitSpec& spec, const Limit& limit, const LimitContext&) {
        if (spec.follows != Follows::torque) return;
        INFO(axis.name << ", " << spec.id << " at " << peak);
        if (before.contains(spec.id)) {
          CHECK(limit.used >= before[spec.id] * (1.0 - same));
          if (limit.used > before[spec.id] * 1.01) ++grew[spec.id];
        }
        before[spec.id] = limit.used;
      };
      if (!look_at_limits(axis, rules, grows)) break;
    }
  }
  CHECK(grew.size() == 3);
  for (const auto& [id, times] : grew) {
    INFO(id);
    CHECK(times > 10);
  }
}

TEST_CASE("a limit that is said to stay below a share does") {
  std::mt19937 random(3329);
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  std::uniform_real_distribution<double> share(0.2, 1.2);
  std::map<std::string_view, int> looked, close;
  for (const Axis& base : many_axes(9700)) {
    Axis axis = base;
    if (!axis["drive"].has("peak_time")) continue;
    for (int i = 0; i < 20; ++i) {
      const auto bounded = [&](const LimitSpec& spec, const Limit& limit, const LimitContext& context) {
        if (spec.stays_below == nullptr) return;
        INFO(axis.name << ", " << spec.id << ", " << axis["drive"].text("continuous_current"));
        for (const double near : {0.5, 0.9, 0.999}) CHECK_FALSE(spec.stays_below(context, near * limit.used));
        ++looked[spec.id];
        close[spec.id] += limit.used > 0.0 && spec.stays_below(context, 2.0 * limit.used) ? 1 : 0;
      };
      const auto demand = look_at_limits(axis, rules, bounded);
      if (!demand) break;
      // somewhere between the rms current and the peak
      const double low = demand->rms_current, high = demand->peak_current;
      if (!(high > low)) break;
      axis["drive"].type("continuous_current", std::to_string(low + share(random) * (high - low)) + " A");
      axis["drive"].type("peak_current", std::to_string(1.5 * high) + " A");
      axis["drive"].type("peak_time", "1 s");
    }
  }
  CHECK(looked.size() == 4);
  for (const auto& [id, times] : looked) {
    INFO(id);
    CHECK(times > 100);
    CHECK(close[id] > times / 10); // and it is no idle bound
  }
}

TEST_CASE("at one moment a limit is never used more than over the cycle, and at its worst moment as much") {
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  std::map<std::string_view, int> looked, worst;
  std::vector<Axis> axes = many_axes(9720);
  for (const Axis& axis : closed_steppers()) axes.push_back(axis);
  for (const Axis& axis : axes) {
    const auto at_moments = [&](const LimitSpec& spec, const Limit& limit, const LimitContext& context) {
      if (spec.at_moment == nullptr) return;
      INFO(axis.name << ", " << spec.id);
      for (const Stretch& s : context.course.stretches)
        for (const double u : {-1.0, -0.63, 0.1, 0.8, 1.0}) {
          if (s.torque(u) * s.torque(0.0) < 0.0) continue; // rounding at an end where it is nothing
          CHECK(spec.at_moment(context, {s.torque(u), s.speed(u), s.direction}) <= limit.used * (1.0 + same));
        }
      ++looked[spec.id];
      if (!std::isfinite(limit.used) || !limit.moment) return;
      const Instant now = context.model.at(limit.moment->piece, limit.moment->tau, context.recorder);
      CHECK(spec.at_moment(context, {now.torque, now.speed, now.input.direction}) ==
            Approx(limit.used).epsilon(1e-9));
      ++worst[spec.id];
    };
    look_at_limits(axis, rules, at_moments);
  }
  CHECK(looked.size() == 3);
  for (const auto& [id, times] : looked) {
    INFO(id);
    CHECK(times > 5);
    CHECK(worst[id] > times / 2);
  }
}

TEST_CASE("of a closed stepper the peak torque stays below what its factor leaves") {
  int looked = 0, close = 0;
  for (const char* factor : {"1", "1.2", "3"})
    for (const Axis& axis : closed_steppers()) {
      Section rules_section = house_rules();
      rules_section.type("control_factor", factor);
      const Rules rules(rules_section);
      look_at_limits(axis, rules,
                     [&](const LimitSpec& spec, const Limit& limit, const LimitContext& context) {
                       if (!spec.id.starts_with("motor.peak")) return;
                       INFO(axis["motor"].text("part_number") << ", " << spec.id << ", " << factor);
                       REQUIRE(spec.stays_below != nullptr);
                       for (const double share : {0.3, 0.7, 0.999})
                         CHECK_FALSE(spec.stays_below(context, share * limit.used));
                       close += spec.stays_below(context, 2.0 * limit.used) ? 1 : 0;
                       ++looked;
                     });
    }
  CHECK(looked > 10);
  CHECK(close > 0); // and it is no idle bound
}

// A dear limit may be passed over only where it is not the worst of its kind either.
TEST_CASE("the worst that another drive does not change is told as judging every limit tells it") {
  std::mt19937 random(3347);
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  const Parts& motors = library().of("motor");
  std::map<std::string_view, int> worst_of_its_kind;
  for (const Axis& base : many_axes(9900))
    for (int i = 0; i < rounds(30); ++i) {
      Axis axis = base;
      choose_part(axis, "motor", motors[any(motors.size(), random)]);
      // with little voltage the motor's own speed is what asks for most
      const double volts = axis["surroundings"].term("bus");
      axis["surroundings"].type("bus_low", std::to_string((0.1 + 0.1 * any(6, random)) * volts) + " V");
      Verdict told, plain;
      look_at_limits(axis, rules,
                     [&](const LimitSpec& spec, const Limit& limit, const LimitContext& context) {
                       if (plain.of_head.limit == nullptr && plain.by_figures.limit == nullptr &&
                           plain.by_course.limit == nullptr)
                         told = judge(context);
                       if (counts(limit)) note(plain, spec, limit.used);
                     });
      INFO(axis.name << ", " << axis["motor"].text("part_number"));
      for (const auto kind : {&Verdict::of_head, &Verdict::by_figures, &Verdict::by_course}) {
        CHECK((told.*kind).used == (plain.*kind).used);
        if ((plain.*kind).limit == nullptr) continue;
        CHECK((told.*kind).limit->id == (plain.*kind).limit->id);
        if ((plain.*kind).limit->stays_below != nullptr) ++worst_of_its_kind[(plain.*kind).limit->id];
      }
    }
  CHECK(worst_of_its_kind["drive.voltage"] > 2);
}
