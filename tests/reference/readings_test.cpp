// Every reading of a motor constant against sampled three-phase waveforms: currents and voltages are made in
// time, and means, crests and effective values are taken from the samples, wye and delta.

#include "core/evaluation/unknown_readings.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/readings.hpp"
#include "core/motor/six_step.hpp"
#include "reference/numbers.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <array>
#include <cmath>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

constexpr int count = 72000;

double wave(double angle, bool flat) {
  if (!flat) return std::sin(angle);
  double turn = std::fmod(angle, 2.0 * pi);
  if (turn < 0.0) turn += 2.0 * pi;
  const double half = std::fmod(turn, pi);
  return (turn < pi ? 1.0 : -1.0) * std::min({1.0, half / (pi / 6.0), (pi - half) / (pi / 6.0)});
}

/// Phase EMF per rad/s of a wye whose crest is K, and the current of the same phase.
struct Sampled {
  double torque = 0.0;                              ///< mean of Σ e·i
  double rms = 0.0, crest = 0.0, winding_rms = 0.0; ///< line and delta winding
  double line_rms = 0.0, line_crest = 0.0, rectified = 0.0;
};

/// Sine currents of 1 A crest in phase with the EMF of a wye; the same lines feed a delta.
Sampled sine_currents(double k) {
  Sampled s;
  for (int n = 0; n < count; ++n) {
    const double t = 2.0 * pi * n / count;
    std::array<double, 3> i{}, e{};
    for (int p = 0; p < 3; ++p) {
      i[p] = std::sin(t - 2.0 * pi / 3.0 * p);
      e[p] = k * std::sin(t - 2.0 * pi / 3.0 * p);
      s.torque += e[p] * i[p] / count;
    }
    const double winding = (i[0] - i[1]) / 3.0; // of a balanced delta behind the same lines
    s.rms += i[0] * i[0] / count;
    s.winding_rms += winding * winding / count;
    s.crest = std::max(s.crest, std::abs(i[0]));
    s.line_rms += (e[0] - e[1]) * (e[0] - e[1]) / count;
    s.line_crest = std::max(s.line_crest, std::abs(e[0] - e[1]));
  }
  for (double* square : {&s.rms, &s.winding_rms, &s.line_rms}) *square = std::sqrt(*square);
  return s;
}

/// Torque of 1 A commutated over the 60° in which two leads have the greatest EMF between them.
double block_torque(double k, bool flat) {
  double sum = 0.0;
  for (int n = 0; n < count; ++n) {
    const double t = 2.0 * pi * n / count;
    std::array<double, 3> e{};
    for (int p = 0; p < 3; ++p) e[p] = k * wave(t - 2.0 * pi / 3.0 * p, flat);
    sum += std::max({std::abs(e[0] - e[1]), std::abs(e[1] - e[2]), std::abs(e[2] - e[0])}) / count;
  }
  return sum;
}

double value_at(const char* id, double k) { return value_of(*find_reading(id), k, 4.0); }

} // namespace

TEST_CASE("readings of a constant agree with sampled waveforms") {
  const double k = 0.1;
  const Sampled s = sine_currents(k);
  CHECK(value_at("kt_rms", k) == Approx(s.torque / s.rms).epsilon(1e-6));
  CHECK(value_at("kt_peak", k) == Approx(s.torque / s.crest).epsilon(1e-6));
  CHECK(value_at("kt_rms_delta", k) == Approx(s.torque / s.winding_rms).epsilon(1e-6));
  CHECK(value_at("ke_line_rms", k) == Approx(s.line_rms).epsilon(1e-6));
  CHECK(value_at("ke_line_peak", k) == Approx(s.line_crest).epsilon(1e-6));
  CHECK(value_at("ke_line_pp", k) == Approx(2.0 * s.line_crest).epsilon(1e-6));
  CHECK(value_at("kt_dc", k) == Approx(block_torque(k, false)).epsilon(1e-6));
  CHECK(value_at("kt_dc_flat", k) == Approx(block_torque(k, true)).epsilon(1e-6));
  CHECK(value_at("ke_dc", k) == Approx(block_torque(k, false)).epsilon(1e-6)); // power balance
  // q axes: the power-invariant current is √(3/2) of the crest of a phase, the other is the crest
  CHECK(value_at("kt_q_power_wye", k) == Approx(s.torque / std::sqrt(1.5)).epsilon(1e-6));
  CHECK(value_at("kt_q_amplitude_wye", k) == Approx(s.torque).epsilon(1e-6));
  const double winding_crest = std::sqrt(2.0) * s.winding_rms;
  CHECK(value_at("kt_q_amplitude_delta", k) == Approx(s.torque / winding_crest).epsilon(1e-6));
  CHECK(value_at("kt_q_power_delta", k) == Approx(s.torque / (std::sqrt(1.5) * winding_crest)).epsilon(1e-6));
  // the well-known numbers of the trade
  CHECK(value_at("kt_rms", k) / (value_at("ke_line_rms", k) * 1000.0 * 2.0 * pi / 60.0) ==
        Approx(0.016540).epsilon(1e-4));
  CHECK(value_at("kv_line_peak", k) * value_at("ke_line_peak", k) == Approx(1.0));
  CHECK(value_at("psi_amplitude", k) == Approx(k / 4.0));
  CHECK(value_at("psi_power", k) == Approx(std::sqrt(1.5) * k / 4.0));
}

