// The library view through the window: libraries added and ordered, sheets typed and kept, foreign lists
// mapped, curves clicked off a picture.

#include "app/library/curve_dialog.hpp"
#include "app/library/import_dialog.hpp"
#include "app/library/library_view.hpp"
#include "app/theme/theme.hpp"
#include "app/window.hpp"
#include "core/support/text_file.hpp"

#include <QDialogButtonBox>
#include <QDir>
#include <QMessageBox>
#include <QPainter>
#include <QTableWidget>
#include <QTemporaryDir>

#include <filesystem>
#include <fstream>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

struct Shelf {
  explicit Shelf(Window& window) : w(window) {
    std::filesystem::remove_all(PartSources::own_folder());
    std::filesystem::remove_all(PartSources::own_folder().parent_path() / "list-layouts.json");
    QTest::keyClick(&w.window, Qt::Key_9, Qt::ControlModifier);
    w.settle();
    view = w.child<LibraryView>("library_view");
    REQUIRE(view->isVisible());
    table = w.child<QTableView>("library_parts");
    fields = w.child<QTableWidget>("sheet_fields");
  }
  ~Shelf() { std::filesystem::remove_all(PartSources::own_folder()); }
  Shelf(const Shelf&) = delete;
  Shelf& operator=(const Shelf&) = delete;

  void click(const char* name) {
    auto* button = w.child<QAbstractButton>(name);
    REQUIRE(button != nullptr);
    REQUIRE(button->isEnabled());
    QTest::mouseClick(button, Qt::LeftButton);
    w.settle();
  }
  [[nodiscard]] int rows() const { return table->model()->rowCount(); }
  [[nodiscard]] QString text(int row, int column) const {
    return table->model()->index(row, column).data().toString();
  }
  [[nodiscard]] QString tip(int row) const {
    return table->model()->index(row, 0).data(Qt::ToolTipRole).toString();
  }
  void search(const QString& words) {
    auto* line = w.child<QLineEdit>("library_search");
    line->setFocus();
    line->selectAll();
    words.isEmpty() ? QTest::keyClick(line, Qt::Key_Delete) : QTest::keyClicks(line, words);
    w.settle();
  }
  void choose(int row) {
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {},
                      table->visualRect(table->model()->index(row, 0)).center());
    w.settle();
  }
  /// Types into the sheet as a user does.
  void type(const QString& label, const QString& words) {
    for (int row = 0; row < fields->rowCount(); ++row) {
      if (!fields->item(row, 0)->text().startsWith(label)) continue;
      fields->scrollToItem(fields->item(row, 1));
      fields->setCurrentCell(row, 1);
      fields->editItem(fields->item(row, 1));
      auto* line = fields->viewport()->findChild<QLineEdit*>();
      REQUIRE(line != nullptr);
      line->selectAll();
      QTest::keyClicks(line, words);
      QTest::keyClick(line, Qt::Key_Return);
      w.settle();
      return;
    }
    FAIL("no such field: " << label.toStdString());
  }
  [[nodiscard]] QString shown(const QString& label) const {
    for (int row = 0; row < fields->rowCount(); ++row)
      if (fields->item(row, 0)->text().startsWith(label)) return fields->item(row, 1)->text();
    return "no such field";
  }

  Window& w;
  LibraryView* view = nullptr;
  QTableView* table = nullptr;
  QTableWidget* fields = nullptr;
};

void write(const QString& path, const std::string& text) {
  std::ofstream(path.toStdString(), std::ios::binary) << text;
}

} // namespace

TEST_CASE("a part of the shipped library is copied, changed and kept, the copy counts and goes again") {
  Window w;
  Shelf shelf(w);
  shelf.search("VK60-0400-325H");
  REQUIRE(shelf.rows() == 1);
  shelf.choose(0);
  CHECK(shelf.text(0, StoredModel::remarks) == "sound");
  CHECK_FALSE(w.child<QPushButton>("sheet_keep")->isEnabled());
  shelf.click("sheet_copy");
  shelf.type("Price", "111");
  CHECK_THAT(w.child<QLabel>("sheet_head")->text().toStdString(), Contains("not kept"));
  shelf.click("sheet_keep");
  REQUIRE(shelf.rows() == 2);
  const int hidden = shelf.text(0, StoredModel::from).contains("hidden") ? 0 : 1;
  CHECK_THAT(shelf.tip(hidden).toStdString(), Contains("my own") && Contains("tells otherwise"));
  CHECK(shelf.text(1 - hidden, StoredModel::price) == "111");
  // what is offered for an axis is the one that counts
  CHECK(w.session.library().find("motor", "VK60-0400-325H")->text("price") == "111");
  CHECK(shelf.shown("Price") == "111");
  w.in_dialog<QMessageBox>(
      [&] { shelf.click("sheet_delete"); },
      [](QMessageBox& box) { QTest::mouseClick(box.button(QMessageBox::Yes), Qt::LeftButton); });
  w.settle();
  CHECK(shelf.rows() == 1);
  CHECK(w.session.library().find("motor", "VK60-0400-325H")->text("price") != "111");
}

