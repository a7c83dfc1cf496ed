// A kind of motor and a kind of drive of somebody's own: one function each for the form and the model, and
// one registration. Form, file, limits, picture and working take them up.

#include "core/drive/drive.hpp"
#include "core/limits/limit.hpp"
#include "core/motor/motor.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

// A ring motor: its torque falls straight with the speed; beyond half and three quarters of its torque an
// ampere gives half and a quarter as much.

const SectionSpec& ring_section() {
  static const SectionSpec spec{
      "ring_motor",
      "Ring motor",
      {part_number_field(), optional("inertia", "Rotor inertia", "J_m", Kind::inertia, range::positive, ""),
       optional("max_speed", "Maximum speed", "n_max", Kind::angular_speed, range::positive, ""),
       optional("stall", "Stall torque", "T_s", Kind::torque, range::positive, ""),
       optional("constant", "Torque per ampere", "Kt", Kind::torque_constant, range::positive, ""),
       optional("stator", "Stator temperature at rms", "", Kind::torque, range::positive, "")}};
  return spec;
}

class RingMotor final : public Motor {
public:
  explicit RingMotor(const Section& sheet) : stall_(sheet.term("stall")), constant_(sheet.term("constant")) {
    read_common(sheet);
  }
  std::string_view refuses(Feed) const override { return ""; }
  bool electric() const override { return !std::isnan(constant_) && !std::isnan(stall_); }
  double current(double torque) const override {
    const double size = std::abs(torque);
    const double half = std::max(0.0, size - 0.5 * stall_), most = std::max(0.0, size - 0.75 * stall_);
    return (size + half + 2.0 * most) / constant_;
  }
  double torque_of_current(double current) const override {
    const double straight = constant_ * current;
    if (straight <= 0.5 * stall_) return straight;
    if (straight <= stall_) return 0.5 * (straight + 0.5 * stall_);
    return 0.25 * (straight + 2.0 * stall_);
  }
  std::vector<double> bends() const override { return {0.5 * stall_, 0.75 * stall_}; }
  double copper(double) const override { return 0.0; }
  bool has_peak() const override { return !std::isnan(stall_); }
  double standstill_peak() const override { return has_peak() ? stall_.value : 0.0; }
  PeakLimits peak_limits(double speed, const MotorSupply&, bool) const override {
    return {.catalogue = stall_ * (1.0 - std::abs(speed) / max_speed)};
  }
  bool has_continuous() const override { return has_peak(); }
  double continuous_torque(double) const override { return stall_ / 3.0; }
  double fastest_known() const override { return max_speed; }
  Term record_current(const Term& torque, StepName, Recorder&) const override {
    return {current(torque), ""};
  }

private:
  Term stall_, constant_;
};

const MotorKind ring_motor{{.form = &ring_section(), .summary = &part_summary, .prominent = {"stall"}},
                           [](const Section& sheet, const Drive&, Recorder&) -> std::unique_ptr<const Motor> {
                             return std::make_unique<const RingMotor>(sheet);
                           }};

/// Its own limit: nothing on any other motor.
const LimitSpec ring_limit{"ring.stator", "Stator", "", [](const LimitContext& c) -> std::optional<Limit> {
                             const Term takes = c.axis["motor"].term_if("stator");
                             if (std::isnan(takes)) return std::nullopt;
                             return compare(c, "ring.stator", c.demand.rms_torque, takes, Kind::torque, "");
                           }};

/// A drive that switches full blocks and loses a share of its current.
const SectionSpec& block_section() {
  static const SectionSpec spec{
      "block_drive",
      "Block drive",
      {part_number_field(),
       optional("continuous_current", "Continuous current", "I_c", Kind::current, range::positive, ""),
       optional("peak_current", "Peak current", "I_pk", Kind::current, range::positive, ""),
       optional("peak_time", "Peak time", "t_pk", Kind::time, range::positive, ""),
       optional("bus_min", "Lowest bus voltage", "", Kind::voltage, range::positive, ""),
       optional("bus_max", "Highest bus voltage", "", Kind::voltage, range::positive, ""),
       optional("overvoltage", "Overvoltage trip", "", Kind::voltage, range::positive, ""),
       optional("capacitance", "Bus capacitance", "", Kind::capacitance, range::positive, "")}};
  return spec;
}

class BlockDrive final : public Drive {
public:
  explicit BlockDrive(const Section& sheet) { read_common(sheet); }
  double loss(double current) const override { return 2.0 * current; }
  double motor_volts(double bus) const override { return 0.5 * bus; }
  Term record_motor_volts(const Term& bus, StepName, Recorder&) const override {
    return {motor_volts(bus), ""};
  }
};

