// Editing in the givens: segments, origins, notes, choices, single steps of undo.

#include "window.hpp"

#include "app/ladder/rung_delegate.hpp"

#include "app/theme/theme.hpp"

#include "core/mechanism/mechanism.hpp"

#include <QHelpEvent>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QToolTip>

#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;
using namespace fulmox::app;

namespace {

QToolButton* button(Window& w, const QString& tip, int which) {
  int seen = 0;
  for (QToolButton* candidate : w.window.findChildren<QToolButton*>())
    if (candidate->toolTip() == tip && seen++ == which) return candidate;
  FAIL("no button " << tip.toStdString());
  return nullptr;
}

std::string kinds(Window& w) {
  std::string all;
  for (const Section& segment : w.session.axis().cycle) all += segment.spec().id == "move" ? 'm' : 'd';
  return all;
}

} // namespace

TEST_CASE("segments are added, copied, moved and removed, each undone by its name") {
  Window w;
  REQUIRE(kinds(w) == "mdmd");
  QTest::mouseClick(w.child<QToolButton>("add_dwell"), Qt::LeftButton);
  w.settle();
  CHECK(kinds(w) == "mdmdd");
  CHECK(w.session.history().undo_name() == "Add dwell");
  auto* more = w.child<QToolButton>("more_segment_0");
  emit more->menu()->aboutToShow();
  more->menu()->findChild<QAction*>("copy_segment")->trigger();
  w.settle();
  CHECK(kinds(w) == "mmdmdd");
  QTest::mouseClick(button(w, "Move segment earlier", 2), Qt::LeftButton);
  w.settle();
  CHECK(kinds(w) == "mdmmdd");
  QTest::mouseClick(button(w, "Remove segment", 0), Qt::LeftButton);
  w.settle();
  CHECK(kinds(w) == "dmmdd");
  CHECK(w.field("cycle[1].distance")->text() == "-150 mm");
  for (int i = 0; i < 4; ++i) w.session.undo();
  w.settle();
  CHECK(kinds(w) == "mdmd");
  CHECK_FALSE(w.session.history().can_undo());
}

TEST_CASE("a move added at the end goes back to where the cycle began") {
  Window w(false);
  QTest::mouseClick(w.child<QToolButton>("add_axis"), Qt::LeftButton);
  w.type("load.moved_mass", "5 kg");
  auto* add = w.child<QToolButton>("add_move");
  QTest::mouseClick(add, Qt::LeftButton);
  w.settle();
  QTest::mouseClick(add, Qt::LeftButton);
  w.settle();
  CHECK(w.session.axis().cycle[1].term("distance") == Approx(-w.session.axis().cycle[0].term("distance")));
  CHECK_FALSE(warns(*w.session.evaluation(), "open_cycle"));
}

TEST_CASE("an undo while the keyboard is in the field changes the field too") {
  Window w;
  w.type("load.moved_mass", "8 kg");
  w.session.seal();
  w.type("load.moved_mass", "9 kg");
  QLineEdit* mass = w.field("load.moved_mass");
  w.session.undo();
  w.settle();
  CHECK(mass->text() == "8 kg");
  w.session.redo();
  w.settle();
  CHECK(mass->text() == "9 kg");
}

TEST_CASE("going back and forth between fields keeps one undo step for each visit") {
  Window w;
  w.type("load.moved_mass", "7 kg");
  w.type("mechanism.lead", "12 mm");
  w.type("load.moved_mass", "8 kg");
  CHECK(w.session.history().undo_name() == "Change moved mass");
  w.session.undo();
  CHECK(w.session.axis()["load"].text("moved_mass") == "7 kg");
  CHECK(w.session.axis()["mechanism"].text("lead") == "12 mm");
  w.session.undo();
  CHECK(w.session.axis()["mechanism"].text("lead") == "10 mm");
  w.session.undo();
  CHECK(w.session.axis()["load"].text("moved_mass") == "6 kg");
}

TEST_CASE("typing a value keeps where it came from and its note") {
  Window w;
  w.type("load.moved_mass", "7 kg");
  const Entry& entry = w.session.axis()["load"].entry("moved_mass");
  CHECK(entry.origin == Origin::measured);
  CHECK_FALSE(entry.note.empty());
}

TEST_CASE("a guess is visibly a guess") {
  Window w;
  CHECK(w.field("mechanism.efficiency")->property("guess").toBool());
  CHECK_FALSE(w.field("mechanism.lead")->property("guess").toBool());
}