TEST_CASE("each reading gives back what went in, and mistakes have their classic size") {
  RandomAxes random(3);
  for (const ConstantReading& reading : constant_readings())
    for (int n = 0; n < 20; ++n) {
      const double k = random.between(1e-3, 10.0), p = std::round(random.between(1.0, 12.0));
      CHECK(k_from(reading, value_of(reading, k, p), p) == Approx(k).epsilon(1e-12));
    }
  const auto off = [](const char* truth, const char* taken) {
    return mistaken(*find_reading(truth), *find_reading(taken));
  };
  CHECK(off("kt_peak", "kt_rms") == Approx(0.7071).epsilon(1e-4));
  CHECK(off("kt_rms", "kt_peak") == Approx(1.4142).epsilon(1e-4));
  CHECK(off("ke_line_pp", "ke_line_rms") == Approx(2.8284).epsilon(1e-4));
  CHECK(off("kv_dc", "kv_line_peak") == Approx(1.0472).epsilon(1e-4)); // volts too small: K too great
  CHECK(std::isnan(off("kt_rms", "ke_line_rms")));
  // Kv straight into Kt
  CHECK(value_at("ke_line_peak", 1.0) / value_at("kt_rms", 1.0) == Approx(0.8165).epsilon(1e-4));
  CHECK(value_at("ke_line_peak", 1.0) / value_at("kt_peak", 1.0) == Approx(1.1547).epsilon(1e-4));
}

// A true pair leaves four pairs and three values of K: agreement alone does not fix it.
TEST_CASE("a torque and an EMF constant without their readings") {
  const auto pairs = joint_readings(value_at("kt_rms", 0.1), value_at("ke_line_rms", 0.1), 0.05);
  std::vector<double> different;
  for (const JointReading& pair : pairs) {
    const double k = pair.k / 0.1;
    bool seen = false;
    for (const double other : different) seen = seen || std::abs(other / k - 1.0) < 0.03;
    if (!seen) different.push_back(k);
  }
  std::sort(different.begin(), different.end());
  CHECK(different.size() >= 3);
  const auto holds = [&](double k) {
    return std::any_of(different.begin(), different.end(),
                       [&](double other) { return std::abs(other / k - 1.0) < 0.03; });
  };
  CHECK(holds(1.0));
  CHECK(holds(1.2533));
  CHECK(holds(1.7321));
}

TEST_CASE("a spun motor gives its constant from sampled volts") {
  const double k = 0.05, pairs = 4.0, frequency = 200.0, omega = 2.0 * pi * frequency / pairs;
  for (const bool flat : {false, true}) {
    double square = 0.0, crest = 0.0, first = 0.0;
    for (int n = 0; n < count; ++n) {
      const double t = 2.0 * pi * n / count;
      const double u = k * omega * (wave(t, flat) - wave(t - 2.0 * pi / 3.0, flat));
      square += u * u / count;
      crest = std::max(crest, u);
      first += 2.0 * u * std::sin(t + pi / 6.0) / count;
    }
    const auto spun = [&](SpinTest::Volts as, double volts) {
      return spun_constant({frequency, volts, as, flat, pairs});
    };
    const double fundamental = first / (std::sqrt(3.0) * omega);
    CHECK(spun(SpinTest::Volts::rms, std::sqrt(square)).k == Approx(fundamental).epsilon(1e-4));
    CHECK(spun(SpinTest::Volts::crest, crest).k == Approx(fundamental).epsilon(1e-4));
    CHECK(spun(SpinTest::Volts::peak_to_peak, 2.0 * crest).k == Approx(fundamental).epsilon(1e-4));
    CHECK(spun(SpinTest::Volts::rms, std::sqrt(square)).ke_line == Approx(crest / omega).epsilon(1e-4));
    CHECK(spun(SpinTest::Volts::crest, crest).uncertainty == Approx(0.018).margin(5e-4));
  }
}

