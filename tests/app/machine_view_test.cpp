// The machine as a whole through the window: schedule dragged, buses assigned, starts and a supply taken.

#include "app/givens/section_form.hpp"
#include "app/ladder/rung_delegate.hpp"
#include "app/machine/machine_view.hpp"
#include "app/machine/starts_page.hpp"
#include "app/machine/supply_page.hpp"
#include "app/machine_window.hpp"
#include "app/sheet/axis_view.hpp"
#include "app/working/working_panel.hpp"

#include <QLabel>
#include <QPushButton>
#include <QTableWidget>

#include <cmath>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

TEST_CASE("the machine view tells cycle, rate, power and voltage, and its ladder the worst limits") {
  MachineWindow w;
  const MachineRun& run = w.run();
  CHECK(w.told().contains("Cycle 9.69 s"));
  CHECK(w.told().contains("parts an hour"));
  CHECK(w.told().contains("Bus 48 V: mean"));
  CHECK(w.child<QLabel>("machine_numbers")->text().contains("kWh a year"));
  CHECK(w.child<Fold>("machine_pace")->findChild<QPushButton*>()->text().endsWith("18 parts"));
  auto* ladder = w.child<QListWidget>("machine_ladder");
  REQUIRE(ladder->count() > 20);
  // the rate, every bus with its heading, of the bus in view every limit, of the others what is not clear
  std::ptrdiff_t rungs = 1;
  for (std::size_t b = 0; b < run.buses.size(); ++b) {
    const auto& limits = run.buses[b].limits;
    const auto clear = std::count_if(limits.begin(), limits.end(),
                                     [](const Limit& l) { return l.state == LimitState::clear; });
    rungs += 1 + std::ssize(limits) - (b == 0 ? 0 : clear - 1);
  }
  CHECK(ladder->count() == rungs);
  // what is over comes first, whatever bus is in view, and how many are clear is told in one line
  CHECK(ladder->item(1)->data(label_role).toString() == "Bus 24 V");
  CHECK(ladder->item(2)->data(label_role).toString() == "Hold-up");
  CHECK(ladder->item(3)->data(label_role).toString().endsWith(" clear"));
  CHECK(ladder->item(4)->data(label_role).toString() == "Bus 48 V");
  // a rung with a moment moves the cursor there and opens its bus
  for (int i = 0; i < ladder->count(); ++i) {
    QListWidgetItem* item = ladder->item(i);
    if (item->data(label_role).toString() != "Hold-up" || item->data(state_role).toInt() != 2) continue;
    ladder->scrollToItem(item);
    QTest::mouseClick(ladder->viewport(), Qt::LeftButton, {}, ladder->visualItemRect(item).center());
    break;
  }
  w.settle();
  CHECK(w.child<QComboBox>("machine_bus")->currentText() == "24 V");
  CHECK(w.told().contains("Bus 24 V"));
  CHECK(w.timeline()->cursor() == Approx(run.buses[2].stop->slowing_at));
  CHECK(w.child<QLabel>("machine_cursor")->text().contains("V"));
}

TEST_CASE("of a bus that collapses no energy of a year is told") {
  MachineWindow w;
  REQUIRE(w.child<QLabel>("machine_numbers")->text().contains("kWh a year"));
  w.session.type("buses[0]", "limit", "1 A");
  w.settle();
  w.settle();
  CHECK(w.told().contains("collapses at"));
  CHECK_FALSE(w.child<QLabel>("machine_numbers")->text().contains("kWh"));
}

TEST_CASE("a block is dragged: the peak of its bus moves, in one undo step") {
  MachineWindow w;
  const std::size_t tray = w.block("Tray");
  const double before = w.run().power.buses[0].peak.watts;
  const std::string typed = w.session.document().lists.find("blocks")->second[1].text("offset");
  const QRectF bar = w.timeline()->bar_of(tray);
  const QPoint from = QPoint(static_cast<int>(bar.left()) + 20, static_cast<int>(bar.center().y()));
  QTest::mousePress(w.timeline(), Qt::LeftButton, {}, from);
  for (int k = 1; k <= 6; ++k) {
    QMouseEvent move(QEvent::MouseMove, QPointF(from.x() + 30.0 * k, from.y()),
                     w.timeline()->mapToGlobal(QPointF(from.x() + 30.0 * k, from.y())), Qt::LeftButton,
                     Qt::LeftButton, {});
    QApplication::sendEvent(w.timeline(), &move);
    w.settle();
  }
  QTest::mouseRelease(w.timeline(), Qt::LeftButton, {}, from + QPoint(180, 0));
  const MachineRun& run = w.run();
  CHECK(run.power.schedule.blocks[w.block("Tray")].start > 4.0);
  CHECK(run.power.buses[0].peak.watts != Approx(before).epsilon(1e-3));
  CHECK(w.told().contains(QString::fromStdString("Bus 48 V")));
  w.session.undo();
  CHECK(w.session.document().lists.find("blocks")->second[1].text("offset") == typed);
  CHECK(w.run().power.buses[0].peak.watts == Approx(before));
}