TEST_CASE("what a new axis proposes is a guess until something is typed there") {
  Window w;
  w.window.findChild<QToolButton*>("add_axis")->click();
  w.settle();
  CHECK(w.field("mechanism.efficiency")->property("guess").toBool());
  CHECK(w.session.axis()["mechanism"].entry("efficiency").origin == Origin::guess);
  const auto checked = [&] {
    for (QLabel* label : w.child<QWidget>("welcome")->findChildren<QLabel*>())
      if (const QString text = label->text(); text.contains("what it proposes are guesses"))
        return text.section("what it proposes", 0, 0).section("</p>", -1).contains("✓");
    return false;
  };
  CHECK_FALSE(checked());
  w.type("mechanism.efficiency", "0.9"); // the same, but now it is the user's word
  CHECK(w.session.axis()["mechanism"].entry("efficiency").origin == Origin::given);
  CHECK(checked());
  CHECK_FALSE(w.field("mechanism.efficiency")->property("guess").toBool());
  w.session.undo();
  w.settle();
  CHECK(w.field("mechanism.efficiency")->property("guess").toBool());
}

TEST_CASE("choices are boxes that say what they mean") {
  Window w;
  w.session.seal();
  emit w.session.input_requested("brake.fitted");
  w.settle();
  auto* fitted = qobject_cast<QComboBox*>(w.window.focusWidget());
  REQUIRE(fitted != nullptr);
  CHECK(fitted->currentText() == "fitted");
  QTest::keyClick(fitted, Qt::Key_Up);
  w.settle();
  CHECK(w.session.axis()["brake"].text("fitted") == "no");
  CHECK(warns(*w.session.evaluation(), "vertical_without_brake"));
}

TEST_CASE("optional fields wait behind more, a search brings them out") {
  Window w;
  auto* viscous = w.child<QLineEdit>("viscous");
  REQUIRE(viscous != nullptr);
  CHECK_FALSE(viscous->isVisible());
  CHECK(w.field("load.viscous")->isVisible());
  w.type("load.viscous", "30 N.s/m");
  CHECK(w.session.evaluation()->demand.integrals.energy[TorquePart::friction] > 0.0);
}

TEST_CASE("folded sections say themselves in one line") {
  Window w;
  QStringList headers;
  for (QPushButton* header : w.window.findChildren<QPushButton*>())
    if (header->property("role") == "section") headers << header->text();
  CHECK(headers.filter("Surroundings and bus").first().contains("48 V"));
  CHECK(headers.filter("Gearhead").first().contains("none"));
  CHECK(headers.filter("Motor").first().contains("VK40-0100-048H"));
  CHECK(headers.filter("Brake").first().contains("fitted"));
}

TEST_CASE("machine and axis names are part of the document") {
  Window w;
  auto* name = w.child<QLineEdit>("machine_name");
  name->setFocus();
  name->selectAll();
  QTest::keyClicks(name, "Planter 2");
  QTest::keyClick(name, Qt::Key_Return);
  w.settle();
  CHECK(w.session.document().name == "Planter 2");
  CHECK(w.window.windowTitle().contains("Planter 2"));
  CHECK(w.session.history().undo_name() == "Rename machine");
}

TEST_CASE("the ladder tells screen readers state, share and name") {
  Window w;
  auto* ladder = w.child<QListWidget>("ladder");
  REQUIRE(ladder->count() >= 15);
  double before = 1e9;
  int headings = 0;
  for (int i = 0; i < ladder->count(); ++i) {
    const QString told = ladder->item(i)->data(Qt::AccessibleTextRole).toString();
    INFO(told.toStdString());
    ladder->scrollToItem(ladder->item(i));
    const QRect row = ladder->visualItemRect(ladder->item(i));
    QHelpEvent help(QEvent::ToolTip, row.center(), ladder->viewport()->mapToGlobal(row.center()));
    QApplication::sendEvent(ladder->viewport(), &help);
    CHECK_FALSE(QToolTip::text().isEmpty());
    if (ladder->item(i)->data(heading_role).toBool()) {
      ++headings;
      continue;
    }
    CHECK(told.count(", ") >= 2);
    const double used = ladder->item(i)->data(used_role).toDouble();
    CHECK(used <= before);
    before = used;
  }
  CHECK(headings == 1);
  QToolTip::hideText();
}

