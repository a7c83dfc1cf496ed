// The story of the demo machine, told by keyboard and mouse in the real window.

#include "window.hpp"

#include "app/find/find_palette.hpp"
#include "app/theme/theme.hpp"

#include <QClipboard>
#include <QScrollBar>
#include <QTableWidget>
#include <QTextBrowser>

using namespace fulmox;
using namespace fulmox::testing;
using namespace fulmox::app;

namespace {
std::string text(const QString& q) { return q.toStdString(); }
} // namespace

TEST_CASE("the demo opens on its vertical ball-screw picker axis with everything in sight") {
  Window w;
  CHECK(w.child<QToolButton>("axis_0")->text().startsWith("Picker"));
  for (const char* part : {"sketch", "torque_plane", "torque_stack", "inertia_shares", "ladder", "ribbon",
                           "numbers", "givens"}) {
    INFO(part);
    auto* widget = w.child<QWidget>(part);
    REQUIRE(widget != nullptr);
    CHECK(widget->isVisible());
    CHECK(widget->width() > 100);
    CHECK(widget->height() > 80);
    CHECK_FALSE(widget->accessibleName().isEmpty());
  }
  CHECK(w.number("Peak torque") == "326 mN·m");
  CHECK(w.rung("Motor speed") == "clear, 64 %, Motor speed");
  CHECK(w.stale_note().isEmpty());
}

TEST_CASE("numbers, rungs and plots follow every keystroke") {
  Window w;
  const QImage plane = w.child<QWidget>("torque_plane")->grab().toImage();
  const QImage sketch = w.child<QWidget>("sketch")->grab().toImage();
  const QImage shares = w.child<QWidget>("inertia_shares")->grab().toImage();
  QLineEdit* mass = w.field("load.moved_mass");
  QTest::keyClick(mass, Qt::Key_A, Qt::ControlModifier);
  QTest::keyClicks(mass, "2*4");
  w.settle();
  CHECK(mass->text() == "2*4"); // the unit is added to the document, not under the hand
  CHECK(w.session.axis()["load"].text("moved_mass") == "2*4 kg");
  const QString at_eight = w.number("Holding torque");
  CHECK(at_eight == "125 mN·m");
  QTest::keyClicks(mass, ".5 kg");
  w.settle();
  CHECK(w.number("Holding torque") == "140 mN·m");
  CHECK(w.rung("Brake holding torque") == "clear, 77 %, Brake holding torque");
  CHECK(w.child<QWidget>("torque_plane")->grab().toImage() != plane);
  CHECK(w.child<QWidget>("sketch")->grab().toImage() != sketch);
  CHECK(w.child<QWidget>("inertia_shares")->grab().toImage() != shares);
  QTest::keyClick(mass, Qt::Key_Tab);
  CHECK(mass->text() == "2*4.5 kg");
}

TEST_CASE("lead, gear ratio and move time each move what they should") {
  Window w;
  w.type("mechanism.lead", "5 mm");
  CHECK(w.number("Top speed") == "7710 rpm");
  CHECK(w.rung("Motor speed").startsWith("over"));
  w.type("mechanism.lead", "10 mm");
  w.type("gearhead.ratio", "2");
  CHECK(w.number("Top speed") == "7710 rpm");
  CHECK(w.number("Inertia ratio") == "0.663");
  w.type("gearhead.ratio", "1");
  w.type("cycle[0].time", "0.7 s");
  w.type("cycle[2].time", "0.7 s");
  CHECK(w.number("Top speed") == "1930 rpm");
}

