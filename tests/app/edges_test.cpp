// What happens when things go wrong or are empty.

#include "window.hpp"

#include "app/session/examples.hpp"
#include "app/sheet/mechanism_preview.hpp"
#include "app/sheet/worksheet_pdf.hpp"
#include "core/mechanism/mechanism.hpp"

#include <QFile>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>

#include <fstream>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;
using namespace fulmox::app;

TEST_CASE("a bad value says what is wrong, keeps the last good results and loses nothing") {
  Window w;
  const QString good = w.number("Peak torque");
  struct Case {
    const char *path, *text, *said;
  };
  for (const Case& c :
       {Case{"load.moved_mass", "six", "unknown unit"}, Case{"load.moved_mass", "-6 kg", "greater than 0"},
        Case{"mechanism.length", "5 kg", "a length"}, Case{"mechanism.lead", "0 mm", "greater than 0"},
        Case{"mechanism.efficiency", "1.3", "at most 1"}, Case{"gearhead.ratio", "0", "greater than 0"},
        Case{"cycle[0].deceleration_share", "0.9", "does not fit"}}) {
    INFO(c.path << " = " << c.text);
    const QString before = w.field(c.path)->text();
    w.type(c.path, c.text);
    CHECK(w.session.stale());
    CHECK(w.stale_note().contains(c.said));
    CHECK(w.stale_note().contains("last good results"));
    CHECK_FALSE(w.number("Peak torque").isEmpty());
    CHECK(w.field(c.path)->text().startsWith(c.text));
    w.type(c.path, before);
    CHECK_FALSE(w.session.stale());
    CHECK(w.stale_note().isEmpty());
    CHECK(w.number("Peak torque") == good);
  }
}

TEST_CASE("the numbers that stay are those of the last good input") {
  Window w;
  w.type("mechanism.lead", "20 mm");
  const QString good = w.number("Peak torque");
  w.type("mechanism.lead", "-20 mm");
  CHECK(w.session.stale());
  CHECK(w.number("Peak torque") == good);
}

TEST_CASE("a machine with a bad value can be saved and opened, the fault is shown again") {
  Window w;
  const TemporaryFolder folder;
  const QString path = QString::fromStdString(folder.file("bad.fulmox").string());
  w.type("mechanism.lead", "0 mm");
  REQUIRE_FALSE(w.session.save(path));
  REQUIRE(w.window.open(path));
  w.settle();
  CHECK(w.session.axis()["mechanism"].text("lead") == "0 mm");
  CHECK(w.session.problem().what.find("greater than 0") != std::string::npos);
}

TEST_CASE("a file that cannot be opened leaves everything as it was") {
  Window w;
  const TemporaryFolder folder;
  std::ofstream(folder.file("cut.fulmox")) << to_json(demo()).substr(0, 900);
  w.type("load.moved_mass", "8 kg");
  QString said;
  w.in_dialog<QMessageBox>(
      [&] { CHECK_FALSE(w.window.open(QString::fromStdString(folder.file("cut.fulmox").string()))); },
      [&](QMessageBox& box) { said = box.text(); });
  CHECK(said.contains("truncated"));
  CHECK(said.contains("line"));
  CHECK(w.session.axis()["load"].text("moved_mass") == "8 kg");
  CHECK(w.session.history().can_undo());
}

TEST_CASE("an empty machine teaches what to do first, and its steps lead to a result") {
  Window w(false);
  auto* welcome = w.child<QWidget>("welcome");
  REQUIRE(welcome->isVisible());
  QTest::mouseClick(w.child<QToolButton>("add_axis"), Qt::LeftButton);
  w.settle();
  CHECK(w.window.focusWidget()->objectName() == "moved_mass");
  QTest::keyClicks(w.window.focusWidget(), "12 kg");
  w.settle();
  CHECK(welcome->isVisible()); // no move yet
  QTest::mouseClick(w.child<QToolButton>("add_move"), Qt::LeftButton);
  w.settle();
  CHECK_FALSE(welcome->isVisible());
  CHECK_FALSE(w.number("Peak torque").isEmpty());
  CHECK(w.rung("Rms torque").startsWith("not judged"));
}

