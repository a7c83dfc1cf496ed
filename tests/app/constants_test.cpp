// The view of motor constants: one known in every reading, a spun motor, and what goes into the axis.

#include "app/constants/constants_view.hpp"
#include "app/views/sheet.hpp"
#include "app/window.hpp"

#include <QComboBox>
#include <QTableWidget>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

struct Constants {
  explicit Constants(Window& window) : w(window) {
    QTest::keyClick(&w.window, Qt::Key_3, Qt::ControlModifier);
    w.settle();
    REQUIRE(w.window.sheet()->shown().id == "constants");
    table = w.child<QTableWidget>("constants_table");
    value = w.child<QLineEdit>("constants_value");
    reading = w.child<QComboBox>("constants_reading");
  }
  [[nodiscard]] QString of(const QString& label, int column = 1) const {
    for (int row = 0; row < table->rowCount(); ++row)
      if (table->item(row, 0)->text() == label) return table->item(row, column)->text();
    return {};
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

  Window& w;
  QTableWidget* table = nullptr;
  QLineEdit* value = nullptr;
  QComboBox* reading = nullptr;
};

} // namespace

TEST_CASE("the constants of the motor in hand stand in every reading") {
  Window w;
  Constants c(w);
  CHECK(c.reading->currentText() == "Kt per rms ampere of a line");
  CHECK(c.value->text() == QString::fromStdString(w.session.axis()["motor"].text("kt")));
  c.type("constants_value", "0.1654 N.m/A");
  CHECK(c.of("Ke line-line rms").startsWith("10.0"));
  CHECK(c.of("Kt per peak ampere of a line") == "0.1170 N·m/A");
  CHECK(c.of("Kt per peak ampere of a line", 2) == "× 1.414");
  CHECK(w.child<QLabel>("constants_errors")->text().contains("0.816"));
  c.type("constants_value", "5 kg");
  CHECK(w.child<QLabel>("constants_fault")->isVisible());
  CHECK(c.of("Ke line-line rms") == "–");
  CHECK_FALSE(w.child<QPushButton>("constants_to_motor")->isEnabled());
}

TEST_CASE("a constant is put into the motor in one step that can be taken back") {
  Window w;
  Constants c(w);
  const std::string before = w.session.axis()["motor"].text("kt");
  c.type("constants_value", "0.2 N.m/A");
  c.click("constants_to_motor");
  CHECK(w.session.axis()["motor"].text("kt") == "0.2 N.m/A");
  CHECK(w.session.axis()["motor"].text("kt_per") == "rms");
  CHECK(w.session.axis()["motor"].term("ke") == Approx(0.2 / std::sqrt(3.0)).epsilon(1e-6));
  CHECK(w.session.axis()["motor"].text("ke_as") == "line rms");
  w.session.undo();
  CHECK(w.session.axis()["motor"].text("kt") == before);
  c.click("constants_from_motor");
  CHECK(c.value->text().toStdString() == before);
}

TEST_CASE("a spun motor is taken as known") {
  Window w;
  Constants c(w);
  c.type("constants_pairs", "4");
  CHECK_FALSE(w.child<QPushButton>("spin_take")->isEnabled());
  c.type("spin_frequency", "200 Hz");
  c.type("spin_volts", "20 V");
  REQUIRE(w.child<QPushButton>("spin_take")->isEnabled());
  CHECK(w.child<QLabel>("spun")->text().contains("3000 rpm"));
  c.click("spin_take");
  CHECK(c.reading->currentText() == "Ke line-line peak");
  CHECK(c.of("Ke line-line rms") == "6.667 V/krpm"); // 20 V at 3000 rpm
}

TEST_CASE("a winding read on the bench tells its kind and goes into the motor") {
  Window w;
  Constants c(w);
  auto* told = w.child<QLabel>("winding_told");
  auto* fault = w.child<QLabel>("winding_fault");
  auto* take = w.child<QPushButton>("winding_take");
  CHECK_FALSE(take->isEnabled());
  for (const char* pair : {"winding_pair1", "winding_pair2", "winding_pair3"}) c.type(pair, "0.82 Ohm");
  c.type("winding_temperature", "45 °C");
  CHECK(told->text().contains("747 mΩ")); // 0.82/(1 + 25·0.00393)
  CHECK(told->text().contains("1.5 %"));
  c.type("winding_heat1", "1");
  c.type("winding_heat2", "4");
  c.type("winding_heat3", "1");
  CHECK(told->text().contains("a delta"));
  CHECK(told->text().contains("One winding: 1.12")); // 1.5 times
  // the trap: a delta with one winding open heats like a wye
  c.type("winding_pair1", "1.64 Ohm");
  CHECK(told->text().contains("open"));
  CHECK_FALSE(take->isEnabled());
  c.type("winding_pair1", "0.82 Ohm");
  c.type("winding_least", "3 mH");
  c.type("winding_most", "2 mH");
  CHECK(fault->isVisible());
  CHECK_FALSE(take->isEnabled());
  c.type("winding_most", "8 mH");
  c.click("winding_take");
  const Section& motor = w.session.axis()["motor"];
  CHECK(motor.term("resistance") == Approx(0.82 / (1.0 + 25.0 * 0.00393)).epsilon(1e-4));
  CHECK(motor.text("winding_as") == "terminal");
  CHECK(motor.term("inductance") == Approx(3e-3));
  CHECK(motor.term("inductance_q") == Approx(8e-3));
  CHECK(motor.entry("resistance").origin == Origin::measured);
  // a reading that does not turn with the rotor is one inductance
  c.type("winding_most", "3.1 mH");
  c.click("winding_take");
  CHECK(w.session.axis()["motor"].term("inductance") == Approx(3.05e-3));
  CHECK(w.session.axis()["motor"].blank("inductance_q"));
  c.type("winding_temperature", "400 °C");
  CHECK(fault->text().contains("200 °C"));
}

TEST_CASE("another kind of motor is chosen from its list and keeps what both know") {
  Window w;
  emit w.session.input_requested("motor.inertia");
  w.settle();
  const std::string inertia = w.session.axis()["motor"].text("inertia");
  REQUIRE(w.session.axis()["motor"].spec().id == "motor");
  const auto kind = [&] { return w.child<QComboBox>("motor_kind"); };
  CHECK(kind()->currentText() == "Servo motor, sine currents");
  kind()->setFocus();
  QTest::keyClick(kind(), Qt::Key_Down); // the kind after it
  w.settle();
  CHECK(w.session.axis()["motor"].spec().id == "stepper_motor");
  CHECK(w.session.axis()["motor"].text("inertia") == inertia);
  CHECK(kind()->currentText() == "Stepper, two phases, open loop");
  // the servo's drive cannot run it: the ladder says so first
  REQUIRE_FALSE(w.session.evaluation()->limits.empty());
  CHECK(w.session.evaluation()->limits.front().id == "drive.match");
  w.session.undo();
  w.settle();
  CHECK(w.session.axis()["motor"].spec().id == "motor");
  CHECK(kind()->currentText() == "Servo motor, sine currents");
}
