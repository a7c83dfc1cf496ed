// A way out is looked for, read and taken in the window; a clear axis tells its room.

#include "app/study/ways_page.hpp"
#include "app/window.hpp"
#include "core/evaluation/machine.hpp"

#include <QLabel>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

void open_ways(Window& w) {
  QTest::mouseClick(w.child<QToolButton>("study_ways"), Qt::LeftButton);
  w.child<WaysPage>("ways_page")->work_out_now();
  w.settle();
}

QStringList lines(Window& w, const char* name) {
  QStringList all;
  for (const QLabel* label : w.child<QWidget>("ways_page")->findChildren<QLabel*>(name)) all << label->text();
  return all;
}

} // namespace

TEST_CASE("a way out of a red limit is taken with a click, and undone in one step") {
  Window w;
  w.session.select_axis(2);
  w.settle();
  REQUIRE(w.rung("Inertia ratio").startsWith("over"));
  open_ways(w);
  CHECK(w.child<QComboBox>("ways_limit")->currentText().startsWith("Inertia ratio, 105"));
  const QStringList ways = lines(w, "ways_change");
  REQUIRE(ways.size() > 2);
  int mass = -1;
  for (int i = 0; i < ways.size(); ++i)
    if (ways[i].startsWith("Load, moved mass")) mass = i;
  REQUIRE(mass >= 0);
  CHECK(ways[mass].contains("18 kg → 17"));
  CHECK(lines(w, "ways_line").join("\n").contains("Worse: "));
  const std::string before = w.session.axis()["load"].text("moved_mass");
  QTest::mouseClick(w.child<QToolButton>(QString("ways_take_%1").arg(mass)), Qt::LeftButton);
  w.settle();
  CHECK(w.rung("Inertia ratio").startsWith("tight"));
  CHECK(w.session.axis()["load"].text("moved_mass") != before);
  CHECK(worst_used(*w.session.evaluation()) <= 1.0);
  w.session.undo();
  w.settle();
  CHECK(w.session.axis()["load"].text("moved_mass") == before);
  CHECK(w.rung("Inertia ratio").startsWith("over"));
}

TEST_CASE("an axis that holds tells how far each input may go, and a tight limit can be looked at") {
  Window w;
  w.session.type("surroundings", "shared_bus", ""); // its own supply is judged with it
  w.settle();
  open_ways(w);
  auto* limits = w.child<QComboBox>("ways_limit");
  CHECK(limits->currentText() == "Room until the first limit");
  const QStringList rooms = lines(w, "ways_room");
  CHECK(rooms.size() > 5);
  CHECK(rooms.join("\n").contains("Load, moved mass  6 kg → 10"));
  CHECK(lines(w, "ways_line").join("\n").contains("then "));
  REQUIRE(limits->count() == 2);                     // what is tight stands there too
  emit w.session.limit_chosen("supply.overvoltage"); // as a click on its rung does
  open_ways(w);
  CHECK(limits->currentText().startsWith("Bus rise when braking"));
  CHECK(lines(w, "ways_change").size() > 3);
  // an axis that cannot be worked out says so
  w.type("load.moved_mass", "heavy");
  open_ways(w);
  CHECK(w.child<QLabel>("ways_told")->text().contains("worked out"));
}
