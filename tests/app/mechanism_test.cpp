// Another mechanism, pieces, stages and laws through the real window.

#include "app/givens/givens_panel.hpp"
#include "app/sheet/axis_view.hpp"
#include "app/study/ratio_page.hpp"
#include "app/study/study_panel.hpp"
#include "app/study/what_if_page.hpp"
#include "app/theme/theme.hpp"
#include "core/support/text_file.hpp"
#include "support/axes.hpp"
#include "window.hpp"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QSlider>
#include <QTableWidget>
#include <QToolButton>

#include <catch2/catch.hpp>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

/// Chooses an entry of a combo box as a click in its list does.
void choose(Window& w, QComboBox* box, const QString& data) {
  const int index = box->findData(data);
  REQUIRE(index >= 0);
  box->setCurrentIndex(index);
  emit box->activated(index);
  w.settle();
}

void click(Window& w, const char* name) {
  auto* button = w.child<QAbstractButton>(name);
  REQUIRE(button != nullptr);
  QTest::mouseClick(button, Qt::LeftButton);
  w.settle();
}

QMenu* menu_of(Window& w, const char* name) {
  auto* button = w.child<QToolButton>(name);
  REQUIRE(button != nullptr);
  emit button->menu()->aboutToShow();
  return button->menu();
}

void trigger(Window& w, QMenu* menu, const QString& text) {
  for (QAction* action : menu->actions())
    if (action->text() == text) {
      action->trigger();
      w.settle();
      return;
    }
  FAIL("no action " << text.toStdString());
}

QString table_text(const QTableWidget* table) {
  QString all;
  for (int row = 0; row < table->rowCount(); ++row)
    for (int column = 0; column < table->columnCount(); ++column)
      if (table->item(row, column) != nullptr) all += table->item(row, column)->text() + "|";
  return all;
}

} // namespace

TEST_CASE("another mechanism is chosen, filled in and undone") {
  Window w;
  choose(w, w.child<QComboBox>("mechanism_kind"), "belt");
  CHECK(w.session.axis()["mechanism"].spec().id == "belt");
  CHECK_FALSE(w.session.stale());
  const QString before = w.number("Peak torque");
  w.type("mechanism.pulley_teeth", "48");
  CHECK(w.number("Peak torque") != before);
  w.session.undo();
  w.session.undo();
  w.settle();
  CHECK(w.session.axis()["mechanism"].spec().id == "screw");
  CHECK(w.field("mechanism.lead")->text() == "10 mm");
}

TEST_CASE("a turning mechanism asks for angles and says so where a length stands") {
  Window w;
  choose(w, w.child<QComboBox>("mechanism_kind"), "table");
  CHECK(w.session.stale());
  CHECK(w.child<QLabel>("stale_note")->text().contains("angle"));
  w.type("cycle[0].distance", "90 deg");
  w.type("cycle[2].distance", "-90 deg");
  w.type("load.inertia", "0.02 kg.m2");
  CHECK_FALSE(w.session.stale());
  CHECK(w.session.evaluation()->model->load->cycle.kinds.rotary());
}

TEST_CASE("every mechanism of the list draws itself in the window") {
  Window w;
  auto* kinds = w.child<QComboBox>("mechanism_kind");
  CHECK(kinds->count() == static_cast<int>(mechanism_specs().size()));
  RandomAxes random(71);
  for (const MechanismSpec* spec : mechanism_specs()) {
    Document document;
    document.axes.push_back(random.next_on(spec->section.id));
    w.session.adopt(document);
    w.settle();
    REQUIRE(w.session.evaluation() != nullptr);
    const QImage picture = w.child<QWidget>("sketch")->grab().toImage();
    // something other than ground is on it
    const QRgb ground = picture.pixel(2, picture.height() - 2);
    int drawn = 0;
    for (int y = 0; y < picture.height(); y += 2)
      for (int x = 0; x < picture.width(); x += 2) drawn += picture.pixel(x, y) != ground ? 1 : 0;
    INFO(spec->section.id);
    CHECK(drawn > 200);
  }
}

TEST_CASE("pieces and stages are added by button and menu, filled in, and counted") {
  Window w;
  auto* givens = w.child<GivensPanel>("givens");
  givens->go_to("pieces");
  w.settle();
  click(w, "add_cuboid");
  REQUIRE(w.session.axis().pieces.size() == 1);
  CHECK(w.session.stale()); // its size is missing yet
  for (const char* side : {"a", "b", "c"}) w.type(QString("pieces[0].") + side, "100 mm");
  CHECK_FALSE(w.session.stale());
  const double mass = w.session.evaluation()->at(0.1).parts[TorquePart::moved_mass];
  w.type("pieces[0].density", "15700 kg/m3"); // twice steel
  CHECK(std::abs(w.session.evaluation()->at(0.1).parts[TorquePart::moved_mass]) > std::abs(mass));
  givens->go_to("stages");
  w.settle();
  trigger(w, menu_of(w, "add_more_stages"), "Planetary stage");
  REQUIRE(w.session.axis().stages.size() == 1);
  CHECK(w.session.evaluation()->model->total_ratio() == Approx(5.0));
  w.type("stages[0].ring", "73");
  CHECK(w.session.stale());
  CHECK(w.child<QLabel>("stale_note")->text().contains("even"));
}