TEST_CASE("every example gives an axis that works and whose limits are judged") {
  for (const char* name : {"level", "vertical", "incline"}) {
    Window w(false);
    INFO(name);
    QTest::mouseClick(w.child<QPushButton>(QString("example_") + name), Qt::LeftButton);
    w.settle();
    REQUIRE(w.session.evaluation() != nullptr);
    CHECK(w.session.problem().what.empty());
    for (const Limit& limit : w.session.evaluation()->limits)
      if (limit.id.substr(0, 6) != "supply") {
        INFO(limit.id << " " << limit.used);
        CHECK((limit.state == LimitState::clear || limit.state == LimitState::tight));
      }
  }
}

TEST_CASE("the mechanism is drawn as soon as it is chosen, before anything can be worked out") {
  Window w(false);
  auto* preview = w.child<MechanismPreview>("mechanism_preview");
  REQUIRE(preview != nullptr);
  CHECK_FALSE(preview->drawn());
  w.window.add_axis();
  w.settle();
  REQUIRE(w.session.evaluation() == nullptr);
  CHECK(preview->drawn());
  for (const MechanismSpec* spec : mechanism_specs()) {
    w.session.edit("Mechanism", "",
                   [&](Document& d) { choose_mechanism(d.axes[w.session.axis_index()], *spec); });
    w.settle();
    INFO(spec->section.id);
    if (w.session.evaluation() == nullptr) CHECK(preview->drawn());
  }
}

TEST_CASE("there is an example for every family of mechanism") {
  std::set<std::string_view> kinds;
  for (const Example& example : examples()) {
    Window w(false);
    INFO(example.name);
    QTest::mouseClick(w.child<QPushButton>(QString("example_") + example.name), Qt::LeftButton);
    w.settle();
    REQUIRE(w.session.evaluation() != nullptr);
    CHECK(w.session.problem().what.empty());
    CHECK(w.session.document().axes.size() == 1);
    kinds.insert(w.session.axis()["mechanism"].spec().id);
  }
  CHECK(kinds ==
        std::set<std::string_view>{"screw", "belt", "conveyor", "rack", "table", "arm", "drum", "crank"});
}

TEST_CASE("the start page opens the demo and what was opened last") {
  const TemporaryFolder folder;
  const QString path = QString::fromStdString(folder.file("palletizer.fulmox").string());
  Document document;
  document.name = "Palletizer";
  REQUIRE_FALSE(save_document(document, path.toStdString()));
  Window w(false);
  CHECK_FALSE(w.child<QWidget>("ribbon")->isVisible()); // no empty band
  QSettings().setValue("recent", QStringList{"/gone/away.fulmox", path});
  w.child<QWidget>("welcome")->hide(); // it is told anew whenever it appears
  w.child<QWidget>("welcome")->show();
  auto* last = w.child<QPushButton>("recent_0");
  REQUIRE(last != nullptr);
  CHECK(last->text() == "palletizer");
  CHECK(last->toolTip() == path);
  CHECK(w.child<QPushButton>("recent_1") == nullptr); // what is gone is not offered
  QTest::mouseClick(last, Qt::LeftButton);
  CHECK(w.session.document().name == "Palletizer");
  QTest::mouseClick(w.child<QPushButton>("open_demo"), Qt::LeftButton);
  w.settle();
  CHECK(w.session.document().axes.size() == 7);
  CHECK(w.child<QWidget>("ribbon")->isVisible());
}

TEST_CASE("the worksheet is saved as a PDF of several pages") {
  Window w;
  const TemporaryFolder folder;
  const QString path = QString::fromStdString(folder.file("sheet.pdf").string());
  REQUIRE(write_worksheet_pdf(w.session.document(), path));
  QFile file(path);
  REQUIRE(file.open(QIODevice::ReadOnly));
  const QByteArray content = file.readAll();
  CHECK(content.startsWith("%PDF"));
  CHECK(content.count("/Type /Page\n") >= 4);
  CHECK_FALSE(write_worksheet_pdf(w.session.document(), "/no/such/folder/sheet.pdf"));
}

TEST_CASE("an axis of any mechanism that cannot be worked out yet is shown, and an example takes its place") {
  for (const std::string_view mechanism : all_mechanisms()) {
    INFO(mechanism);
    Window w(false);
    Document document;
    document.axes = {axis_on(mechanism)};
    w.session.adopt(document);
    w.settle();
    CHECK(w.session.evaluation() == nullptr);
    w.window.add_example("level");
    CHECK(w.session.document().axes.size() <= 2);
    CHECK(w.session.evaluation() != nullptr);
  }
}