TEST_CASE("what a sheet leaves open is judged at its worst reading") {
  Axis axis = demo().axes[0];
  const double rms = limit(evaluated(axis), "drive.rms").used;
  const auto with = [&](const char* per) {
    Axis one = axis;
    one["motor"].type("kt_per", per);
    one["motor"].type("ke", "");
    one["motor"].type("ke_as", "");
    return evaluated(one);
  };
  const Evaluation open = with(""), as_rms = with("rms"), as_peak = with("peak"), as_dc = with("dc");
  for (const Limit& rung : open.limits) {
    if (rung.state == LimitState::not_judged) continue;
    INFO(rung.id);
    const double worst =
        std::max({limit(as_rms, rung.id).used, limit(as_peak, rung.id).used, limit(as_dc, rung.id).used});
    CHECK(rung.used == Approx(worst).epsilon(1e-9));
  }
  CHECK(limit(open, "drive.rms").used ==
        Approx(rms).epsilon(1e-9)); // rms is the greatest Kt's reading: least amperes
  CHECK(limit(open, "drive.voltage").used > limit(as_rms, "drive.voltage").used * 0.999);
  CHECK(limit(open, "drive.peak").rule.find("leaves open") != std::string::npos);
  CHECK(limit(as_rms, "drive.peak").rule.find("leaves open") == std::string::npos);
  for (std::size_t i = 1; i < open.limits.size(); ++i) // still in order
    if (open.limits[i].state != LimitState::not_judged) CHECK(open.limits[i - 1].used >= open.limits[i].used);
}

TEST_CASE("what the drive alone leaves open is judged at its worst reading, too") {
  const auto with = [](const char* as) {
    Axis axis = demo().axes[5]; // a stepper, whose current is set on the drive
    axis["drive"].type("current_as", as);
    return evaluated(axis);
  };
  const Evaluation open = with("");
  int differ = 0;
  for (const Limit& rung : open.limits) {
    if (rung.state == LimitState::not_judged) continue;
    INFO(rung.id);
    double least = HUGE_VAL, worst = 0.0;
    for (const char* as : {"crest", "rms", "phase"}) {
      const double used = limit(with(as), rung.id).used;
      least = std::min(least, used);
      worst = std::max(worst, used);
    }
    CHECK(rung.used == Approx(worst).epsilon(1e-9));
    if (worst > 1.2 * least) ++differ;
  }
  CHECK(differ >= 2);
}

TEST_CASE("of a Kt and a Ke both left open only what agrees is kept") {
  Axis axis = demo().axes[0]; // rms and line-line rms
  CHECK(reading_variants(axis).empty());
  axis["motor"].type("kt_per", "");
  CHECK(reading_variants(axis).size() == 3);
  axis["motor"].type("ke_as", "");
  const auto joint = reading_variants(axis);
  REQUIRE_FALSE(joint.empty());
  CHECK(joint.size() < 12);
  bool truth = false;
  for (const ReadingVariant& variant : joint)
    truth = truth || (variant.axis["motor"].text("kt_per") == "rms" &&
                      variant.axis["motor"].text("ke_as") == "line rms");
  CHECK(truth);
  axis["motor"].type("winding_as", "");
  CHECK(reading_variants(axis).size() == 3 * joint.size());
  axis["motor"].type("ke", "0.001 V/krpm"); // agrees with nothing: all are kept
  CHECK(reading_variants(axis).size() == 36);
}

TEST_CASE("of a six-step motor's Kt and Ke both left open only what agrees is kept") {
  Axis axis = demo().axes[0];
  axis["surroundings"].type("bus", "48 V");
  choose_part(axis, "motor", parts_of_form("motor", six_step_motor_section()).back());
  axis["motor"].type("winding_as", "terminal");
  // 0.05 N·m per DC ampere on a sine: Ke(ll,pk) = 0.05·π/3, crest of a phase by √3 less
  // a sheet 3 % below it still agrees, which a flat wave's factor would not
  axis["motor"].type("kt", "0.0485 N.m/A");
  axis["motor"].type("kt_per", "");
  axis["motor"].type("emf_shape", "sine");
  axis["motor"].type("ke", std::to_string(0.05 * pi / 3.0 / std::numbers::sqrt3) + " V.s/rad");
  axis["motor"].type("ke_as", "");
  const auto joint = reading_variants(axis);
  CHECK(joint.size() < 12);
  bool truth = false;
  for (const ReadingVariant& variant : joint)
    truth = truth || (variant.axis["motor"].text("kt_per") == "dc" &&
                      variant.axis["motor"].text("ke_as") == "phase peak");
  CHECK(truth);
}
