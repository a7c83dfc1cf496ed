// Names of axes through the window: each its own, and who speaks of it follows.

#include "app/machine_window.hpp"
#include "app/sheet/welcome.hpp"
#include "core/project/names.hpp"

#include <QAction>
#include <QInputDialog>
#include <QTableWidget>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

/// Types names one after the other, each into the next question; gives what was asked.
QStringList answering(QStringList names, const std::function<void()>& open) {
  QStringList questions;
  QTimer timer;
  QObject::connect(&timer, &QTimer::timeout, [&] {
    auto* dialog = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
    if (dialog == nullptr) return;
    questions.push_back(dialog->labelText());
    if (names.isEmpty()) return dialog->reject();
    dialog->setTextValue(names.takeFirst());
    dialog->accept();
  });
  timer.start(0);
  open();
  return questions;
}

} // namespace

TEST_CASE("the machine's overview tells no worst limit as all there is where something is not judged") {
  MachineWindow w;
  w.run();
  w.page(1);
  const auto cell = [&] { return w.child<QTableWidget>("overview_table")->item(0, 7); };
  const QString share = cell()->text(), tip = cell()->toolTip();
  REQUIRE(share.endsWith("%"));
  CHECK_FALSE(share.contains("≥"));
  w.session.type("surroundings", "shared_bus", "49V");
  w.run();
  CHECK(cell()->text() == "≥ " + share);
  CHECK(cell()->toolTip() == tip + "\nsupply not judged: no bus is called “49V”");
  w.session.undo();
  w.run();
  CHECK(cell()->text() == share);
}

TEST_CASE("a name that another axis has is asked for again; the machine's blocks follow the new one") {
  MachineWindow w;
  const auto placed = w.run().power.schedule.blocks;
  w.page(1);
  w.child<QTableWidget>("overview_table")->selectRow(2);
  const QStringList asked = answering({"Picker", "  ", "Bridge"}, [&] {
    QTest::mouseClick(w.child<QToolButton>("overview_rename"), Qt::LeftButton);
  });
  CHECK(asked == QStringList{"Name of the axis", "Another axis is called “Picker”. Choose another name",
                             "An axis needs a name"});
  CHECK(w.session.document().axes[2].name == "Bridge");
  CHECK(w.run().power.problem.what.empty());
  CHECK(w.run().power.schedule.blocks == placed);
  // by its chip, and given up
  QAction* rename = w.child<QToolButton>("axis_0")->actions().front();
  CHECK(answering({"Bridge"}, [&] { rename->trigger(); }).size() == 2);
  CHECK(w.session.document().axes[0].name == "Picker");
  // a block's own name, typed
  const auto place = QString::number(w.block("Bridge"));
  w.session.type("blocks[" + place.toStdString() + "]", "name", "Over the bed");
  CHECK(w.run().power.problem.what.empty());
  CHECK(w.run().power.schedule.blocks == placed);
  w.session.undo();
  w.session.undo();
  CHECK(w.session.document() == demo());
}

TEST_CASE("an example is judged with its own supply where its bus is not in the machine") {
  Window w(false);
  emit w.window.sheet()->welcome()->example_requested("belt");
  w.settle();
  REQUIRE(w.session.axis().name == "Gantry");
  CHECK(w.session.axis()["surroundings"].blank("shared_bus"));
  CHECK_FALSE(w.rung("Supply current, peak").isEmpty());
  CHECK(name_faults(w.session.document()).empty());
  // in a machine that has its bus it hangs on that
  w.window.open_demo();
  emit w.window.sheet()->welcome()->example_requested("belt");
  w.settle();
  CHECK(w.session.document().axes.back().name == "Gantry 2");
  CHECK(w.session.document().axes.back()["surroundings"].text("shared_bus") == "Mains");
}

TEST_CASE("a new axis and an example get a name of their own") {
  Window w(false);
  QTest::mouseClick(w.child<QToolButton>("add_axis"), Qt::LeftButton);
  QTest::mouseClick(w.child<QToolButton>("add_axis"), Qt::LeftButton);
  w.session.edit("Remove axis", "", [](Document& d) { d.axes.erase(d.axes.begin()); });
  QTest::mouseClick(w.child<QToolButton>("add_axis"), Qt::LeftButton);
  const Document& d = w.session.document();
  REQUIRE(d.axes.size() == 2);
  CHECK(d.axes[0].name != d.axes[1].name);
}

TEST_CASE("a move put in before the one that a block waits for: the block goes on waiting for that one") {
  MachineWindow w;
  const auto starts = [&] { return w.run().power.schedule.blocks[w.block("Picker")].start; };
  const double gantry = w.run().power.schedule.blocks[w.block("Gantry")].start;
  const double before = starts();
  w.session.edit("Add segment", "", [](Document& d) {
    std::vector<Section>& cycle = d.axes[2].cycle;
    cycle.insert(cycle.begin(), cycle[1]); // a dwell of 0.9 s
  });
  CHECK(w.run().power.schedule.blocks[w.block("Gantry")].start == Approx(gantry));
  CHECK(starts() == Approx(before + 0.9));
  w.session.undo();
  CHECK(starts() == Approx(before));
}