TEST_CASE("F2 on the peak torque shows the working down to the inputs, and the inputs are a click away") {
  Window w;
  auto* numbers = w.child<Numbers>("numbers");
  const QRect cell = numbers->visualItemRect(numbers->item(0));
  QTest::mouseClick(numbers->viewport(), Qt::LeftButton, {}, cell.center());
  QTest::keyClick(numbers, Qt::Key_F2);
  w.settle();
  REQUIRE(w.window.axis_view()->working_open());
  const std::string working = text(w.window.axis_view()->working()->text());
  using Catch::Contains;
  CHECK_THAT(working, Contains("Peak torque"));
  CHECK_THAT(working, Contains("T = F·p/(2π·η)"));
  CHECK_THAT(working, Contains("99.90 N·10.00 mm"));
  CHECK_THAT(working, Contains("typed “6 kg”"));
  CHECK_THAT(working, Contains("a guess"));
  CHECK_THAT(working, Contains("screw.torque_driving"));

  auto* browser = w.child<QTextBrowser>("working_text");
  emit browser->anchorClicked(QUrl("input:load.moved_mass"));
  w.settle();
  CHECK(w.window.focusWidget()->objectName() == "moved_mass");
  // the working follows what is typed: what is in sight at once, the rest when typing pauses
  const auto shown = [&] { return text(w.window.axis_view()->working()->text()); };
  const std::string before = shown();
  w.type("load.moved_mass", "7 kg");
  CHECK_THAT(shown(), Contains("Peak torque"));
  CHECK(browser->document()->size().height() > browser->viewport()->height()); // no gap below
  CHECK(shown().substr(0, 300) != before.substr(0, 300));
  CHECK(QTest::qWaitFor([&] { return shown().find("typed “7 kg”") != std::string::npos; }, 5000));
  CHECK_THAT(shown(), !Contains("99.90 N"));
  QTest::keyClick(&w.window, Qt::Key_Escape);
  w.settle();
  CHECK_FALSE(w.window.axis_view()->working_open());
}

TEST_CASE("a rung takes the cursor to where it binds and opens its working") {
  Window w;
  auto* ladder = w.child<QListWidget>("ladder");
  for (int i = 0; i < ladder->count(); ++i) {
    if (!ladder->item(i)->data(Qt::AccessibleTextRole).toString().endsWith(", Peak torque")) continue;
    ladder->scrollToItem(ladder->item(i));
    QTest::mouseClick(ladder->viewport(), Qt::LeftButton, {},
                      ladder->visualItemRect(ladder->item(i)).center());
    break;
  }
  w.settle();
  const Evaluation& e = *w.session.evaluation();
  CHECK(w.session.cursor() == Approx(limit(e, "motor.peak").moment->time));
  CHECK(w.window.axis_view()->working()->shown() == "limit.motor.peak");
}

TEST_CASE("the second look leads to the input that mends it") {
  Window w;
  w.session.edit("No brake", "", [](Document& d) { d.axes[0]["brake"].type("fitted", "no"); });
  w.settle();
  auto* list = w.child<QListWidget>("second_look");
  REQUIRE(list->count() >= 1);
  REQUIRE(list->isVisible());
  QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(0)).center());
  w.settle();
  CHECK(w.window.focusWidget()->objectName() == "fitted");
}

TEST_CASE("undo and redo by keyboard, with names") {
  Window w;
  w.type("load.moved_mass", "8 kg");
  w.type("mechanism.lead", "16 mm");
  auto* undo = w.child<QToolButton>("undo");
  CHECK(undo->toolTip().contains("Change lead"));
  QTest::keyClick(&w.window, Qt::Key_Z, Qt::ControlModifier);
  w.settle();
  CHECK(w.session.axis()["mechanism"].text("lead") == "10 mm");
  CHECK(w.field("mechanism.lead")->text() == "10 mm");
  QTest::mouseClick(undo, Qt::LeftButton);
  w.settle();
  CHECK(w.session.axis()["load"].text("moved_mass") == "6 kg");
  CHECK_FALSE(undo->isEnabled());
  QTest::mouseClick(w.child<QToolButton>("redo"), Qt::LeftButton);
  w.settle();
  CHECK(w.session.axis()["load"].text("moved_mass") == "8 kg");
}