TEST_CASE("a new sheet is typed, faults and remarks are told at once, and it is kept only when it is sound "
          "enough") {
  Window w;
  Shelf shelf(w);
  shelf.click("library_coupling");
  shelf.click("sheet_new");
  CHECK_THAT(w.child<QLabel>("sheet_remarks")->text().toStdString(), Contains("part number"));
  shelf.type("Part number", "MY-1");
  shelf.type("Maker", "Mine (invented)");
  shelf.type("Rated torque", "5 kg");
  CHECK(shelf.shown("Rated torque") == "5 kg"); // kept as typed, with its fault
  CHECK_THAT(w.child<QLabel>("sheet_remarks")->text().toStdString(), Contains("contradiction"));
  w.in_dialog<QMessageBox>(
      [&] { shelf.click("sheet_keep"); },
      [](QMessageBox& box) { CHECK_THAT(box.text().toStdString(), Contains("rated_torque")); });
  CHECK(w.session.library().find("coupling", "MY-1") == nullptr);
  shelf.type("Rated torque", "5 N.m");
  shelf.type("Smallest bore", "20 mm");
  shelf.type("Largest bore", "12 mm");
  CHECK_THAT(w.child<QLabel>("sheet_remarks")->text().toStdString(), Contains("above"));
  shelf.type("Smallest bore", "6");
  CHECK(shelf.shown("Smallest bore") == "6 mm"); // the unit typed last
  CHECK(w.child<QLabel>("sheet_remarks")->text() == "Nothing to remark on this sheet.");
  shelf.click("sheet_keep");
  REQUIRE(w.session.library().find("coupling", "MY-1") != nullptr);
  CHECK(w.session.library().find("coupling", "MY-1")->term("bore_min") == Approx(0.006));
  // renamed, it is the same part
  shelf.type("Part number", "MY-2");
  shelf.click("sheet_keep");
  CHECK(w.session.library().find("coupling", "MY-1") == nullptr);
  CHECK(w.session.library().find("coupling", "MY-2") != nullptr);
}

TEST_CASE("what was typed into a sheet is not lost by looking at another part") {
  Window w;
  Shelf shelf(w);
  shelf.click("sheet_new");
  shelf.type("Part number", "HALF-DONE");
  w.in_dialog<QMessageBox>(
      [&] { shelf.choose(2); },
      [](QMessageBox& box) { QTest::mouseClick(box.button(QMessageBox::Cancel), Qt::LeftButton); });
  CHECK(shelf.shown("Part number") == "HALF-DONE");
  // neither by turning to another view
  QTest::keyClick(&w.window, Qt::Key_1, Qt::ControlModifier);
  QTest::keyClick(&w.window, Qt::Key_9, Qt::ControlModifier);
  w.settle();
  CHECK(shelf.shown("Part number") == "HALF-DONE");
}

