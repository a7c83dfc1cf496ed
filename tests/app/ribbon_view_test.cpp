// Zooming, panning and selecting in the cycle ribbon.

#include "app/ribbon/ribbon.hpp"
#include "window.hpp"

#include <QWheelEvent>

#include <catch2/catch.hpp>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

void wheel(Window& w, Ribbon* ribbon, QPointF at, int steps, Qt::KeyboardModifiers keys) {
  QWheelEvent event(at, ribbon->mapToGlobal(at), {}, {0, 120 * steps}, Qt::NoButton, keys, Qt::NoScrollPhase,
                    false);
  QCoreApplication::sendEvent(ribbon, &event);
  w.settle();
}

} // namespace

TEST_CASE("Ctrl and wheel zoom about the pointer, the wheel pans, a double click shows all again") {
  Window w;
  Ribbon* ribbon = w.window.ribbon();
  const double whole = ribbon->view_span();
  CHECK(whole == Approx(1.55));
  wheel(w, ribbon, {700, 60}, 3, Qt::ControlModifier);
  CHECK(ribbon->view_span() == Approx(whole * 0.512));
  CHECK(ribbon->view_from() > 0.0);
  const double from = ribbon->view_from();
  wheel(w, ribbon, {700, 60}, 1, Qt::NoModifier);
  CHECK(ribbon->view_from() < from);
  for (const Ribbon::Handle& handle : ribbon->handles()) CHECK(handle.place.x() > 190.0);
  wheel(w, ribbon, {700, 60}, 200, Qt::ControlModifier);
  CHECK(ribbon->view_span() > 0.0);
  QTest::mouseDClick(ribbon, Qt::LeftButton, {}, QPoint(700, 60));
  w.settle();
  CHECK(ribbon->view_span() == Approx(whole));
}

TEST_CASE("Shift and drag tells the statistics of a span") {
  Window w;
  Ribbon* ribbon = w.window.ribbon();
  QTest::mousePress(ribbon, Qt::LeftButton, Qt::ShiftModifier, QPoint(230, 60));
  QTest::mouseMove(ribbon, QPoint(900, 60));
  QTest::mouseRelease(ribbon, Qt::LeftButton, Qt::ShiftModifier, QPoint(900, 60));
  w.settle();
  REQUIRE(ribbon->selection());
  CHECK(ribbon->selection()->to > ribbon->selection()->from);
  CHECK(ribbon->selection()->rms_torque > 0.0);
  CHECK(ribbon->selection()->peak_speed == Approx(0.643).epsilon(0.01));
  QTest::mouseClick(ribbon, Qt::LeftButton, {}, QPoint(600, 60));
  CHECK_FALSE(ribbon->selection());
}

TEST_CASE("a double click on a segment goes to its exact value") {
  Window w;
  QTest::mouseDClick(w.window.ribbon(), Qt::LeftButton, {}, QPoint(300, w.window.ribbon()->height() - 14));
  w.settle();
  REQUIRE(w.window.focusWidget() != nullptr);
  CHECK(w.window.focusWidget()->objectName() == "distance");
}

TEST_CASE("dragging a move that was given by speed and acceleration makes its time the given") {
  Window w;
  w.session.select_axis(2);
  w.settle();
  Ribbon* ribbon = w.window.ribbon();
  const auto handles = ribbon->handles();
  const auto end = std::find_if(handles.begin(), handles.end(), [](const Ribbon::Handle& h) {
    return h.grip == Ribbon::Grip::duration && h.segment == 0;
  });
  REQUIRE(end != handles.end());
  const QPoint from = end->place.toPoint();
  QTest::mousePress(ribbon, Qt::LeftButton, {}, from);
  QTest::mouseMove(ribbon, from + QPoint(40, 0));
  QTest::mouseRelease(ribbon, Qt::LeftButton, {}, from + QPoint(40, 0));
  w.settle();
  const Section& move = w.session.axis().cycle[0];
  CHECK_FALSE(move.blank("time"));
  CHECK(move.blank("peak_speed"));
  CHECK_FALSE(w.session.stale());
  w.session.undo();
  CHECK(w.session.axis().cycle[0].text("peak_speed") == "1.5 m/s");
}
