// The sketch: every dimension it carries lights up while its input is edited, on every mechanism, and the
// picture moves with the cursor.

#include "window.hpp"

#include "app/givens/givens_panel.hpp"
#include "app/theme/theme.hpp"

#include <catch2/catch.hpp>

#include <set>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

/// How much of the sketch is in the ink of a highlighted dimension.
int highlighted(Window& w) {
  const QImage picture = w.child<QWidget>("sketch")->grab().toImage();
  const QRgb accent = theme().accent.rgb();
  int count = 0;
  for (int y = 0; y < picture.height(); ++y)
    for (int x = 0; x < picture.width(); ++x) count += picture.pixel(x, y) == accent ? 1 : 0;
  return count;
}

std::set<std::string> dimensions(const Window& w) {
  const AxisModel& model = *w.session.evaluation()->model;
  Pose pose;
  pose.lowest = model.load->cycle.lowest;
  pose.highest = model.load->cycle.highest;
  std::set<std::string> fields;
  for (const Measure& measure : model.load->mechanism->draw(pose).measures)
    if (!measure.field.empty()) fields.insert(std::string(measure.field));
  return fields;
}

/// A machine with an axis on that mechanism and a move it can make.
void put_on(Window& w, std::string_view mechanism) {
  Axis axis = axis_on(mechanism);
  const bool turning = motion_of(axis).rotary();
  for (const auto& [field, text] : {std::pair{"moved_mass", "8 kg"}, {"inertia", "0.02 kg.m2"}})
    if (axis["load"].spec().index_of(field)) axis["load"].type(field, text);
  if (mechanism == "arm") {
    axis["mechanism"].type("mass", "2 kg");
    axis["mechanism"].type("centre", "150 mm");
  }
  const char* there = turning ? "120 deg" : "150 mm";
  const char* back = turning ? "-120 deg" : "-150 mm";
  add_segment(axis, "move", {{"distance", there}, {"time", "0.5 s"}});
  add_segment(axis, "move", {{"distance", back}, {"time", "0.5 s"}});
  w.session.edit("", "", [&](Document& document) { document.axes = {axis}; });
  w.session.select_axis(0);
  w.settle();
  INFO(mechanism);
  REQUIRE(w.session.evaluation() != nullptr);
  REQUIRE_FALSE(w.session.stale());
}

} // namespace

TEST_CASE("every dimension in the sketch lights up while its input is edited, on every mechanism") {
  Window w;
  int seen = 0;
  for (const MechanismSpec* spec : mechanism_specs()) {
    put_on(w, spec->section.id);
    for (const std::string& field : dimensions(w)) {
      INFO(spec->section.id << ": " << field);
      w.child<QWidget>("ladder")->setFocus();
      w.settle();
      const int before = highlighted(w);
      w.child<GivensPanel>("givens")->go_to(QString::fromStdString(field));
      w.settle();
      CHECK(highlighted(w) > before);
      ++seen;
    }
  }
  CHECK(seen >= 12);
}

TEST_CASE("the sketch of every mechanism moves with the cursor") {
  Window w;
  for (const MechanismSpec* spec : mechanism_specs()) {
    put_on(w, spec->section.id);
    INFO(spec->section.id);
    w.session.set_cursor(0.0);
    w.settle();
    const QImage start = w.child<QWidget>("sketch")->grab().toImage();
    w.session.set_cursor(0.5);
    w.settle();
    CHECK(w.child<QWidget>("sketch")->grab().toImage() != start);
  }
}

TEST_CASE("a counterweight hangs in the sketch and goes down as the load goes up") {
  Window w;
  put_on(w, "screw");
  const auto weight_height = [&](double position) {
    const Mechanism& mechanism = *w.session.evaluation()->model->load->mechanism;
    Pose pose;
    pose.highest = 0.15;
    pose.position = position;
    const Shape weight = mechanism.draw(pose).shapes.back();
    double sum = 0.0;
    for (const Point& corner : weight.points) sum += 0.25 * corner.y;
    return sum;
  };
  w.type("load.angle", "60 deg");
  const std::size_t without =
      w.session.evaluation()->model->load->mechanism->draw({0.0, 0.0, 0.15}).shapes.size();
  w.type("load.counterweight", "6 kg");
  REQUIRE_FALSE(w.session.stale());
  CHECK(w.session.evaluation()->model->load->mechanism->draw({0.0, 0.0, 0.15}).shapes.size() > without);
  CHECK(weight_height(0.15) == Approx(weight_height(0.0) - 0.15));
}