TEST_CASE("saving, changing and opening again") {
  Window w;
  const TemporaryFolder folder;
  const QString path = QString::fromStdString(folder.file("picker.fulmox").string());
  w.type("load.moved_mass", "2*4.5 kg");
  CHECK(w.window.windowTitle().startsWith("• "));
  REQUIRE_FALSE(w.session.save(path));
  CHECK_FALSE(w.window.windowTitle().startsWith("• "));
  w.type("load.moved_mass", "3 kg");
  REQUIRE(w.window.open(path));
  w.settle();
  CHECK(w.field("load.moved_mass")->text() == "2*4.5 kg");
  CHECK(w.number("Holding torque") == "140 mN·m");
  CHECK(w.window.windowTitle().contains("picker.fulmox"));
}

TEST_CASE("the palette finds inputs, results, parts and commands") {
  Window w;
  const auto find = [&](const QString& words) {
    w.in_dialog<FindPalette>([&] { w.window.find(); },
                             [&](FindPalette& palette) {
                               auto* line = palette.findChild<QLineEdit*>("find_line");
                               QTest::keyClicks(line, words);
                               QTest::keyClick(line, Qt::Key_Return);
                             });
    w.settle();
  };
  find("seal drag");
  CHECK(w.window.focusWidget()->objectName() == "seal_drag");
  find("result rms torque");
  CHECK(w.window.axis_view()->working()->shown() == "demand.rms_torque");
  find("TP60-5");
  CHECK(w.session.axis()["gearhead"].text("part_number") == "TP60-5");
  find("command undo");
  CHECK(w.session.axis()["gearhead"].text("part_number").empty());
}

TEST_CASE("unit sets and house rules") {
  Window w;
  auto* units = w.child<QComboBox>("units");
  units->setCurrentIndex(1);
  emit units->activated(1);
  w.settle();
  CHECK(w.number("Peak torque").endsWith("lbf·in"));
  CHECK(w.session.axis()["load"].text("moved_mass") == "6 kg"); // inputs stay as typed
  auto* rules = w.child<QComboBox>("house_rules");
  REQUIRE(rules->count() >= 3);
  CHECK(rules->width() >=
        std::min(rules->sizeHint().width(), rules->maximumWidth())); // "rules: general" is whole
  const int matched = rules->findText("rules: matched");
  REQUIRE(matched >= 0);
  emit rules->activated(matched);
  w.settle();
  CHECK(w.rung("Inertia ratio").startsWith("over"));
  w.type("house_rules.inertia_max", "20");
  CHECK(w.rung("Inertia ratio") == "clear, 13 %, Inertia ratio");
  CHECK(rules->currentIndex() == -1); // none of the shipped sets any more
  CHECK(rules->placeholderText() == "own: matched");
  CHECK(rules->fontMetrics().horizontalAdvance(rules->placeholderText()) + 30 <= rules->width());
  w.type("house_rules.inertia_max", "1");
  w.session.type("house_rules", "reason", "Another reason for the same rules.");
  w.settle();
  CHECK(rules->currentText() == "rules: matched");
  w.type("house_rules.inertia_max", "20");
  w.type("house_rules.attention", "10 %");
  CHECK(w.rung("Inertia ratio").startsWith("tight"));
  w.type("house_rules.attention", "0");
  CHECK(w.session.stale());
  CHECK(w.stale_note().contains("House rules, attention from"));
}

TEST_CASE("light and dark show the same numbers") {
  Window w;
  const QImage light = w.window.grab().toImage();
  w.window.set_dark(true);
  w.settle();
  const QImage dark = w.window.grab().toImage();
  CHECK(light.pixelColor(5, 5).lightness() > 200);
  CHECK(dark.pixelColor(5, 5).lightness() < 80);
  CHECK(w.number("Peak torque") == "326 mN·m");
  w.window.set_dark(false);
}
