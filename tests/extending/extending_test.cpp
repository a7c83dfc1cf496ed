// A mechanism and a law of somebody's own: one function each and one registration, and form, file, working
// and evaluation take them up.

#include "core/mechanism/linear_drive.hpp"
#include "core/motion/laws/fixed_law.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

/// A wheel that rolls along the floor with the load on it.
class Roller final : public LinearDrive {
public:
  using LinearDrive::LinearDrive;
  Drawing draw(const Pose& pose) const override {
    Drawing drawing;
    drawing.wheel(Ink::part, {pose.position, 0.0}, parts().lever, -pose.position / parts().lever);
    return drawing;
  }
};

const MechanismSpec& roller() {
  static const MechanismSpec spec{
      {"roller", "Roller", {needed("radius", "Radius", "r", Kind::length, range::positive, "50 mm", "")}},
      &linear_load_section,
      along_a_line,
      true,
      [](const MechanismInput& input, Recorder& recorder) -> Expected<std::unique_ptr<Mechanism>> {
        auto load = LinearLoad::from(input, recorder);
        if (!load) return load.problem();
        LinearDrive::Parts parts;
        parts.arm = &wheel_arm();
        parts.load = *load;
        parts.lever = input.mechanism.term("radius");
        parts.per_radian = parts.lever;
        parts.efficiency = parts.back_efficiency = {1.0, ""};
        return made<Roller>(std::move(parts), recorder);
      },
      "A rolling wheel."};
  return spec;
}

/// Speed rises and falls like a half sine: s = (1 − cos πu)/2.
const LawSpec& half_sine() {
  static const FixedShape shape{M_PI / 2.0, M_PI * M_PI / 2.0, std::numeric_limits<double>::infinity(),
                                ShapeBuilder()
                                    .sine(0.5, M_PI * M_PI / 2.0, M_PI, M_PI / 2.0)
                                    .sine(0.5, M_PI * M_PI / 2.0, M_PI, M_PI)
                                    .take()};
  static const LawSpec spec{
      "half_sine", "Half sine", "", fixed_law_fields(),
      [](const MoveGiven& given, Recorder& recorder) { return plan_fixed(given, shape, recorder); }};
  return spec;
}

const bool registered = [] {
  register_mechanism(roller());
  register_law(half_sine());
  return true;
}();

Axis axis_with_both() {
  Axis axis = axis_on("roller");
  axis["load"].type("moved_mass", "10 kg");
  axis["load"].type("friction", "0");
  add_segment(axis, "move", {{"distance", "200 mm"}, {"law", "half_sine"}, {"time", "0.5 s"}});
  return axis;
}

} // namespace

TEST_CASE("a mechanism and a law that were only registered are worked out") {
  REQUIRE(registered);
  const Evaluation e = evaluated(axis_with_both());
  // F = m·a with a_pk = π²/2·D/t²
  const double a = M_PI * M_PI / 2.0 * 0.2 / 0.25;
  CHECK(value(e, "demand.peak_torque") == Approx(10.0 * a * 0.05).epsilon(1e-9));
  CHECK(value(e, "demand.rms_torque") == Approx(10.0 * a * 0.05 / std::sqrt(2.0)).epsilon(1e-9));
  CHECK_FALSE(e.model->load->mechanism->draw({}).shapes.empty());
}

TEST_CASE("their forms are saved, read back, checked and published like the others") {
  Document document;
  document.axes.push_back(axis_with_both());
  const auto again = from_json(to_json(document));
  REQUIRE(again);
  CHECK(*again == document);
  CHECK(document_schema().find("\"roller\"") != std::string::npos);
  CHECK(document_schema().find("\"half_sine\"") != std::string::npos);
  document.axes[0]["mechanism"].type("radius", "5 kg");
  const auto problems = faults(document.axes[0]);
  REQUIRE(problems.size() == 1);
  CHECK(problems[0].where == "mechanism.radius");
}

TEST_CASE("their steps stand in the working") {
  const Evaluation e = evaluated(axis_with_both());
  bool radius = false, law = false;
  for (const Step& step : e.steps)
    for (const Term& term : step.terms) {
      radius |= term.ref == "mechanism.radius";
      law |= step.formula->id == "motion.law_peak_speed" && term.ref == "cycle[0].distance";
    }
  CHECK(radius);
  CHECK(law);
}