TEST_CASE("a block is chosen and moved with the keyboard") {
  MachineWindow w;
  w.timeline()->setFocus();
  QTest::keyClick(w.timeline(), Qt::Key_Down); // the first: the cart
  QTest::keyClick(w.timeline(), Qt::Key_Down);
  QTest::keyClick(w.timeline(), Qt::Key_Right, Qt::ShiftModifier);
  w.settle();
  CHECK(w.session.document().lists.find("blocks")->second[1].text("offset") == "1.95 s");
  QTest::keyClick(w.timeline(), Qt::Key_Escape);
  const double cursor = w.timeline()->cursor();
  QTest::keyClick(w.timeline(), Qt::Key_Right);
  CHECK(w.timeline()->cursor() == Approx(cursor + 0.01));
}

TEST_CASE("an axis is put on another bus in the overview, and a row leads to its axis") {
  MachineWindow w;
  w.page(1);
  auto* table = w.child<QTableWidget>("overview_table");
  REQUIRE(table->rowCount() == 7);
  CHECK(table->item(0, 0)->text() == "Picker");
  CHECK(table->item(2, 7)->text().contains("%"));
  CHECK(table->item(0, 8)->text().contains("%")); // on its real bus
  const double before = w.run().power.buses[0].mean;
  auto* bus = w.child<QComboBox>("shared_bus_0");
  REQUIRE(bus->count() == 4);
  bus->setFocus();
  QTest::keyClick(bus, Qt::Key_Up); // from "48 V" to none
  w.settle();
  CHECK(w.session.document().axes[0]["surroundings"].text("shared_bus").empty());
  CHECK(w.run().power.buses[0].mean < before);
  CHECK(w.child<QLabel>("machine_remarks")->text().contains("Picker: it is on no bus"));
  w.session.undo();
  w.settle();
  // copied, moved, deleted
  table->selectRow(6);
  QTest::mouseClick(w.child<QToolButton>("overview_copy"), Qt::LeftButton);
  w.settle();
  CHECK(w.session.document().axes.size() == 8);
  CHECK(w.session.document().axes[7].name == "Brush 2");
  table->selectRow(7);
  QTest::mouseClick(w.child<QToolButton>("overview_up"), Qt::LeftButton);
  w.settle();
  CHECK(w.session.document().axes[6].name == "Brush 2");
  table->selectRow(6);
  QTest::mouseClick(w.child<QToolButton>("overview_delete"), Qt::LeftButton);
  w.settle();
  CHECK(w.session.document().axes.size() == 7);
  table->selectRow(3);
  QTest::mouseClick(w.child<QToolButton>("overview_open"), Qt::LeftButton);
  w.settle();
  CHECK(w.window.sheet()->shown().id == "axis");
  CHECK(w.session.axis().name == "Table");
}

TEST_CASE("what the bus gives is typed into the axes on request") {
  MachineWindow w;
  const double low = w.run().fed[0].low;
  w.page(1);
  QTest::mouseClick(w.child<QToolButton>("overview_volts"), Qt::LeftButton);
  w.settle();
  const Section& room = w.session.document().axes[0]["surroundings"];
  CHECK(room.term("bus_low") == Approx(low).epsilon(1e-5));
  CHECK(room.entry("bus_low").origin == Origin::measured);
  w.session.undo();
  CHECK(w.session.document().axes[0]["surroundings"].text("bus_low") == "46 V");
}

