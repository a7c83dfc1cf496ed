#include "support/axes.hpp"

#include "core/library/catalogue.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/motion/cycle.hpp"
#include "core/rules/house_rules.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <cstdlib>

namespace fulmox::testing {
namespace {
std::string number(double value) {
  char buffer[40];
  std::snprintf(buffer, sizeof buffer, "%.12g", value);
  return buffer;
}
} // namespace

std::filesystem::path source_folder() { return FULMOX_SOURCE_DIR; }

const Library& library() {
  static const Library all = [] {
    auto loaded = load_library(source_folder() / "data" / "library");
    if (!loaded) throw std::runtime_error(loaded.problem().text());
    return std::move(*loaded);
  }();
  return all;
}

Parts parts_of_form(std::string_view slot, const SectionSpec& form) {
  Parts parts;
  for (const Section& part : library().of(slot))
    if (&part.spec() == &form) parts.push_back(part);
  return parts;
}

Document demo() {
  auto loaded = load_document(source_folder() / "data" / "demo" / "transplanter.fulmox");
  if (!loaded) throw std::runtime_error(loaded.problem().text());
  return std::move(*loaded);
}

Axis picker() { return demo().axes[0]; }

Section house_rules() { return Section(house_rules_section()); }

void add_move(Axis& axis, const std::string& distance, const std::string& time, const std::string& accel,
              const std::string& decel) {
  Section move(*find_segment_spec("move"));
  move.type("distance", distance);
  move.type("time", time);
  move.type("acceleration_share", accel);
  move.type("deceleration_share", decel);
  axis.cycle.push_back(std::move(move));
  number_sections(axis);
}

void add_dwell(Axis& axis, const std::string& time) {
  Section dwell(*find_segment_spec("dwell"));
  dwell.type("time", time);
  axis.cycle.push_back(std::move(dwell));
  number_sections(axis);
}

void add_segment(Axis& axis, std::string_view kind,
                 std::initializer_list<std::pair<std::string_view, std::string>> values) {
  Section segment(*find_segment_spec(kind, motion_of(axis)));
  for (const auto& [field, text] : values) segment.type(field, text);
  axis.cycle.push_back(std::move(segment));
  number_sections(axis);
}

std::vector<std::string_view> all_mechanisms() {
  std::vector<std::string_view> all;
  for (const MechanismSpec* spec : mechanism_specs()) all.push_back(spec->section.id);
  return all;
}

Axis axis_on(std::string_view mechanism) {
  Axis axis = new_axis("On " + std::string(mechanism));
  choose_mechanism(axis, *find_mechanism(mechanism));
  return axis;
}

Axis plain_axis() {
  Axis axis = new_axis("Plain");
  axis["load"].type("moved_mass", "10 kg");
  add_move(axis, "300 mm", "0.4 s", "1/3", "1/3");
  return axis;
}

double RandomAxes::between(double low, double high) {
  return std::uniform_real_distribution<double>(low, high)(engine_);
}

Axis RandomAxes::next() {
  Axis axis = new_axis("Random");
  Section& load = axis["load"];
  load.type("moved_mass", number(between(0.5, 80.0)) + " kg");
  load.type("angle", number(between(-90.0, 90.0)) + " deg");
  load.type("friction", number(between(0.0, 0.2)));
  load.type("seal_drag", number(between(0.0, 30.0)) + " N");
  load.type("viscous", number(between(0.0, 60.0)) + " N.s/m");
  load.type("spring", number(between(0.0, 100.0)) + " N");
  Section& screw = axis["mechanism"];
  screw.type("lead", number(between(2.0, 40.0)) + " mm");
  screw.type("diameter", number(between(8.0, 40.0)) + " mm");
  screw.type("length", number(between(0.3, 2.0)) + " m");
  screw.type("efficiency", number(between(0.3, 0.98)));
  screw.type("drag", number(between(0.0, 0.2)) + " N.m");
  Section& gear = axis["gearhead"];
  gear.type("ratio", number(between(0.5, 10.0)));
  gear.type("efficiency", number(between(0.7, 1.0)));
  gear.type("inertia", number(between(0.0, 1.0)) + " kg.cm2");
  gear.type("no_load", number(between(0.0, 0.05)) + " N.m");
  gear.type("no_load_rise", number(between(0.0, 20.0)) + " mN.m/krpm");
  const Parts& motors = library().of("motor");
  choose_part(axis, "motor",
              motors[static_cast<std::size_t>(between(0.0, static_cast<double>(motors.size()) - 0.01))]);
  double back = 0.0;
  const int moves = static_cast<int>(between(1.0, 4.0));
  for (int i = 0; i < moves; ++i) {
    const double distance = between(-300.0, 300.0);
    back -= distance;
    const double accel = between(0.05, 0.6);
    add_move(axis, number(distance) + " mm", number(between(0.2, 2.0)) + " s", number(accel),
             number(between(0.05, 1.0 - accel)));
    if (between(0.0, 1.0) > 0.5) add_dwell(axis, number(between(0.05, 1.0)) + " s");
  }
  add_move(axis, number(back) + " mm", number(between(0.2, 2.0)) + " s", "1/3", "1/4");
  return axis;
}

Axis RandomAxes::next_on(std::string_view mechanism) {
  Axis axis = axis_on(mechanism);
  const bool turning = motion_of(axis).rotary();
  Section& load = axis["load"];
  const auto type = [&](Section& section, std::string_view field, double low, double high, const char* unit) {
    if (section.spec().index_of(field)) section.type(field, number(between(low, high)) + " " + unit);
  };
  type(load, "moved_mass", 0.5, 60.0, "kg");
  if (mechanism != "crank") type(load, "angle", -90.0, 90.0, "deg");
  if (mechanism != "crank") type(load, "spring_rate", 0.0, 0.1, "N/mm");
  type(load, "spring", 150.0, 300.0, "N");
  type(load, "friction", 0.001, 0.2, "");
  type(load, "seal_drag", 0.0, 20.0, "N");
  type(load, "inertia", 0.001, 0.5, "kg.m2");
  type(load, "friction_torque", 0.01, 2.0, "N.m");
  type(load, "viscous_torque", 0.0, 20.0, "mN.m/krpm");
  Section& m = axis["mechanism"];
  type(m, "efficiency", 0.6, 0.99, "");
  type(m, "drag", 0.0, 0.2, "N.m");
  type(m, "mass", 0.5, 5.0, "kg");
  type(m, "centre", 50.0, 400.0, "mm");
  type(m, "start_angle", -180.0, 180.0, "deg");
  type(m, "belt_mass", 0.1, 2.0, "kg");
  type(m, "pulley_inertia", 0.1, 5.0, "kg.cm2");
  type(m, "drum_inertia", 0.1, 5.0, "kg.cm2");
  type(m, "crank_inertia", 1.0, 50.0, "kg.cm2");
  type(m, "motor_mass", 0.5, 5.0, "kg");
  Section& gear = axis["gearhead"];
  type(gear, "ratio", 1.0, 10.0, "");
  type(gear, "efficiency", 0.7, 1.0, "");
  type(gear, "no_load", 0.0, 0.05, "N.m");
  type(gear, "no_load_rise", 0.0, 20.0, "mN.m/krpm");
  if (between(0.0, 1.0) > 0.5) {
    Section stage(*find_kind(axis, *find_list("stages"), "gear_pair"));
    stage.type("driven", number(std::round(between(20.0, 80.0))));
    stage.type("output_inertia", number(between(0.1, 10.0)) + " kg.cm2");
    axis.stages.push_back(std::move(stage));
  }
  const Parts& motors = library().of("motor");
  choose_part(axis, "motor",
              motors[static_cast<std::size_t>(between(0.0, static_cast<double>(motors.size()) - 0.01))]);
  const char* laws[] = {"trapezoid", "triangle",  "s_curve",       "parabolic",         "345",
                        "4567",      "cycloidal", "modified_sine", "modified_trapezoid"};
  double back = 0.0;
  const int moves = static_cast<int>(between(1.0, 4.0));
  for (int i = 0; i <= moves; ++i) {
    const double reach = turning ? 400.0 : 300.0;
    const double distance = i < moves ? between(-reach, reach) : back;
    back -= i < moves ? distance : 0.0;
    add_segment(axis, "move",
                {{"distance", number(distance) + (turning ? " deg" : " mm")},
                 {"law", laws[static_cast<std::size_t>(between(0.0, 8.99))]},
                 {"time", number(between(0.3, 2.0)) + " s"}});
    if (between(0.0, 1.0) > 0.5) add_segment(axis, "dwell", {{"time", number(between(0.05, 1.0)) + " s"}});
  }
  return axis;
}

Evaluation evaluated(const Axis& axis) {
  auto result = evaluate(axis, house_rules());
  if (!result) FAIL(result.problem().text());
  return std::move(*result);
}

std::vector<Instant> samples_of(const Evaluation& evaluation) {
  return sample(*evaluation.model, evaluation.course).samples;
}

double value(const Evaluation& evaluation, std::string_view id) {
  const ResultValue* result = evaluation.find(id);
  if (result == nullptr) FAIL("no result " << id);
  return result->value;
}

void check_same(const Evaluation& a, const Evaluation& b, double within) {
  REQUIRE(a.results.size() == b.results.size());
  for (std::size_t i = 0; i < a.results.size(); ++i) {
    INFO(a.results[i].id);
    // heat is followed in spans that lift the winding by a quarter of a kelvin: cut elsewhere, it differs a
    // little
    constexpr double cut_elsewhere = 5e-3, met_in_another_span = 0.1;
    const double most = a.results[i].id == "heat.time_to_limit" ? met_in_another_span
                        : a.results[i].id.starts_with("heat.")  ? std::max(within, cut_elsewhere)
                                                                : within;
    CHECK(a.results[i].value == Approx(b.results[i].value).epsilon(most).margin(1e-12));
  }
}

const Limit& limit(const Evaluation& evaluation, std::string_view id) {
  for (const Limit& candidate : evaluation.limits)
    if (candidate.id == id) return candidate;
  FAIL("no limit " << id);
  std::abort();
}

bool warns(const Evaluation& evaluation, std::string_view id) {
  for (const Warning& warning : evaluation.warnings)
    if (warning.id == id) return true;
  return false;
}

TemporaryFolder::TemporaryFolder() {
  std::string pattern = (std::filesystem::temp_directory_path() / "fulmox-test-XXXXXX").string();
  if (::mkdtemp(pattern.data()) == nullptr) throw std::runtime_error("no temporary folder");
  path_ = pattern;
}

TemporaryFolder::~TemporaryFolder() {
  std::error_code ignored;
  std::filesystem::remove_all(path_, ignored);
}

} // namespace fulmox::testing
