// The view of what an axis can give: read at the load, swung without touching the axis, on the bench.

#include "app/capability/bench_plots.hpp"
#include "app/sheet/plot.hpp"
#include "app/views/sheet.hpp"
#include "app/window.hpp"
#include "core/evaluation/bench_picture.hpp"
#include "core/evaluation/capability.hpp"

#include <QComboBox>
#include <QSlider>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

struct View {
  explicit View(Window& window) : w(window) {
    QTest::keyClick(&w.window, Qt::Key_4, Qt::ControlModifier);
    w.settle();
    REQUIRE(w.window.sheet()->shown().id == "capability");
  }
  void type(const QString& name, const QString& text) const {
    auto* edit = w.child<QLineEdit>(name);
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, text);
    w.settle();
  }
  void click(const QString& name) const {
    QTest::mouseClick(w.child<QPushButton>(name), Qt::LeftButton);
    w.settle();
  }
  void step(const QString& slider, Qt::Key key, int times) const {
    auto* one = w.child<QSlider>(slider);
    one->setFocus();
    for (int i = 0; i < times; ++i) QTest::keyClick(one, key);
    w.settle();
  }
  [[nodiscard]] QString text(const QString& label) const { return w.child<QLabel>(label)->text(); }
  [[nodiscard]] QCPGraph* graph(const QString& plot, int index) const {
    return w.child<Plot>(plot)->graph(index);
  }

  Window& w;
};

constexpr int given_graph = 1, peak_graph = 5; // graphs of the envelope, in their order

} // namespace

TEST_CASE("what the axis can press with is read off at a speed, in the load's units") {
  Window w;
  View view(w);
  view.type("capability_speed", "20 mm/s");
  const Capability there = capability_at(*w.session.evaluation(), 0.02);
  CHECK(view.text("capability_answer").contains(QString::number(there.peak, 'f', 0) + " N for a short time"));
  CHECK(view.text("capability_answer").contains(QString::number(there.lasting, 'f', 0) + " N for ever"));
  CHECK(view.text("capability_answer").contains("120 rpm"));
  view.type("capability_speed", "20 kg");
  CHECK(view.text("capability_answer").contains("speed"));
  view.type("capability_speed", "-5 mm/s");
  CHECK(view.text("capability_answer") == "A speed without sign.");
  CHECK(w.child<Plot>("capability_plot")->units() == "mN·m over rpm");
  const double at_shaft = view.graph("capability_plot", peak_graph)->data()->constBegin()->value;
  w.child<QComboBox>("capability_where")->setFocus();
  QTest::keyClick(w.child<QComboBox>("capability_where"), Qt::Key_Down);
  w.settle();
  CHECK(w.child<Plot>("capability_plot")->units().startsWith("N over"));
  CHECK(view.graph("capability_plot", peak_graph)->data()->constBegin()->value ==
        Approx(capability_at(*w.session.evaluation(), 0.0).peak));
  CHECK(at_shaft == Approx(954.0).epsilon(1e-3));
}

TEST_CASE("bus and ambient are swung without touching the axis, and taken over on demand") {
  Window w;
  View view(w);
  const std::string before = w.session.axis()["surroundings"].text("bus");
  const auto reach = [&] { // the speed to which the peak goes
    const auto data = view.graph("capability_plot", peak_graph)->data();
    double most = 0.0;
    for (const QCPGraphData& point : *data)
      if (point.value > 0.3) most = std::max(most, point.key);
    return most;
  };
  const double as_given = reach();
  CHECK(view.graph("capability_plot", given_graph)->data()->isEmpty());
  CHECK_FALSE(w.child<QPushButton>("capability_take_over")->isEnabled());
  view.step("capability_bus", Qt::Key_Left, 30);
  CHECK(view.text("capability_bus_told") == "33.6 V");
  CHECK(reach() < 0.9 * as_given);
  CHECK_FALSE(view.graph("capability_plot", given_graph)->data()->isEmpty());
  CHECK(w.session.axis()["surroundings"].text("bus") == before);
  CHECK_FALSE(w.session.dirty());
  view.click("capability_as_given");
  CHECK(reach() == Approx(as_given));
  CHECK(view.graph("capability_plot", given_graph)->data()->isEmpty());
  view.step("capability_ambient", Qt::Key_Right, 5);
  view.step("capability_bus", Qt::Key_Right, 25);
  view.click("capability_take_over");
  CHECK(w.session.axis()["surroundings"].text("bus") == "60 V");
  CHECK(w.session.axis()["surroundings"].text("ambient") == "50 °C");
  CHECK(view.text("capability_bus_told") == "60.0 V");
  w.session.undo();
  w.settle();
  CHECK(w.session.axis()["surroundings"].text("bus") == before);
}

TEST_CASE("a stepper kept for comparison stands on the bench beside a brushless motor") {
  Window w;
  w.session.select_axis(5); // the demo's stepper
  w.settle();
  View view(w);
  view.type("bench_torque", "0.02 N.m");
  const BenchPicture stepper = bench_picture(*w.session.evaluation()->model, 0.02);
  REQUIRE_FALSE(stepper.points.empty());
  // [present, kept] × [without load, with]: graphs in that order
  CHECK(view.graph("bench_current", 1)->data()->size() == static_cast<int>(stepper.points.size()));
  CHECK(view.graph("bench_current", 2)->data()->isEmpty());
  view.click("bench_keep");
  CHECK(view.text("bench_kept").startsWith("Beside it: HS"));
  w.session.edit("another motor", "", [&](Document& d) {
    choose_part(d.axes[5], "motor", *w.session.library().find("motor", "CR40-0100-048L"));
    choose_part(d.axes[5], "drive", *w.session.library().find("drive", "EL48-050"));
  });
  w.settle();
  CHECK(view.graph("bench_current", 3)->data()->size() == static_cast<int>(stepper.points.size()));
  // at rest a stepper draws the same with and without load, a brushless motor what it holds
  const auto at_rest = [&](int graph) {
    return view.graph("bench_current", graph)->data()->constBegin()->value;
  };
  CHECK(at_rest(3) == Approx(at_rest(2)));
  CHECK(at_rest(1) > at_rest(0));
  w.session.undo();
  w.settle();
  CHECK(view.text("capability_gap").contains("schools"));
  const auto reach_of = [&](int graph) {
    double most = 0.0;
    for (const QCPGraphData& point : *view.graph("capability_plot", graph)->data())
      if (point.value > 0.02) most = std::max(most, point.key);
    return most;
  };
  CHECK(reach_of(7) > 0.0); // both schools have their curve
  CHECK(reach_of(8) > 0.0);
  view.type("bench_torque", "900 N.m");
  CHECK(view.text("bench_told").contains("even at rest"));
  view.click("bench_forget");
  CHECK(view.graph("bench_current", 2)->data()->isEmpty());
  CHECK(view.text("bench_kept").isEmpty());
}