TEST_CASE("starts with the least peak are found and taken") {
  MachineWindow w;
  const double before = w.run().power.buses[0].peak.watts;
  w.page(3);
  auto* page = w.child<StartsPage>("starts_page");
  REQUIRE_FALSE(page->front().empty());
  auto* table = w.child<QTableWidget>("starts_front");
  CHECK(table->rowCount() == static_cast<int>(page->front().size()));
  CHECK(w.child<QLabel>("starts_worst")->text().contains("at the same moment"));
  CHECK(w.child<QLabel>("starts_caution")->text().contains("± 20"));
  const double promised = page->front()[0].found.peak;
  QTest::mouseClick(w.child<QPushButton>("starts_put_in"), Qt::LeftButton);
  const MachineRun& run = w.run();
  CHECK(run.power.buses[0].peak.watts <= promised + 1e-6);
  CHECK(run.power.buses[0].peak.watts < 0.95 * before);
  w.session.undo();
  CHECK(w.run().power.buses[0].peak.watts == Approx(before));
}

TEST_CASE("a supply is tried, told with its reasons, and put in") {
  MachineWindow w;
  w.page(2);
  auto* page = w.child<SupplyPage>("supply_page");
  REQUIRE(page->trials().size() > 6);
  auto* list = w.child<QTableWidget>("supply_list");
  int row = -1;
  for (std::size_t i = 0; i < page->trials().size(); ++i)
    if (page->trials()[i].part == "PW48-050") row = static_cast<int>(i);
  REQUIRE(row >= 0);
  list->selectRow(row);
  w.settle();
  CHECK(w.child<QTextBrowser>("supply_reasons")->toPlainText().contains("PW48-050"));
  CHECK(w.child<QTextBrowser>("supply_words")->toPlainText().contains("To be told to the installer"));
  QTest::mouseClick(w.child<QPushButton>("supply_put_in"), Qt::LeftButton);
  w.settle();
  const Section& bus = w.session.document().lists.find("buses")->second[0];
  CHECK(bus.text("part_number") == "PW48-050");
  CHECK(bus.text("limit") == "7.50 A");
  CHECK(bus.text("name") == "48 V");
  CHECK(bus.text("chopper_on") == "54 V"); // what is no part of the supply stays
  w.session.undo();
  CHECK(w.session.document().lists.find("buses")->second[0].text("part_number") == "PW48-100");
}

TEST_CASE("a supply of the library is put in with what it does in overload") {
  MachineWindow w;
  w.page(2);
  auto* page = w.child<SupplyPage>("supply_page");
  const auto& trials = page->trials();
  const auto at = [&](std::string_view part) {
    const auto found =
        std::find_if(trials.begin(), trials.end(), [&](const SupplyTrial& t) { return t.part == part; });
    return found != trials.end() ? static_cast<int>(found - trials.begin()) : -1;
  };
  const int hiccup = at("RH48-0480");
  REQUIRE(hiccup >= 0);
  auto* list = w.child<QTableWidget>("supply_list");
  list->selectRow(hiccup);
  w.settle();
  CHECK(w.child<QTextBrowser>("supply_reasons")->toPlainText().contains("switches off for a while"));
  INFO(list->rowCount() << " rows, " << list->columnCount() << " columns, row " << hiccup);
  REQUIRE(list->item(hiccup, 2) != nullptr);
  CHECK(list->item(hiccup, 2)->text().toDouble() > 20.0); // its price
  QTest::mouseClick(w.child<QPushButton>("supply_put_in"), Qt::LeftButton);
  w.settle();
  const Section& bus = w.session.document().lists.find("buses")->second[0];
  CHECK(bus.text("overload") == "hiccup");
  CHECK(bus.text("trip_time") == "80 ms");
  CHECK(bus.text("chopper_on") == "54 V");

  // the machine is another one now, and all are tried again: the one that is marked stays marked
  w.settle();
  REQUIRE(list->currentRow() >= 0);
  CHECK(trials[static_cast<std::size_t>(list->currentRow())].part == "RH48-0480");
}