TEST_CASE("a law is chosen, and blank fields tell what they follow to") {
  Window w;
  QLineEdit* speed = w.field("cycle[0].peak_speed");
  CHECK(speed->placeholderText().contains("643 mm/s"));
  auto* law = w.child<QComboBox>("law");
  choose(w, law, "345");
  CHECK(w.session.axis().cycle[0].text("law") == "345");
  // ramp shares are typed in the demo: the fixed law leaves them alone
  CHECK(w.session.evaluation()->model->load->cycle.facts[0].accel_share == 0.0);
  CHECK(w.field("cycle[0].peak_speed")->placeholderText().contains("804 mm/s"));
}

TEST_CASE("an impossible move keeps the last good results and names the nearest that works") {
  Window w;
  w.type("cycle[0].acceleration_share", "");
  w.type("cycle[0].deceleration_share", "");
  w.type("cycle[0].peak_speed", "5 m/s");
  CHECK(w.session.stale());
  CHECK(w.child<QLabel>("stale_note")->text().contains("At most 857 mm/s"));
  w.type("cycle[0].peak_speed", "857 mm/s");
  CHECK_FALSE(w.session.stale());
}

TEST_CASE("the Load page tells every inertia on its way to the motor") {
  Window w;
  w.session.select_axis(3);
  click(w, "study_load");
  const QString pieces = table_text(w.child<QTableWidget>("piece_table"));
  CHECK(pieces.contains("Plate"));
  CHECK(pieces.contains("Nests"));
  CHECK(pieces.contains("Bore for the hub"));
  CHECK(pieces.contains("−"));
  const QString chain = table_text(w.child<QTableWidget>("chain_table"));
  CHECK(chain.contains("Pieces"));
  CHECK(chain.contains("Belt stage"));
  CHECK(chain.contains("Rotor"));
  w.session.select_axis(0);
  w.settle();
  w.child<QWidget>("load_page")->hide();
  w.child<QWidget>("load_page")->show();
  w.settle();
  CHECK(w.child<QLabel>("lead_advice")->text().contains("Half the lead"));
}

TEST_CASE("the Move page compares laws, and a double click takes one over") {
  Window w;
  click(w, "study_move");
  auto* laws = w.child<QTableWidget>("law_table");
  REQUIRE(laws->rowCount() == static_cast<int>(law_specs().size()) + 4);
  int row = 0;
  while (!laws->item(row, 0)->text().startsWith("Modified sine")) ++row;
  emit laws->cellDoubleClicked(row, 0);
  w.settle();
  CHECK(w.session.axis().cycle[0].text("law") == "modified_sine");
  CHECK(w.session.axis().cycle[0].text("time") == "0.35 s");
  w.session.undo();
  CHECK(w.session.axis().cycle[0].text("law") == "trapezoid");
}

TEST_CASE("a law of a list that lags behind the cycle is not taken over, the list is filled anew") {
  Window w;
  click(w, "study_move");
  auto* laws = w.child<QTableWidget>("law_table");
  REQUIRE(laws->rowCount() > 3);
  w.session.edit("Empty the cycle", "", [](Document& document) {
    document.axes[0].cycle.erase(document.axes[0].cycle.begin() + 1, document.axes[0].cycle.end());
  });
  const std::string before = w.session.axis().cycle[0].text("law");
  emit laws->cellDoubleClicked(3, 0); // before the page follows
  CHECK(w.session.axis().cycle.size() == 1);
  CHECK(w.session.axis().cycle[0].text("law") == before);
  w.session.edit("And all of it", "", [](Document& document) { document.axes[0].cycle.clear(); });
  emit laws->cellDoubleClicked(3, 0);
  CHECK(w.session.axis().cycle.empty());
}