TEST_CASE("several libraries: added, ordered, turned off, bad lines are named and the rest is there") {
  Window w;
  Shelf shelf(w);
  QTemporaryDir one, two;
  write(one.filePath("couplings.csv"), "part_number,maker,price\nQ-1,X,1\nQ-2,X,two\nQ-3,X,3,4\n");
  write(two.filePath("couplings.csv"), "part_number,maker,price\nQ-1,X,10\n");
  shelf.view->add_source(one.path());
  w.settle();
  shelf.view->add_source(two.path());
  w.settle();
  auto* sources = w.child<QListWidget>("library_sources");
  REQUIRE(sources->count() == 4);
  CHECK(sources->item(1)->text().endsWith("  2"));
  const auto price = [&] { return w.session.library().find("coupling", "Q-1")->text("price"); };
  CHECK(price() == "10");
  auto* troubles = w.child<QListWidget>("library_troubles");
  REQUIRE(troubles->count() == 2);
  CHECK_THAT(troubles->item(0)->text().toStdString(), Contains("line 3") && Contains("price"));
  CHECK_THAT(troubles->item(1)->text().toStdString(), Contains("line 4"));
  sources->setCurrentRow(2);
  shelf.click("library_up");
  CHECK(price() == "1");
  sources->item(2)->setCheckState(Qt::Unchecked); // the one that counts now
  w.settle();
  CHECK(price() == "10");
  // the next start finds them again
  {
    Session again;
    REQUIRE_FALSE(again.load_data());
    again.jobs().wait();
    QApplication::processEvents();
    CHECK(again.part_sources().all().size() == 4);
    CHECK(again.library().find("coupling", "Q-1")->text("price") == "10");
  }
  sources->setCurrentRow(1);
  shelf.click("library_remove_source");
  CHECK(w.session.library().find("coupling", "Q-1") == nullptr);
  w.in_dialog<QMessageBox>(
      [&] { shelf.view->add_source(one.path()); },
      [](QMessageBox& box) { CHECK_THAT(box.text().toStdString(), Contains("already")); });
}

TEST_CASE("a foreign list is mapped once, and the next one of its layout is known") {
  Window w;
  Shelf shelf(w);
  QTemporaryDir folder;
  const std::string titles = "Bestellnr;Weight (g);Bore from;Bore to;Torque;Remark\n";
  write(folder.filePath("list.csv"), titles + "K1;30;3;8;1,5;a\nK2;45;4;10;x;b\n");
  write(folder.filePath("next.csv"), titles + "K3;30;3;8;1,5;a\n");
  shelf.click("library_coupling");
  w.in_dialog<ImportDialog>(
      [&] { shelf.view->import_list(folder.filePath("list.csv")); },
      [&](ImportDialog& dialog) {
        auto* take = dialog.findChild<QPushButton*>("import_take");
        CHECK_FALSE(take->isEnabled()); // nobody knows yet which one is the part number
        const auto means = [&](int column, const QString& field) {
          auto* box = dialog.findChild<QComboBox*>(QString("import_means_%1").arg(column));
          box->setCurrentIndex(box->findData(field));
        };
        means(0, "part_number");
        CHECK(dialog.findChild<QComboBox*>("import_means_1")->currentData().toString() == "mass"); // guessed
        means(2, "bore_min");
        means(3, "bore_max");
        means(4, "rated_torque");
        CHECK_THAT(dialog.findChild<QLabel*>("import_troubles")->text().toStdString(), Contains("unit"));
        for (const auto& [column, unit] : {std::pair{2, "mm"}, {3, "mm"}, {4, "N.m"}})
          QTest::keyClicks(dialog.findChild<QLineEdit*>(QString("import_unit_%1").arg(column)), unit);
        dialog.findChild<QCheckBox*>("import_comma")->setChecked(true);
        QTest::keyClicks(dialog.findChild<QLineEdit*>("import_maker"), "Lark (invented)");
        CHECK(dialog.parts().size() == 1);
        CHECK_THAT(dialog.findChild<QLabel*>("import_troubles")->text().toStdString(),
                   Contains("line 3") && Contains("Torque"));
        REQUIRE(take->isEnabled());
        QTest::mouseClick(take, Qt::LeftButton);
      });
  w.settle();
  const Section* part = w.session.library().find("coupling", "K1");
  REQUIRE(part != nullptr);
  CHECK(part->term("rated_torque") == Approx(1.5));
  CHECK(part->term("mass") == Approx(0.03));
  CHECK(part->text("source") == "list.csv, line 2");
  CHECK(shelf.shown("Part number") == "K1");
  shelf.click("library_motor"); // another kind is open: the layout tells which one it was
  w.in_dialog<ImportDialog>([&] { shelf.view->import_list(folder.filePath("next.csv")); },
                            [&](ImportDialog& dialog) {
                              CHECK(dialog.slot() == "coupling");
                              CHECK(dialog.parts().size() == 1);
                              QTest::mouseClick(dialog.findChild<QPushButton*>("import_take"),
                                                Qt::LeftButton);
                            });
  w.settle();
  CHECK(w.session.library().find("coupling", "K3")->text("maker") == "Lark (invented)");
}