TEST_CASE("a rung of the machine opens its working below, with the way back to its input") {
  MachineWindow w;
  auto* working = w.child<WorkingPanel>("machine_working");
  CHECK_FALSE(working->isVisible());
  auto* ladder = w.child<QListWidget>("machine_ladder");
  const auto click = [&](const QString& label) {
    for (int i = 0; i < ladder->count(); ++i)
      if (ladder->item(i)->data(Qt::AccessibleTextRole).toString().startsWith(label)) {
        ladder->scrollToItem(ladder->item(i));
        QTest::mouseClick(ladder->viewport(), Qt::LeftButton, {},
                          ladder->visualItemRect(ladder->item(i)).center());
        return w.settle();
      }
    FAIL("no such rung: " << label.toStdString());
  };
  click("Supply, peak");
  REQUIRE(working->isVisible());
  CHECK(working->shown() == "limit.machine.supply_peak");
  CHECK_THAT(working->text().toStdString(),
             Contains("Greatest mean over the time for which its peak power is told"));
  CHECK_THAT(working->text().toStdString(), Contains("peak power") && Contains("typed “720 W”"));
  // the link stands at the value it is, in place of its general name, and nowhere else
  CHECK_THAT(working->text().toStdString(),
             Contains("share that may be used") && !Contains("the whole power"));
  auto* browser = w.child<QTextBrowser>("machine_working_text");
  CHECK(browser->toHtml().contains("input:buses[0].peak"));

  // it follows an edit: another peak of the supply
  w.session.edit("Peak", "", [](Document& d) { d.lists.find("buses")->second[0].type("peak", "900 W"); });
  w.settle();
  w.settle();
  CHECK_THAT(working->text().toStdString(), Contains("typed “900 W”"));

  // what stands in the machine's own ladder has a working too
  click("Parts an hour");
  CHECK(working->shown() == "limit.machine.rate");
  CHECK_THAT(working->text().toStdString(), Contains("Parts wanted against"));
  QTest::keyClick(&w.window, Qt::Key_Escape);
  CHECK_FALSE(working->isVisible());
  QTest::keyClick(&w.window, Qt::Key_F2);
  w.settle();
  CHECK(working->isVisible());
  CHECK_FALSE(w.window.axis_view()->working_open());
  CHECK(w.child<MachineView>("machine_view")->isVisible());
}

TEST_CASE("a machine without a bus is told how to get one, and the first takes all axes") {
  Window w;
  w.session.edit("Clear", "", [](Document& d) {
    for (auto& [id, list] : d.lists) list.clear();
    for (Axis& axis : d.axes) axis["surroundings"].type("shared_bus", "");
  });
  QTest::keyClick(&w.window, Qt::Key_0, Qt::ControlModifier);
  w.settle();
  CHECK(w.child<QLabel>("machine_told")->text().contains("No bus yet"));
  auto* add = w.child<QToolButton>("add_bus");
  REQUIRE(add->menu() != nullptr);
  add->menu()->actions()[0]->trigger();
  w.settle();
  w.settle();
  CHECK(w.session.document().lists.find("buses")->second.size() == 1);
  CHECK(w.session.document().axes[3]["surroundings"].text("shared_bus") == "48.0 V");
  CHECK(w.child<QLabel>("machine_told")->text().contains("Bus 48.0 V"));
  // its name is typed, and the axes follow
  auto* fold = w.child<QWidget>("machine_buses[0]");
  REQUIRE(fold != nullptr);
  w.session.type("buses[0]", "name", "All");
  w.settle();
  CHECK(w.session.document().axes[3]["surroundings"].text("shared_bus") == "All");
  w.session.undo();
  CHECK(w.session.document().axes[3]["surroundings"].text("shared_bus") == "48.0 V");
}

TEST_CASE("an edit of the machine is followed while it is seen, and a circle is told") {
  MachineWindow w;
  w.session.type("blocks[2]", "after", "Pots away");
  w.settle();
  w.settle();
  CHECK(w.told().contains("circle"));
  CHECK(w.told().contains("Gantry"));
  w.session.undo();
  w.settle();
  w.settle();
  CHECK(w.told().contains("Cycle 9.69 s"));
  w.window.resize(1024, 700);
  w.settle();
  CHECK(w.timeline()->width() > 400);
}