TEST_CASE("limits on the Move page: laws beyond them fade, the gentlest S-curve within them is taken over") {
  Window w;
  w.session.select_axis(2); // 920 mm in 913 ms
  click(w, "study_move");
  auto* laws = w.child<QTableWidget>("law_table");
  const int last = laws->rowCount() - 1;
  REQUIRE(laws->item(last, 0)->text().startsWith("S-curve"));
  const auto faded = [&](int row) { return laws->item(row, 0)->foreground().color() == theme().faint; };
  CHECK_FALSE(faded(last));
  const auto limit = [&](const char* name, const char* text) {
    w.child<QLineEdit>(name)->setText(text);
    QTest::qWait(200); // it works out shortly after the last key
    w.settle();
  };
  limit("limit_speed", "1.6 m/s");
  int beyond = 0;
  for (int row = 0; row <= last; ++row) beyond += faded(row) ? 1 : 0;
  CHECK(beyond >= 4);
  CHECK_FALSE(faded(last));
  limit("limit_acceleration", "-1");
  CHECK(w.child<QLabel>("move_note")->text().contains("greater than 0"));
  limit("limit_acceleration", "5 apples");
  CHECK(w.child<QLabel>("move_note")->text().contains("apples"));
  limit("limit_acceleration", "7 m/s2");
  emit laws->cellDoubleClicked(last, 0);
  w.settle();
  const SegmentFacts& facts = w.session.evaluation()->model->load->cycle.facts[0];
  CHECK(w.session.axis().cycle[0].text("law") == "s_curve");
  CHECK(facts.peak_speed <= 1.6 * (1.0 + 1e-4));
  CHECK(facts.peak_acceleration <= 7.0 * (1.0 + 1e-4));
  limit("limit_speed", "0.5 m/s"); // below the mean speed: no such curve
  CHECK(laws->rowCount() == last);
}

TEST_CASE("pieces are read from CSV about an axis of the file, and a bad file changes nothing") {
  const TemporaryFolder folder;
  const auto path = [&](const char* name) { return QString::fromStdString(folder.file(name).string()); };
  REQUIRE_FALSE(write_text_file(folder.file("parts.csv"),
                                "part,mass [kg],x [mm],z [mm],Iyy [kg.m2]\nPlate,2,10,20,0.003\n"));
  REQUIRE_FALSE(write_text_file(folder.file("bad.csv"), "part,mass [kg]\nPlate,2\n"));
  Window w;
  w.session.select_axis(3);
  const std::size_t before = w.session.axis().pieces.size();
  CHECK(w.window.import_pieces(RotationAxis::y, path("parts.csv")));
  w.settle();
  REQUIRE(w.session.axis().pieces.size() == before + 1);
  CHECK(w.session.axis().pieces.back().term("inertia") == Approx(0.003));
  CHECK(w.session.history().undo_name() == "Read pieces of the load");
  // what of it does not count is told
  REQUIRE_FALSE(
      write_text_file(folder.file("odd.csv"), "mass [kg],xc [mm],z [mm],Iyy [kg.m2]\n2,10,20,0.003\n"));
  bool imported = false;
  w.in_dialog<QMessageBox>([&] { imported = w.window.import_pieces(RotationAxis::y, path("odd.csv")); },
                           [](QMessageBox& box) {
                             CHECK(box.text().contains("no column 'x'"));
                             CHECK(box.text().contains("Not read: 'xc'"));
                           });
  CHECK(imported);
  w.session.undo();
  w.in_dialog<QMessageBox>([&] { imported = w.window.import_pieces(RotationAxis::z, path("bad.csv")); },
                           [](QMessageBox& box) { CHECK(box.text().contains("izz")); });
  CHECK_FALSE(imported);
  CHECK(w.session.axis().pieces.size() == before + 1);
}

TEST_CASE("a recorded profile is read from CSV, smoothed, and shown beside its fit") {
  const TemporaryFolder folder;
  std::string csv = "time [ms],position [mm]\n";
  for (int i = 0; i <= 100; ++i) {
    const double u = i / 100.0;
    csv += std::to_string(10 * i) + "," +
           std::to_string(80.0 * u * u * (3.0 - 2.0 * u) + 0.05 * (i % 3 - 1)) + "\n";
  }
  REQUIRE_FALSE(write_text_file(folder.file("move.csv"), csv));
  Window w;
  trigger(w, menu_of(w, "add_more_cycle"), "Profile");
  REQUIRE(w.session.axis().cycle.size() == 5);
  CHECK(w.session.stale());
  CHECK(w.window.import_points(4, "points", QString::fromStdString(folder.file("move.csv").string())));
  w.settle();
  CHECK_FALSE(w.session.stale());
  CHECK(w.session.axis().cycle[4].entry("points").origin == Origin::measured);
  const double raw = w.session.evaluation()->model->load->cycle.facts[4].peak_acceleration;
  w.type("cycle[4].smoothing", "0.05 mm");
  const double smooth = w.session.evaluation()->model->load->cycle.facts[4].peak_acceleration;
  CHECK(smooth < 0.5 * raw);
  w.type("cycle[4].smoothing", "0.005 mm");
  click(w, "study_move");
  auto* segments = w.child<QComboBox>("study_segment");
  segments->setCurrentIndex(segments->count() - 1);
  emit segments->activated(segments->count() - 1);
  w.settle();
  auto* note = w.child<QLabel>("move_note");
  CHECK(note->text().contains("101 points"));
  // the record's own scatter is offered as its noise: ±0.05 mm every third point
  REQUIRE(note->text().contains("scatter by"));
  emit note->linkActivated("scatter");
  w.settle();
  CHECK(w.session.axis().cycle[4].term("smoothing") == Approx(0.041e-3).epsilon(0.3));
  CHECK(w.session.axis().cycle[4].text("smoothing").ends_with(" mm"));
  CHECK(w.session.history().undo_name() == "Change noise of the record");
  w.child<QWidget>("move_page")->hide(); // what waits for a pause in typing is worked out when shown again
  w.child<QWidget>("move_page")->show();
  w.settle();
  CHECK_FALSE(note->text().contains("scatter by")); // now it is known
}