TEST_CASE("what is clear stands in one line that says how many, and folds") {
  Window w;
  auto* ladder = w.child<QListWidget>("ladder");
  QListWidgetItem* heading = nullptr;
  int clear = 0;
  for (int i = 0; i < ladder->count(); ++i) {
    if (ladder->item(i)->data(heading_role).toBool()) heading = ladder->item(i);
    if (ladder->item(i)->data(Qt::AccessibleTextRole).toString().startsWith("clear, ")) ++clear;
  }
  REQUIRE(heading != nullptr);
  CHECK(heading->data(label_role).toString() == QString("▾ %1 clear").arg(clear));
  const auto shown = [&] {
    int count = 0;
    for (int i = 0; i < ladder->count(); ++i) count += ladder->isRowHidden(i) ? 0 : 1;
    return count;
  };
  const int all = shown();
  QTest::mouseClick(ladder->viewport(), Qt::LeftButton, {}, ladder->visualItemRect(heading).center());
  w.settle();
  CHECK(shown() == all - clear);
  CHECK(heading->data(label_role).toString() == QString("▸ %1 clear").arg(clear));
  w.type("load.moved_mass", "6.2 kg"); // it stays folded while one works
  CHECK(shown() <= all - clear + 2);
  ladder->setFocus();
  ladder->setCurrentItem(heading);
  QTest::keyClick(ladder, Qt::Key_Return);
  w.settle();
  CHECK(shown() == ladder->count());
  // what is tight or over is higher than what is clear
  CHECK(ladder->visualItemRect(ladder->item(0)).height() >
        ladder->visualItemRect(ladder->item(ladder->count() - 1)).height());
}

TEST_CASE("a friction field offers what guides usually have, as a guess with its spread") {
  Window w;
  QLineEdit* line = w.field("load.friction");
  auto* offer = line->findChild<QAction*>("usual_friction");
  REQUIRE(offer != nullptr);
  bool chosen = false;
  QTimer::singleShot(0, &w.window, [&] {
    auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
    REQUIRE(menu != nullptr);
    for (QAction* action : menu->actions())
      if (action->text().startsWith("Plain bush")) {
        menu->setActiveAction(action);
        QTest::keyClick(menu, Qt::Key_Return);
        chosen = true;
        return;
      }
  });
  offer->trigger();
  w.settle();
  CHECK(chosen);
  const Entry& entry = w.session.axis()["load"].entry("friction");
  CHECK(entry.value == Approx(0.15));
  CHECK(entry.tolerance.half_width == Approx(0.075));
  CHECK(entry.origin == Origin::guess);
  CHECK(entry.note == "Plain bush, common practice");
  CHECK(line->text() == "0.15 ±50%");
  CHECK(w.session.history().undo_name() == "Usual value of friction coefficient");
  // every value offered can be used
  for (const MechanismSpec* spec : mechanism_specs())
    for (const FieldSpec& field : spec->load().fields)
      for (const Choice& usual : field.usual) CHECK_FALSE(make_entry(field, usual.id).faulty());
  CHECK(w.child<QLabel>("origin_legend")->isVisible());
  CHECK(w.child<QLabel>("origin_legend")->text().contains("≡ data sheet"));
}

TEST_CASE("numbers stand in groups, the first of each always, the rest when it is asked for") {
  Window w;
  auto* numbers = w.child<Numbers>("numbers");
  const auto seen = [&](const QString& label) {
    return !numbers->findItems(label, Qt::MatchExactly).isEmpty();
  };
  CHECK(seen("Demand"));
  CHECK(seen("Electrical"));
  CHECK(seen("Peak torque"));
  CHECK_FALSE(seen("Energy driven"));
  const int before = numbers->height();
  const auto more = numbers->findItems("more ▾", Qt::MatchExactly);
  REQUIRE(more.size() == 1);
  QTest::mouseClick(numbers->viewport(), Qt::LeftButton, {}, numbers->visualItemRect(more.front()).center());
  w.settle();
  CHECK(seen("Energy driven"));
  CHECK(seen("fewer ▴"));
  CHECK(numbers->height() > before);
  std::size_t shown = 0;
  for (int i = 0; i < numbers->count(); ++i)
    shown +=
        numbers->item(i)->text().isEmpty() || !(numbers->item(i)->flags() & Qt::ItemIsSelectable) ? 0 : 1;
  CHECK(shown == w.session.evaluation()->results.size() + 1); // every result, and the word that folds
  // a result that is folded away is found all the same
  QTest::mouseClick(
      numbers->viewport(), Qt::LeftButton, {},
      numbers->visualItemRect(numbers->findItems("fewer ▴", Qt::MatchExactly).front()).center());
  w.settle();
  CHECK_FALSE(seen("Energy driven"));
  CHECK(numbers->select("energy.driven"));
  CHECK(numbers->currentItem()->text() == "Energy driven");
}