const DriveKind block_drive{{.form = &block_section(), .summary = &part_summary},
                            [](const Section& sheet) -> std::unique_ptr<const Drive> {
                              return std::make_unique<const BlockDrive>(sheet);
                            }};

const bool registered = [] {
  register_motor(ring_motor);
  register_drive(block_drive);
  register_limit(ring_limit);
  return true;
}();

Axis axis_with_ring() {
  Axis axis = plain_axis();
  choose_kind(axis, motor_slot(), ring_section());
  choose_kind(axis, drive_slot(), block_section());
  axis["motor"].type("inertia", "0.2 kg.cm2");
  axis["motor"].type("max_speed", "9000 rpm");
  axis["motor"].type("stall", "3 N.m");
  axis["motor"].type("constant", "0.5 N.m/A");
  axis["surroundings"].type("bus", "48 V");
  axis["drive"].type("peak_current", "20 A");
  return axis;
}

} // namespace

TEST_CASE("an axis with a motor and a drive that were only registered is saved and read back") {
  REQUIRE(registered);
  Axis axis = axis_with_ring();
  Document document;
  document.axes.push_back(axis);
  CHECK(to_json(document).find("\"kind\": \"ring_motor\"") != std::string::npos);
  CHECK(to_json(document).find("\"kind\": \"block_drive\"") != std::string::npos);
  const auto again = from_json(to_json(document));
  REQUIRE(again);
  CHECK(*again == document);
  CHECK(document_schema().find("Stall torque") != std::string::npos);
  // another kind and back keep what both know
  choose_kind(axis, motor_slot(), *motor_slot().kinds().front().form);
  CHECK(axis["motor"].text("max_speed") == "9000 rpm");
  choose_kind(axis, motor_slot(), ring_section());
  CHECK(axis["motor"].text("inertia") == "0.2 kg.cm2");
}

TEST_CASE("limits and picture ask a registered motor") {
  Axis axis = axis_with_ring();
  axis["motor"].type("stator", "1 N.m");
  const Evaluation e = evaluated(axis);
  double worst = 0.0;
  for (int i = 0; i <= 20000; ++i) {
    const Instant now = e.at(e.model->load->cycle.duration * i / 20000);
    worst = std::max(worst, std::abs(now.torque) / (3.0 * (1.0 - std::abs(now.speed) / (300.0 * M_PI))));
  }
  CHECK(limit(e, "motor.peak").used == Approx(worst).epsilon(1e-3)); // samples miss the sharpest moment
  CHECK(limit(e, "motor.peak").used >= worst * (1.0 - 1e-12));
  CHECK(limit(e, "motor.rms").capacity == Approx(1.0));
  CHECK(limit(e, "ring.stator").used == Approx(value(e, "demand.rms_torque")));
  const auto envelope = plots_of(e).envelope;
  REQUIRE_FALSE(envelope.empty());
  CHECK(envelope.front().peak == Approx(3.0));
  CHECK(envelope.back().peak == Approx(0.0).margin(1e-12));
  // what only servos have is not asked of it
  CHECK_FALSE(warns(e, "convention_missing"));
  CHECK_FALSE(warns(e, "winding_kind_unknown"));
}

TEST_CASE("current and losses of a registered motor and drive are integrated exactly over the bend") {
  Axis axis = axis_with_ring();
  axis["motor"].type("inertia", "4 kg.cm2");
  axis.cycle[0].type("law", "345"); // its torque runs through the bends
  const Evaluation e = evaluated(axis);
  REQUIRE(value(e, "demand.peak_torque") > 2.5); // else nothing bends
  const double duration = e.model->load->cycle.duration;
  constexpr int count = 200000;
  double squared = 0.0, drawn = 0.0;
  for (int i = 0; i < count; ++i) {
    const Instant now = e.at(duration * (i + 0.5) / count);
    const double torque = std::abs(now.torque);
    const double current = (torque <= 1.5    ? torque
                            : torque <= 2.25 ? 2.0 * torque - 1.5
                                             : 4.0 * torque - 6.0) /
                           0.5;
    squared += current * current / count;
    drawn += std::max(0.0, now.torque * now.speed + 2.0 * current) / count;
  }
  CHECK(value(e, "drive.rms_current") == Approx(std::sqrt(squared)).epsilon(1e-8));
  CHECK(value(e, "supply.mean_power") == Approx(drawn).epsilon(1e-7));
  CHECK(value(e, "drive.peak_current") ==
        Approx((4.0 * value(e, "demand.peak_torque") - 6.0) / 0.5).epsilon(1e-9));
}