TEST_CASE("the ladder of an axis tells the worst of its bus, and what breaks at the voltage it gets") {
  MachineWindow w;
  w.run();
  QTest::keyClick(&w.window, Qt::Key_1, Qt::ControlModifier);
  w.settle();
  auto* note = w.child<QLabel>("shared_bus_note");
  const auto worst = [&] {
    const auto& run = w.run();
    return QString::fromStdString(std::string(run.buses[*run.power.axes[0].bus].limits.front().label));
  };
  REQUIRE(note->isVisible());
  CHECK(note->text().contains("bus 48 V, its worst limit"));
  CHECK(note->text().contains(worst()));
  CHECK_FALSE(note->text().contains("it gets there"));
  // a bus that is not there judges nothing, and that is said
  w.session.type("surroundings", "shared_bus", "48V");
  CHECK(note->text().contains("Supply not judged: no bus is called “48V”"));
  w.session.undo();
  w.session.edit("Remove bus", "", [](Document& document) {
    std::vector<Section>& buses = document.lists.find("buses")->second;
    buses.erase(buses.begin());
  });
  CHECK(note->text().contains("no bus is called “48 V”"));
  w.session.undo();
  const auto worked_out = [&] { // the machine is not in view: it takes its time
    w.session.machine_watch().look();
    w.settle();
    w.settle();
  };
  w.session.type("buses[0]", "volts", "-48 V"); // left out of the machine
  worked_out();
  INFO(note->text().toStdString());
  CHECK(note->text().contains("Supply not judged: bus 48 V cannot be worked out"));
  w.session.undo();
  worked_out();
  CHECK(note->text().contains("bus 48 V, its worst limit"));
  // a supply that bears next to nothing: its limits are over, and the bus goes down
  w.session.edit("Weak supply", "", [](Document& document) {
    for (Section& bus : document.lists.find("buses")->second)
      if (bus.text("name") == "48 V") {
        bus.type("power", "20 W");
        bus.type("peak", "30 W");
      }
  });
  for (int i = 0; i < 100 && (w.session.machine_watch().old() || !note->text().contains("✕")); ++i) {
    QTest::qWait(50);
    w.settle();
  }
  INFO(note->text().toStdString());
  CHECK(note->text().contains("✕"));
  CHECK(note->text().contains(worst()));
  // the link leads to the machine
  emit note->linkActivated("machine");
  w.settle();
  CHECK(w.window.sheet()->shown().id == "machine");
}

TEST_CASE("all columns of the table of axes are in sight on a small screen") {
  MachineWindow w;
  auto* table = w.child<QTableWidget>("overview_table");
  for (const QSize size : {QSize(1280, 800), QSize(1024, 700)}) {
    w.window.resize(size);
    w.page(1);
    const int last = table->columnCount() - 1;
    CHECK(table->columnViewportPosition(last) + table->columnWidth(last) <= table->viewport()->width());
    for (int column = 0; column <= last; ++column) CHECK(table->columnWidth(column) > 40);
    CHECK(w.child<QListWidget>("machine_ladder")->isVisible() == (size.width() > 1200));
    CHECK(table->item(6, 5)->toolTip().contains("brushed dc motor")); // what is cut is told
  }
  w.page(0);
  CHECK(w.child<QListWidget>("machine_ladder")->isVisible());
}

TEST_CASE("limits stay in sight while the machine is worked out anew") {
  MachineWindow w;
  w.run();
  auto* ladder = w.child<QListWidget>("machine_ladder");
  auto* title = w.child<QLabel>("machine_ladder_title");
  CHECK(title->text() == "Limits of the machine");
  const int count = ladder->count();
  const QRect place = ladder->geometry();
  QObject::connect(&w.session.machine_watch(), &MachineWatch::found, &w.window, [&] {
    const MachineRun& run = *w.session.machine_watch().run();
    if (run.complete) return;
    CHECK(w.session.machine_watch().old());
    CHECK(ladder->count() == count);
    CHECK(title->text() == "Being worked out…");
    CHECK(ladder->geometry() == place);
  });
  for (int i = 1; i <= 3; ++i) {
    w.session.type("load", "moved_mass", QString("6.%1 kg").arg(i));
    CHECK(w.session.machine_watch().old());
    w.session.jobs().wait();
    w.settle();
    CHECK_FALSE(w.session.machine_watch().old());
    CHECK_FALSE(w.session.machine_watch().judging());
    CHECK(title->text() == "Limits of the machine");
  }
  CHECK(ladder->count() == count);
}

TEST_CASE("axes that get the same voltages are not judged again") {
  MachineWindow w;
  w.run();
  const MachineResult before = w.session.machine_watch().fed_results();
  w.session.type("load", "moved_mass", "6.5 kg"); // the picker's, on 48 V
  w.run();
  const MachineResult after = w.session.machine_watch().fed_results();
  REQUIRE(after.size() == before.size());
  CHECK(after[0] != before[0]);
  for (const std::size_t of_mains : {2U, 4U}) CHECK(after[of_mains] == before[of_mains]);
}