TEST_CASE("a limit that cannot be judged leads to the value it misses") {
  Window w;
  w.type("surroundings.supply_peak", "");
  auto* ladder = w.child<QListWidget>("ladder");
  for (int i = 0; i < ladder->count(); ++i)
    if (ladder->item(i)->data(Qt::AccessibleTextRole).toString().endsWith("Supply current, peak")) {
      CHECK(w.rung("Supply current, peak").startsWith("not judged"));
      w.field("load.moved_mass");
      ladder->scrollToItem(ladder->item(i));
      QTest::mouseClick(ladder->viewport(), Qt::LeftButton, {},
                        ladder->visualItemRect(ladder->item(i)).center());
    }
  w.settle();
  CHECK(w.window.focusWidget()->objectName() == "supply_peak");
}

TEST_CASE("a new machine starts empty and is not dirty") {
  Window w;
  w.session.new_document();
  w.settle();
  CHECK_FALSE(w.session.has_axis());
  CHECK_FALSE(w.session.dirty());
  CHECK(w.child<QWidget>("welcome")->isVisible());
  CHECK(w.child<QListWidget>("ladder")->count() == 0);
}

TEST_CASE("both looks keep ink and ground far enough apart to read") {
  // contrast of WCAG 2.1: (L1 + 0.05)/(L2 + 0.05) of relative luminance, 4.5 for text
  const auto luminance = [](const QColor& c) {
    const auto linear = [](double v) {
      return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
    };
    return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
  };
  const auto contrast = [&](const QColor& a, const QColor& b) {
    const double high = std::max(luminance(a), luminance(b));
    const double low = std::min(luminance(a), luminance(b));
    return (high + 0.05) / (low + 0.05);
  };
  for (const bool dark : {false, true}) {
    apply_theme(dark);
    const Theme& t = theme();
    for (const QColor& ground : {t.ground, t.panel}) {
      CHECK(contrast(t.ink, ground) >= 7.0);
      CHECK(contrast(t.soft, ground) >= 4.5);
      CHECK(contrast(t.accent, ground) >= 4.5);
      CHECK(contrast(t.alarm, ground) >= 4.5);
    }
  }
  apply_theme(false);
}

TEST_CASE("units as the trade writes them stay as typed, and a bare number takes them on") {
  Window w;
  w.type("mechanism.lead", "5 tpi");
  w.settle();
  CHECK_FALSE(w.session.stale());
  CHECK(w.field("mechanism.lead")->text() == "5 tpi");
  CHECK(w.session.axis()["mechanism"].term("lead") == Approx(5.08e-3));
  w.type("mechanism.lead", "4");
  CHECK(w.session.axis()["mechanism"].text("lead") == "4 tpi");
  CHECK(w.session.axis()["mechanism"].term("lead") == Approx(6.35e-3));
  w.type("mechanism.drag", "3 oz-in");
  CHECK_FALSE(w.session.stale());
  CHECK(w.session.axis()["mechanism"].term("drag") == Approx(3 * 7.061552e-3).epsilon(1e-6));
}

TEST_CASE("the mark of usual values gives way to a text that needs its room") {
  Window w;
  w.window.resize(1024, 700);
  w.settle();
  auto* line = w.field("load.friction");
  auto* offer = line->findChild<QAction*>("usual_friction");
  REQUIRE(offer != nullptr);
  CHECK_FALSE(offer->isVisible()); // "0.01 ±50%"
  w.type("load.friction", "0.01");
  CHECK(offer->isVisible());
  w.type("load.friction", "0.01 ±50%");
  CHECK_FALSE(offer->isVisible());
  w.window.resize(1400, 800);
  w.settle();
  CHECK(offer->isVisible());
}

TEST_CASE("a stepper's speed may be typed in steps or pulses a second") {
  Window w;
  w.session.select_axis(5); // the spreader: 200 steps a turn
  w.settle();
  w.type("drive.start_speed", "120 steps/s");
  CHECK(w.field("drive.start_speed")->text() == "120/200 rev/s");
  CHECK(w.session.axis()["drive"].term("start_speed") == Approx(0.6 * 2.0 * std::numbers::pi));
  CHECK_FALSE(w.session.stale());
  const double microsteps = std::stod(w.session.axis()["drive"].text("microsteps"));
  w.type("drive.start_speed", "800 pps");
  CHECK(w.session.axis()["drive"].term("start_speed") ==
        Approx(800.0 / (200.0 * microsteps) * 2.0 * std::numbers::pi));
  w.session.select_axis(0); // a servo knows no steps
  w.settle();
  w.session.type("motor", "max_speed", "800 steps/s");
  const Section& motor = w.session.axis()["motor"];
  REQUIRE(motor.has("max_speed"));
  CHECK(motor.entry("max_speed").faulty());
}
