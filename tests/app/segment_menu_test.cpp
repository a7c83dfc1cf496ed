// What can be done to a segment, from its line in the givens and from the ribbon.

#include "window.hpp"

#include <QContextMenuEvent>
#include <QLabel>
#include <QMenu>
#include <QRegularExpression>
#include <QSlider>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

QMenu* menu_of(Window& w, int segment) {
  w.field("cycle[0].distance"); // unfolds the cycle
  auto* button = w.child<QToolButton>("more_segment_" + QString::number(segment));
  REQUIRE(button != nullptr);
  emit button->menu()->aboutToShow();
  return button->menu();
}

QAction* action_of(QMenu* menu, const char* name) {
  auto* action = menu->findChild<QAction*>(name);
  REQUIRE(action != nullptr);
  return action;
}

void act(Window& w, int segment, const char* name) {
  QAction* action = action_of(menu_of(w, segment), name);
  REQUIRE(action->isEnabled());
  action->trigger();
  w.settle();
}

} // namespace

TEST_CASE("segments are mirrored, split, copied, moved and removed, each a step that can be undone") {
  Window w;
  const auto cycle = [&]() -> const std::vector<Section>& { return w.session.axis().cycle; };
  const std::vector<Section> before = cycle();
  act(w, 0, "mirror_segment");
  CHECK(cycle()[0].text("distance") == "150 mm");
  act(w, 0, "mirror_segment");
  CHECK(cycle()[0].text("distance") == "-150 mm");
  act(w, 0, "split_segment");
  REQUIRE(cycle().size() == 5);
  CHECK(cycle()[0].term("distance") == Approx(-0.075));
  CHECK(cycle()[1].term("time") == Approx(0.175));
  CHECK(w.session.history().undo_name() == "Split into two moves segment");
  w.session.undo();
  act(w, 1, "copy_segment");
  REQUIRE(cycle().size() == 5);
  CHECK(cycle()[2].text("time") == cycle()[1].text("time"));
  act(w, 2, "later_segment");
  CHECK(cycle()[2].spec().id == "move");
  act(w, 3, "earlier_segment");
  CHECK(cycle()[3].spec().id == "move");
  act(w, 2, "remove_segment");
  CHECK(cycle().size() == 4);
  CHECK(cycle() == before);
  for (int i = 0; i < 4; ++i) w.session.undo();
  CHECK(cycle() == before);
  CHECK(w.session.history().redo_name() == "Copy segment");
}

TEST_CASE("a segment is cut where the cursor stands and the axis stays the same") {
  Window w;
  const double rms = w.session.evaluation()->demand.rms_torque;
  const double peak = w.session.evaluation()->demand.peak_torque;
  w.session.set_cursor(0.2); // within the first move of 0.35 s
  act(w, 0, "cut_segment");
  REQUIRE(w.session.axis().cycle.size() == 5);
  CHECK_FALSE(w.session.stale());
  CHECK(w.session.axis().cycle[0].text("time") == "0.2 s");
  CHECK(w.session.axis().cycle[1].text("time") == "0.15 s");
  CHECK(w.session.evaluation()->demand.rms_torque == Approx(rms).epsilon(1e-8));
  CHECK(w.session.evaluation()->demand.peak_torque == Approx(peak).epsilon(1e-8));
  // the parts of a dwell can be held differently
  act(w, 2, "cut_segment");
  REQUIRE(w.session.axis().cycle.size() == 6);
  CHECK(w.session.axis().cycle[2].term("time") + w.session.axis().cycle[3].term("time") == Approx(0.25));
  CHECK(w.session.evaluation()->demand.rms_torque == Approx(rms).epsilon(1e-8));
}

TEST_CASE("what cannot be done to a segment is greyed and says why") {
  Window w;
  w.session.edit("law", "", [](Document& d) { d.axes[0].cycle[0].type("law", "cycloidal"); });
  QMenu* menu = menu_of(w, 0);
  CHECK_FALSE(action_of(menu, "earlier_segment")->isEnabled());
  bool found = false;
  for (const QAction* action : menu->actions())
    if (action->text().startsWith("Cut")) {
      found = true;
      CHECK_FALSE(action->isEnabled());
      CHECK(action->toolTip().contains("trapezoid"));
    }
  CHECK(found);
  CHECK_FALSE(action_of(menu_of(w, 1), "mirror_segment")->isEnabled());
  CHECK_FALSE(action_of(menu_of(w, 3), "later_segment")->isEnabled());
  w.type("cycle[0].distance", "5 kg");
  for (const QAction* action : menu_of(w, 2)->actions())
    if (action->text().startsWith("Cut")) CHECK_FALSE(action->isEnabled());
}