TEST_CASE("a long list is shown by the page, and every field of it can be reached") {
  Window w;
  w.session.edit("Long", "", [](Document& d) {
    for (int i = 0; i < 120; ++i) add_dwell(d.axes[0], std::to_string(i + 1) + " ms");
    number_sections(d.axes[0]);
  });
  w.type("cycle[0].time", "0.36 s"); // opens the list on its first page
  const auto line = [&](int i) { return w.child<QPushButton>(QString("cycle_line_%1").arg(i)); };
  REQUIRE(line(49) != nullptr);
  CHECK(line(50) == nullptr);
  w.child<QToolButton>("later_cycle")->click();
  w.settle();
  REQUIRE(line(50) != nullptr);
  CHECK(line(50)->text().contains("51  Dwell"));
  CHECK(w.field("cycle[123].time")->text() == "120 ms"); // turns to the page it is on
  CHECK(line(123) != nullptr);
  w.type("cycle[123].time", "7 ms");
  CHECK(w.session.axis().cycle[123].text("time") == "7 ms");
  w.child<QToolButton>("earlier_cycle")->click();
  w.settle();
  CHECK(line(50) != nullptr);
  w.session.undo();
  w.session.undo();
  w.settle();
  CHECK(w.session.axis().cycle.size() == 124);
}

TEST_CASE("several axes: chips, switching, removing and undoing that") {
  Window w;
  w.window.add_example("level");
  w.settle();
  auto* chip = w.child<QToolButton>("axis_7");
  REQUIRE(chip != nullptr);
  CHECK(chip->toolTip().contains("%"));
  QTest::mouseClick(chip, Qt::LeftButton);
  w.settle();
  CHECK(w.session.axis_index() == 7);
  CHECK(w.session.axis().name == "Slide");
  const QString picker = w.child<QToolButton>("axis_0")->text();
  w.type("load.moved_mass", "14 kg");
  CHECK(w.child<QToolButton>("axis_0")->text() == picker);
  chip->actions().last()->trigger();
  w.settle();
  CHECK(w.session.document().axes.size() == 7);
  CHECK(w.session.axis().name == "Brush");
  w.session.undo();
  w.settle();
  CHECK(w.session.document().axes.size() == 8);
}

TEST_CASE("closing with unsaved changes asks, and staying keeps them") {
  Window w;
  w.type("load.moved_mass", "11 kg");
  w.in_dialog<QMessageBox>([&] { w.window.close(); },
                           [](QMessageBox& box) { box.button(QMessageBox::Cancel)->click(); });
  CHECK(w.window.isVisible());
  CHECK(w.session.axis()["load"].text("moved_mass") == "11 kg");
  w.in_dialog<QMessageBox>([&] { w.window.close(); },
                           [](QMessageBox& box) { box.button(QMessageBox::Discard)->click(); });
  CHECK_FALSE(w.window.isVisible());
}

TEST_CASE("the window works at 1024×700 and in 4K") {
  Window w;
  for (const QSize size : {QSize(1024, 700), QSize(3840, 2160)}) {
    w.window.resize(size);
    w.settle();
    CHECK(w.window.size() == size);
    for (const char* part : {"sketch", "torque_plane", "torque_stack", "ladder", "numbers"}) {
      INFO(part << " at " << size.width());
      auto* widget = w.child<QWidget>(part);
      CHECK(w.window.rect().contains(QRect(widget->mapTo(&w.window, QPoint(0, 0)), widget->size())));
      CHECK(widget->height() >= 80);
    }
  }
}

TEST_CASE("random typing into every field never crashes") {
  Window w;
  std::mt19937 engine(31);
  const QStringList texts{"",      "0",   "-1",     "1e9", "5 kg",     "1/0",
                          "10 mm", "abc", "90 deg", "±",   "0.5 ±20%", "48 V"};
  for (const Section& section : std::vector<Section>(w.session.axis().givens))
    for (std::size_t i = 0; i < section.size(); ++i) {
      const Entry before = section.entry(i);
      for (int k = 0; k < 3; ++k)
        w.session.type(section.path, std::string(section.field(i).id),
                       texts[static_cast<qsizetype>(engine() % 12)]);
      w.session.type(section.path, std::string(section.field(i).id), QString::fromStdString(before.text));
    }
  w.settle();
  CHECK_FALSE(w.session.stale());
  CHECK(w.number("Peak torque") == "326 mN·m");
}
