// Dragging in the cycle ribbon.

#include "window.hpp"

#include <QMouseEvent>

using namespace fulmox;
using namespace fulmox::testing;
using namespace fulmox::app;

namespace {

Ribbon::Handle handle(Ribbon& ribbon, Ribbon::Grip grip, std::size_t segment) {
  for (const Ribbon::Handle& h : ribbon.handles())
    if (h.grip == grip && h.segment == segment) return h;
  FAIL("no such handle");
  return {};
}

void drag(Ribbon& ribbon, QPointF from, QPointF by) {
  const auto send = [&](QEvent::Type type, QPointF at, Qt::MouseButton button, Qt::MouseButtons buttons) {
    QMouseEvent event(type, at, ribbon.mapToGlobal(at), button, buttons, Qt::NoModifier);
    QApplication::sendEvent(&ribbon, &event);
  };
  send(QEvent::MouseButtonPress, from, Qt::LeftButton, Qt::LeftButton);
  for (int i = 1; i <= 4; ++i) send(QEvent::MouseMove, from + by * (i / 4.0), Qt::NoButton, Qt::LeftButton);
  send(QEvent::MouseButtonRelease, from + by, Qt::LeftButton, Qt::NoButton);
}

double input(Window& w, std::size_t segment, const char* field) {
  return w.session.axis().cycle[segment].term(field);
}

} // namespace

TEST_CASE("scrubbing moves the cursor, the sketch and the operating point") {
  Window w;
  Ribbon& ribbon = *w.window.ribbon();
  const QImage sketch = w.child<QWidget>("sketch")->grab().toImage();
  const QImage plane = w.child<QWidget>("torque_plane")->grab().toImage();
  drag(ribbon, {400, 100}, {180, 0});
  w.settle();
  CHECK(w.session.cursor() > 0.4);
  CHECK(w.child<QWidget>("sketch")->grab().toImage() != sketch);
  CHECK(w.child<QWidget>("torque_plane")->grab().toImage() != plane);
  CHECK_FALSE(w.session.history().can_undo()); // looking is no change
  const double before = w.session.cursor();
  QTest::keyClick(&ribbon, Qt::Key_Right);
  CHECK(w.session.cursor() > before);
  QTest::keyClick(&ribbon, Qt::Key_Home);
  CHECK(w.session.cursor() == 0.0);
}

TEST_CASE("dragging the end of a segment changes its time, as one undo step") {
  Window w;
  Ribbon& ribbon = *w.window.ribbon();
  const double before = input(w, 0, "time");
  drag(ribbon, handle(ribbon, Ribbon::Grip::duration, 0).place, {69, 0});
  w.settle();
  // 69 px of some 1070 px for 1.55 s are 0.1 s
  CHECK(input(w, 0, "time") == Approx(before + 0.1).margin(0.01));
  CHECK(w.session.axis().cycle[0].text("time") == "0.45 s");
  CHECK(w.field("cycle[0].time")->text() == "0.45 s");
  w.session.undo();
  CHECK(input(w, 0, "time") == Approx(before));
  CHECK_FALSE(w.session.history().can_undo());
}

TEST_CASE("dragging the corners of the speed trace changes the ramp shares, never beyond what fits") {
  Window w;
  Ribbon& ribbon = *w.window.ribbon();
  drag(ribbon, handle(ribbon, Ribbon::Grip::ramp_up, 2).place, {-30, 0});
  CHECK(input(w, 2, "acceleration_share") < 0.33);
  CHECK(input(w, 2, "deceleration_share") == Approx(1.0 / 3.0));
  drag(ribbon, handle(ribbon, Ribbon::Grip::ramp_down, 2).place, {-900, 0});
  w.settle();
  CHECK_FALSE(w.session.stale());
  CHECK(input(w, 2, "acceleration_share") + input(w, 2, "deceleration_share") <= 1.0 + 1e-12);
}

TEST_CASE("dragging the plateau changes the distance") {
  Window w;
  Ribbon& ribbon = *w.window.ribbon();
  drag(ribbon, handle(ribbon, Ribbon::Grip::distance, 2).place, {0, -20});
  CHECK(input(w, 2, "distance") == Approx(0.18));
  CHECK(w.session.history().undo_name() == "Drag distance");
  drag(ribbon, handle(ribbon, Ribbon::Grip::distance, 0).place, {0, 20});
  CHECK(input(w, 0, "distance") == Approx(-0.18));
}

TEST_CASE("traces are chosen by a click on their name") {
  Window w;
  Ribbon& ribbon = *w.window.ribbon();
  CHECK(ribbon.shown(Ribbon::TraceKind::speed));
  CHECK_FALSE(ribbon.shown(Ribbon::TraceKind::power));
  QTest::mouseClick(&ribbon, Qt::LeftButton, {}, QPoint(60, 10 + 24 * 4 + 10));
  CHECK(ribbon.shown(Ribbon::TraceKind::power));
}