TEST_CASE("a curve is clicked off a picture whose axes are marked by two points each") {
  Window w;
  Shelf shelf(w);
  QTemporaryDir folder;
  // pixels: 0 rpm at x = 50, 6000 rpm at x = 350; 0 N·m at y = 250, 2 N·m at y = 50
  QImage image(400, 300, QImage::Format_RGB32);
  image.fill(Qt::white);
  REQUIRE(image.save(folder.filePath("curve.png")));
  shelf.click("sheet_new");
  auto* points = w.child<QToolButton>("sheet_points_continuous_curve");
  REQUIRE(points != nullptr);
  w.in_dialog<CurveDialog>(
      [&] { QTest::mouseClick(points, Qt::LeftButton); },
      [&](CurveDialog& dialog) {
        PictureArea& picture = dialog.picture();
        CHECK_FALSE(picture.open(folder.filePath("nothing.png")));
        REQUIRE(picture.open(folder.filePath("curve.png")));
        const auto click = [&](double x, double y) {
          QTest::mouseClick(&picture, Qt::LeftButton, {}, picture.on_widget({x, y}).toPoint());
        };
        const auto value = [&](int mark, const char* text) {
          auto* line = dialog.findChild<QLineEdit*>(QString("curve_value_%1").arg(mark));
          line->selectAll();
          QTest::keyClicks(line, text);
        };
        CHECK_THAT(dialog.findChild<QLabel*>("curve_next")->text().toStdString(),
                   Contains("first mark along"));
        click(50, 250);
        value(0, "0 rpm");
        click(350, 250);
        value(1, "6000 rpm");
        click(50, 250);
        value(2, "0 N.m");
        click(50, 50);
        value(3, "2 N.m");
        click(200, 100); // 3000 rpm, 1.5 N·m
        click(50, 90);   // 0 rpm, 1.6 N·m
        auto* table = dialog.findChild<QTableWidget*>("curve_points");
        REQUIRE(table->rowCount() == 2);
        REQUIRE(dialog.findChild<QPushButton*>("curve_take")->isEnabled());
        QTest::mouseClick(dialog.findChild<QPushButton*>("curve_take"), Qt::LeftButton);
      });
  const auto curve =
      w.child<QWidget>("library_view")->findChild<PartSheet*>()->part().entry("continuous_curve").curve;
  REQUIRE(curve.size() == 2);
  // a pixel of the widget is some 10 rpm or 0.01 N·m
  CHECK(curve[0][0] == Approx(0.0).margin(3.0));
  CHECK(curve[0][1] == Approx(1.6).margin(0.02));
  CHECK(curve[1][0] == Approx(3000.0 * M_PI / 30.0).margin(3.0));
  CHECK(curve[1][1] == Approx(1.5).margin(0.02));
}

TEST_CASE("parts that are listed are written as a library, of one kind at a time") {
  Window w;
  Shelf shelf(w);
  QTemporaryDir folder;
  const std::string path = folder.filePath("brakes.csv").toStdString();
  CHECK_THAT(shelf.view->export_list(QString::fromStdString(path))->text(), Contains("several kinds"));
  for (int row = 0; row < shelf.rows(); ++row) // called as where a new part is begun
    CHECK(shelf.w.child<QComboBox>("sheet_new_kind")->findText(shelf.text(row, StoredModel::kind)) >= 0);
  shelf.click("library_brake");
  shelf.search("HB-0");
  const int listed = shelf.rows();
  REQUIRE(listed > 2);
  REQUIRE_FALSE(shelf.view->export_list(QString::fromStdString(path)));
  const Catalogue back = Catalogue::load({{path, "back"}});
  CHECK(back.troubles().empty());
  CHECK(back.of("brake").size() == static_cast<std::size_t>(listed));
}

TEST_CASE("an open sheet follows the look") {
  Window w;
  const Shelf shelf(w);
  shelf.table->selectRow(0);
  w.settle();
  REQUIRE(shelf.fields->rowCount() > 5);
  for (const bool dark : {true, false}) {
    w.window.set_dark(dark);
    w.settle();
    CHECK(shelf.fields->item(0, 0)->foreground().color() == theme().soft);
  }
}