TEST_CASE("a CSV file dropped on the window becomes pieces or a recorded motion, by its columns") {
  const TemporaryFolder folder;
  REQUIRE_FALSE(write_text_file(folder.file("parts.csv"), "part,mass [kg],Izz [kg.m2]\nPlate,2,0.003\n"));
  REQUIRE_FALSE(write_text_file(folder.file("move.txt"), "0 0\n0.1 2\n0.2 8\n0.3 2\n0.4 0\n"));
  REQUIRE_FALSE(write_text_file(folder.file("bad.csv"), "0;0\n0,1;x\n"));
  Window w;
  const auto drop = [&](const char* name) {
    QMimeData data;
    data.setUrls({QUrl::fromLocalFile(QString::fromStdString(folder.file(name).string()))});
    QDragEnterEvent enter(QPoint(100, 100), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&w.window, &enter);
    CHECK(enter.isAccepted());
    QDropEvent event(QPointF(100, 100), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&w.window, &event);
    w.settle();
  };
  drop("parts.csv");
  REQUIRE(w.session.axis().pieces.size() == 1);
  CHECK(w.session.axis().pieces[0].text("name") == "Plate");
  CHECK_FALSE(w.session.stale());
  drop("move.txt");
  REQUIRE(w.session.axis().cycle.size() == 5);
  CHECK(w.session.axis().cycle[4].entry("points").curve.size() == 5);
  CHECK_FALSE(w.session.stale());
  w.in_dialog<QMessageBox>([&] { drop("bad.csv"); },
                           [](QMessageBox& box) { CHECK(box.text().contains("line 2")); });
  CHECK(w.session.axis().cycle.size() == 5);
  w.session.undo();
  w.session.undo();
  CHECK(w.session.axis().pieces.empty());
  CHECK(w.session.axis().cycle.size() == 4);
}

TEST_CASE("the ratio page marks the best, and a click takes a standard ratio over") {
  Window w;
  w.session.select_axis(2);
  click(w, "study_ratio");
  auto* page = w.child<RatioPage>("ratio_page");
  REQUIRE(page->sweep());
  CHECK(page->sweep()->present == 5.0);
  CHECK(page->sweep()->least_rms > 5.0);
  QTest::mouseClick(page, Qt::LeftButton, {}, QPoint(static_cast<int>(page->x_of(10.0)), 100));
  w.settle();
  CHECK(w.session.axis()["gearhead"].text("ratio") == "10");
  w.session.undo();
  CHECK(w.session.axis()["gearhead"].term("ratio") == 5.0);
}

TEST_CASE("what if: a slider swings an input, the limits follow, letting go brings it back") {
  Window w;
  const double typed = w.session.evaluation()->demand.peak_torque;
  const QString limits_before = w.child<QLabel>("stale_note")->text();
  click(w, "study_what_if");
  auto* slider = w.child<QSlider>("swing_0");
  REQUIRE(slider != nullptr);
  slider->setValue(100);
  w.settle();
  CHECK_FALSE(w.session.trial().isEmpty());
  CHECK(w.session.evaluation()->demand.peak_torque != typed);
  CHECK(w.child<QLabel>("stale_note")->text().contains("Tried"));
  CHECK_FALSE(w.session.dirty());
  slider->setValue(0);
  w.settle();
  CHECK(w.session.trial().isEmpty());
  CHECK(w.session.evaluation()->demand.peak_torque == typed);
  slider->setValue(-50);
  click(w, "study_shares"); // leaving the page ends the trial too
  CHECK(w.session.trial().isEmpty());
}

TEST_CASE("the cycle is written as CSV, and a bad file is told") {
  const TemporaryFolder folder;
  Window w;
  const QString file = QString::fromStdString(folder.file("cycle.csv").string());
  CHECK(w.window.export_trace(0.01, file));
  const auto text = read_text_file(file.toStdString(), 1U << 20U);
  REQUIRE(text);
  CHECK(std::count(text->begin(), text->end(), '\n') == 157);
}
