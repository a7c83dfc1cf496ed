// The list of parts in the sheet: each part tried at once, beside the window, and why one does not fit.

#include "app/ladder/ladder_panel.hpp"
#include "app/parts/parts_view.hpp"
#include "app/views/sheet.hpp"
#include "app/window.hpp"

#include <QLabel>
#include <QTableView>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

/// The list, opened like a user does.
struct List {
  explicit List(Window& window, const QString& slot, const QString& field) : w(window) {
    w.field(slot + "." + field);
    QTest::mouseClick(w.child<QToolButton>("choose_" + slot), Qt::LeftButton);
    done();
    search = w.child<QLineEdit>("part_search");
    table = w.child<QTableView>("part_table");
    REQUIRE(table->isVisible());
  }
  /// Waits until all parts are tried.
  void done() {
    w.session.jobs().wait();
    w.settle();
  }
  [[nodiscard]] QString text(int row, int column) const {
    return table->model()->index(row, column).data().toString();
  }
  [[nodiscard]] QString tip(int row) const {
    return table->model()->index(row, 1).data(Qt::ToolTipRole).toString();
  }
  [[nodiscard]] int rows() const { return table->model()->rowCount(); }
  void press(int button) const { QTest::keyClick(search, static_cast<Qt::Key>(button)); }

  Window& w;
  QLineEdit* search = nullptr;
  QTableView* table = nullptr;
};

std::string motor(const Window& w) { return w.session.axis()["motor"].text("part_number"); }

} // namespace

TEST_CASE("going through the parts tries each at once, and Escape takes it back") {
  Window w;
  const QString before = w.number("Inertia ratio");
  const std::string part = motor(w);
  {
    List list(w, "motor", "kt");
    CHECK(w.window.sheet()->shown().id == "parts");
    QTest::keyClicks(list.search, "CR60-0200-048");
    list.press(Qt::Key_Down);
    w.settle();
    CHECK(motor(w) == "CR60-0200-048L"); // with plane and ladder in sight
    CHECK(w.child<QWidget>("parts_view")->findChild<QWidget*>("torque_plane")->isVisible());
    CHECK(w.child<QListWidget>("ladder")->isVisible());
    CHECK(w.child<QLabel>("parts_note")->text().contains(QString::fromStdString(part)));
    list.press(Qt::Key_Escape);
  }
  w.settle();
  CHECK(w.window.sheet()->shown().id == "axis"); // where one came from
  CHECK(motor(w) == part);
  CHECK(w.number("Inertia ratio") == before);
  CHECK_FALSE(w.session.history().can_undo());
}

TEST_CASE("Enter takes a part, as one step that can be undone") {
  Window w;
  const QString before = w.number("Inertia ratio");
  {
    List list(w, "motor", "kt");
    list.press(Qt::Key_Down); // some others on the way
    list.press(Qt::Key_Down);
    QTest::keyClicks(list.search, "CR60-0200-048");
    list.table->setCurrentIndex(list.table->model()->index(0, 0));
    list.press(Qt::Key_Return);
  }
  w.settle();
  CHECK(motor(w) == "CR60-0200-048L");
  CHECK(w.session.history().undo_name() == "Choose motor CR60-0200-048L");
  CHECK(w.number("Inertia ratio") != before);
  w.session.undo();
  CHECK_FALSE(w.session.history().can_undo());

  List list(w, "drive", "peak_current");
  list.table->setCurrentIndex(list.table->model()->index(0, 0));
  QTest::mouseClick(w.child<QPushButton>("parts_take"), Qt::LeftButton);
  CHECK(w.session.axis()["drive"].text("part_number").starts_with("EL48-")); // the tightest that fits
  CHECK_FALSE(w.session.worst_used(0) > 1.0);
  List again(w, "drive", "peak_current");
  QTest::mouseClick(w.child<QPushButton>("parts_none"), Qt::LeftButton);
  CHECK(w.session.axis()["drive"].all_blank());
}

