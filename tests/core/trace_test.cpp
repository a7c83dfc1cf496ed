// The looks at the cycle that serve plots, searches and the cutting of integrals.

#include "core/demand/demand.hpp"
#include "core/demand/statistics.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <map>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

std::map<std::size_t, int> samples_per_segment(const Evaluation& e) {
  std::map<std::size_t, int> counts;
  for (const Instant& now : samples_of(e)) ++counts[e.model->load->cycle.pieces[now.piece].segment];
  return counts;
}

/// A record of a smooth move with a little noise, as text for a field of points.
std::string record(int count) {
  std::mt19937 engine(4);
  std::normal_distribution<double> noise(0.0, 0.02);
  std::string text;
  for (int i = 0; i <= count; ++i) {
    const double u = static_cast<double>(i) / count;
    const double miss = i == 0 || i == count ? 0.0 : noise(engine);
    text += (i > 0 ? "; " : "") + std::to_string(5 * i) +
            " ms: " + std::to_string(100.0 * u * u * (3.0 - 2.0 * u) + miss) + " mm";
  }
  return text;
}

} // namespace

TEST_CASE("every piece is looked at with both ends, in the order of time") {
  RandomAxes random(71);
  for (const std::string_view mechanism : all_mechanisms())
    for (int i = 0; i < rounds(6); ++i) {
      const Evaluation e = evaluated(random.next_on(mechanism));
      const auto samples = samples_of(e);
      std::size_t at = 0;
      for (const MotionPiece& piece : e.model->load->cycle.pieces) {
        REQUIRE(at < samples.size());
        CHECK(samples[at].piece == piece.index);
        CHECK(samples[at].time == Approx(piece.start).margin(1e-12));
        std::size_t last = at;
        while (last + 1 < samples.size() && samples[last + 1].piece == piece.index) {
          ++last;
          CHECK(samples[last].time >= samples[last - 1].time);
        }
        CHECK(last > at);
        CHECK(samples[last].time == Approx(piece.start + piece.duration));
        at = last + 1;
      }
      CHECK(at == samples.size());
    }
}

TEST_CASE("a long record leaves the other segments of the cycle their share of looks") {
  Axis axis = plain_axis();
  axis.cycle.clear();
  add_segment(axis, "profile", {{"points", record(400)}, {"smoothing", "0.02 mm"}});
  add_segment(axis, "dwell", {{"time", "0.5 s"}});
  add_segment(axis, "move", {{"distance", "-100 mm"}, {"law", "345"}, {"time", "1 s"}});
  const auto counts = samples_per_segment(evaluated(axis));
  CHECK(counts.at(2) >= 25);  // drawn as a curve, not as a polygon
  CHECK(counts.at(0) >= 800); // both ends and the middle of every stretch
  CHECK(counts.at(1) == 2);
}

TEST_CASE("how closely is looked does not depend on how long the axis rests") {
  Axis axis = plain_axis();
  axis.cycle.clear();
  add_segment(axis, "move", {{"distance", "100 mm"}, {"law", "cycloidal"}, {"time", "0.4 s"}});
  add_segment(axis, "dwell", {{"time", "0.1 s"}});
  const auto short_rest = samples_per_segment(evaluated(axis));
  axis.cycle[1].type("time", "1000 s");
  CHECK(samples_per_segment(evaluated(axis)) == short_rest);
}

TEST_CASE("the greatest moment of a smooth law is found between the looks") {
  Axis axis = axis_on("table");
  axis["load"].type("inertia", "1 kg.m2");
  axis["load"].type("friction_torque", "0 N.m");
  for (const char* law : {"345", "cycloidal", "modified_sine"}) {
    axis.cycle.clear();
    add_segment(axis, "move", {{"distance", "1 rad"}, {"law", law}, {"time", "1 s"}});
    const Evaluation e = evaluated(axis);
    INFO(law);
    // peak factors of acceleration of the laws, VDI 2143
    const double expected = std::string_view(law) == "345"         ? 10.0 / std::sqrt(3.0)
                            : std::string_view(law) == "cycloidal" ? 2.0 * M_PI
                                                                   : 5.52796;
    CHECK(value(e, "demand.peak_torque") == Approx(expected).epsilon(1e-6));
    CHECK(value(e, "demand.max_speed") == Approx(std::string_view(law) == "345"         ? 1.875
                                                 : std::string_view(law) == "cycloidal" ? 2.0
                                                                                        : 1.75960)
                                              .epsilon(1e-5));
  }
}

TEST_CASE("the whole cycle asked for as a span has the cycle's rms") {
  RandomAxes random(72);
  for (int i = 0; i < 20; ++i) {
    const Evaluation e = evaluated(random.next_on("arm"));
    const SpanStatistics all = statistics(*e.model, e.course, 0.0, e.model->load->cycle.duration);
    CHECK(all.rms_torque == Approx(value(e, "demand.rms_torque")).epsilon(1e-9));
    const SpanStatistics none = statistics(*e.model, e.course, 0.4, 0.4);
    CHECK(none.rms_torque == 0.0);
    CHECK(none.travel == 0.0);
  }
}

TEST_CASE("no stretch between two cuts holds a hidden change of sign of the power") {
  RandomAxes random(73);
  for (const std::string_view mechanism : all_mechanisms())
    for (int i = 0; i < rounds(8); ++i) {
      const Evaluation e = evaluated(random.next_on(mechanism));
      Recorder silent(false);
      double greatest = 0.0;
      for (const Instant& now : samples_of(e)) greatest = std::max(greatest, std::abs(now.shaft_power));
      for (const Stretch& span : e.course.stretches) {
        double low = 0.0, high = 0.0;
        constexpr int looks = 12;
        for (int k = 1; k < looks; ++k) {
          const double tau = span.from + (span.to - span.from) * k / looks;
          const double power = e.model->at(span.piece, tau, silent).shaft_power;
          low = std::min(low, power);
          high = std::max(high, power);
        }
        // one sign, but for what is nothing beside the greatest
        CHECK(std::min(-low, high) <= 1e-6 * greatest);
      }
    }
}