TEST_CASE("marks of a group can be copied and moved, but neither cut nor mirrored") {
  Window w;
  w.session.select_axis(1); // three repeated steps
  w.settle();
  REQUIRE(w.session.axis().cycle[0].spec().id == "repeat");
  w.session.input_requested("cycle[0].count");
  w.settle();
  auto* button = w.child<QToolButton>("more_segment_0");
  REQUIRE(button != nullptr);
  emit button->menu()->aboutToShow();
  QMenu* menu = button->menu();
  CHECK_FALSE(action_of(menu, "mirror_segment")->isEnabled());
  CHECK_FALSE(action_of(menu, "split_segment")->isEnabled());
  CHECK(action_of(menu, "later_segment")->isEnabled());
  for (const QAction* action : menu->actions()) {
    if (action->text().startsWith("Cut")) CHECK_FALSE(action->isEnabled());
    CHECK_FALSE(action->text().contains("CSV"));
  }
  action_of(menu, "later_segment")->trigger();
  w.settle();
  CHECK(w.session.axis().cycle[1].spec().id == "repeat");
  w.session.undo();
  CHECK(w.session.axis().cycle[0].spec().id == "repeat");
}

TEST_CASE("the ribbon offers the same by the right mouse button and by the keyboard") {
  Window w;
  Ribbon* ribbon = w.window.ribbon();
  const auto through_menu = [&](QContextMenuEvent::Reason reason, QPoint place, const char* name) {
    bool opened = false;
    QTimer::singleShot(0, &w.window, [&] {
      auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
      if (menu == nullptr) return;
      opened = true;
      if (auto* action = menu->findChild<QAction*>(name)) action->trigger();
      menu->close();
    });
    QContextMenuEvent event(reason, place, ribbon->mapToGlobal(place));
    QApplication::sendEvent(ribbon, &event);
    w.settle();
    return opened;
  };
  QPoint strip;
  for (const Ribbon::Handle& handle : ribbon->handles())
    if (handle.grip == Ribbon::Grip::duration && handle.segment == 2)
      strip = handle.place.toPoint() - QPoint(30, 0); // inside the third segment
  CHECK(through_menu(QContextMenuEvent::Mouse, strip, "mirror_segment"));
  CHECK(w.session.axis().cycle[2].text("distance") == "-150 mm");
  w.session.undo();
  w.session.set_cursor(0.1);
  CHECK(through_menu(QContextMenuEvent::Keyboard, {10, 10}, "copy_segment") == false); // beside the picture
  CHECK(through_menu(QContextMenuEvent::Keyboard, ribbon->rect().center(), "copy_segment"));
  CHECK(w.session.axis().cycle.size() == 5);
  CHECK(w.session.axis().cycle[1].spec().id == "move");
  QTest::mouseDClick(ribbon, Qt::LeftButton, {}, strip);
  w.settle();
  auto* field = qobject_cast<QLineEdit*>(w.window.focusWidget());
  REQUIRE(field != nullptr);
}

TEST_CASE("the What if page lines up what every input does, in percent over its tolerance") {
  Window w;
  w.session.select_axis(0);
  QTest::mouseClick(w.child<QToolButton>("study_what_if"), Qt::LeftButton);
  w.settle();
  const auto text = [&](const QString& name) { return w.child<QLabel>(name)->text(); };
  CHECK(text("tolerance_0").startsWith("± "));
  CHECK(text("effect_0_0").contains(QRegularExpression("^[+−][0-9.]+$")));
  // rows beyond the first screen are there to be scrolled to
  CHECK(w.child<QLabel>("effect_15_2") != nullptr);
  const double now = w.session.evaluation()->demand.peak_torque;
  auto* slider = w.child<QSlider>("swing_0");
  slider->setValue(100);
  w.settle();
  const double tried = w.session.evaluation()->demand.peak_torque;
  const QString percent = QString::asprintf("%+.1f", 100.0 * (tried / now - 1.0)).replace('-', "−");
  CHECK(text("effect_0_0") == percent);
}