TEST_CASE("the parts are ordered by fit, say why one does not, and are walked through while typing") {
  Window w;
  List list(w, "motor", "kt");
  int fitting = 0;
  while (!list.text(fitting, 1).startsWith("✕") && list.text(fitting, 1) != "–") ++fitting;
  REQUIRE(fitting > 2);
  for (int row = 1; row < fitting; ++row) // the tightest fit first
    CHECK(list.text(row - 1, 1).section(' ', 0, 0).toInt() >= list.text(row, 1).section(' ', 0, 0).toInt());
  for (int row = fitting; row < list.rows(); ++row) {
    CHECK((list.text(row, 1).startsWith("✕") || list.text(row, 1) == "–"));
    CHECK_FALSE(list.text(row, 2).isEmpty()); // the limit that it breaks
  }
  CHECK(list.tip(0).startsWith("Fits. Its worst limit: "));
  CHECK(list.tip(fitting).startsWith("Does not fit:"));
  // what the list says is what the axis has with the part
  list.table->setCurrentIndex(list.table->model()->index(fitting, 0));
  w.settle();
  const QString label = list.text(fitting, 2).section(" +", 0, 0);
  CHECK(w.rung(label).startsWith("over, " + list.text(fitting, 1).mid(2)));
  QTest::keyClicks(list.search, "VK60");
  const int count = list.rows();
  CHECK(count > 1);
  for (int row = 0; row < count; ++row) CHECK(list.text(row, 0).startsWith("VK60"));
  list.table->setCurrentIndex({});
  list.press(Qt::Key_Down);
  const QString first = list.text(list.table->currentIndex().row(), 0);
  CHECK(motor(w) == first.toStdString());
  list.press(Qt::Key_Down);
  CHECK(list.text(list.table->currentIndex().row(), 0) != first);
  CHECK(list.search->text() == "VK60");
  // sorted by something else, the search still holds and the same part stays chosen
  const QString chosen = QString::fromStdString(motor(w));
  list.table->sortByColumn(0, Qt::DescendingOrder);
  CHECK(list.rows() == count);
  CHECK(list.text(list.table->currentIndex().row(), 0) == chosen);
  for (int row = 1; row < count; ++row) CHECK(list.text(row - 1, 0) >= list.text(row, 0));
}

TEST_CASE("the list follows the axis, the rules and the slot, but not what it puts in itself") {
  Window w;
  List list(w, "motor", "kt");
  const auto used_of = [&](const QString& part) {
    for (int row = 0; row < list.rows(); ++row)
      if (list.text(row, 0) == part) return list.text(row, 1);
    return QString();
  };
  const QString before = used_of("CR60-0200-048L");
  CHECK_FALSE(before.isEmpty());
  list.press(Qt::Key_Down);
  CHECK_FALSE(w.session.jobs().running("parts")); // the others do not depend on what is in the slot
  w.session.type("load", "moved_mass", "20 kg");
  CHECK(w.session.jobs().running("parts"));
  CHECK(used_of("CR60-0200-048L") == "…");
  list.done();
  CHECK(used_of("CR60-0200-048L") != before);
  w.session.undo();
  list.done();
  CHECK(used_of("CR60-0200-048L") == before);
  QTest::mouseClick(w.child<QToolButton>("parts_gearhead"), Qt::LeftButton);
  list.done();
  CHECK(list.rows() == static_cast<int>(w.session.library().of("gearhead").size()));
  // another view: nothing is tried for nobody
  QTest::keyClick(&w.window, Qt::Key_1, Qt::ControlModifier);
  CHECK(w.window.sheet()->shown().id == "axis");
  w.session.type("load", "moved_mass", "21 kg");
  CHECK_FALSE(w.session.jobs().running("parts"));
  QTest::keyClick(&w.window, Qt::Key_2, Qt::ControlModifier);
  CHECK(w.session.jobs().running("parts"));
  QTest::mouseClick(w.child<QToolButton>("parts_stop"), Qt::LeftButton);
  CHECK_FALSE(w.session.jobs().running("parts"));
}

TEST_CASE("Escape never puts the part of one axis into another, though they have the same name") {
  Window w;
  w.session.edit("Same names", "", [](Document& d) {
    for (Axis& axis : d.axes) axis.name = "Axis";
  });
  const std::string other = w.session.document().axes[1]["motor"].text("part_number");
  REQUIRE(other != motor(w));
  List list(w, "motor", "kt");
  list.press(Qt::Key_Down);
  w.session.select_axis(1);
  list.done();
  list.press(Qt::Key_Escape);
  w.settle();
  CHECK(motor(w) == other);
}

TEST_CASE("a list of thousands of parts comes in beside the window") {
  Window w;
  Parts parts;
  const Parts& few = w.session.library().of("motor");
  for (std::size_t i = 0; i < 5000; ++i) {
    parts.push_back(few[i % few.size()]);
    parts.back().type("part_number", "M-" + std::to_string(10000 + i));
  }
  PartModel model;
  model.show(parts, kind_in(motor_slot(), w.session.axis()["motor"]), UnitSet::si);
  CHECK(model.rowCount() == 5000);
  CHECK(model.index(0, PartModel::used_column).data() == "…");
  PartModel::Tried tried;
  for (std::size_t i = 0; i < 5000; ++i) {
    PartFit fit;
    fit.used = 0.001 * static_cast<double>((i * 7919) % 1500);
    tried.emplace_back(i, fit);
  }
  model.take(tried);
  double last = 1.1;
  for (int row = 0; row < 5000; ++row) {
    const double used = tried[model.place(row)].second.used;
    CHECK((used > 1.0 || used <= last)); // falling among those that fit
    if (used <= 1.0) last = used;
  }
  model.search("M-1234");
  CHECK(model.rowCount() == 10);
  CHECK(model.row_of(2345) >= 0);
  CHECK(model.row_of(1) == -1);
}
