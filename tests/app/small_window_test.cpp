// The smallest window that is promised: nothing that must be read is cut off.

#include "app/givens/givens_panel.hpp"
#include "app/header/header_bar.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/views/sheet.hpp"
#include "app/views/view.hpp"
#include "app/widgets/field_row.hpp"
#include "app/widgets/kept_text.hpp"
#include "window.hpp"

#include "app/sheet/plot.hpp"
#include "core/library/part_library.hpp"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QToolButton>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

std::vector<QToolButton*> chips(Window& w) {
  std::vector<QToolButton*> all;
  for (auto* button : w.window.findChildren<QToolButton*>())
    if (button->property("role") == "chip" && button->objectName().startsWith("axis_")) all.push_back(button);
  return all;
}

/// As many axes as have room at 1280 pixels.
void keep_five_axes(Window& w) {
  w.session.edit("five", "", [](Document& d) { d.axes.erase(d.axes.begin() + 5, d.axes.end()); });
  w.settle();
}

/// As many of them as are visible are wide enough.
void check_chips_readable(Window& w, std::size_t visible) {
  auto all = chips(w);
  std::erase_if(all, [](const QToolButton* chip) { return !chip->isVisible(); });
  REQUIRE(all.size() == visible);
  for (const QToolButton* chip : all) {
    INFO(chip->text().toStdString());
    CHECK(chip->fontMetrics().horizontalAdvance(chip->text()) <= chip->width());
    CHECK(chip->geometry().right() < w.window.width());
  }
}

} // namespace

TEST_CASE("at 1024 × 700 every chip, label and value can be read") {
  Window w;
  keep_five_axes(w);
  w.window.resize(1024, 700);
  w.settle();
  REQUIRE(w.window.width() == 1024);
  for (std::size_t axis = 0; axis < w.session.document().axes.size(); ++axis) {
    w.session.select_axis(axis);
    w.settle();
    check_chips_readable(w, 5);
    int seen = 0;
    for (const FieldRow* row : w.window.findChildren<FieldRow*>()) {
      if (!row->isVisible()) continue;
      if (const auto* line = row->findChild<QLineEdit*>()) {
        INFO(line->text().toStdString());
        constexpr int frame = 10;
        CHECK(line->fontMetrics().horizontalAdvance(line->text()) + frame <= line->width());
        ++seen;
      }
    }
    CHECK(seen > 5);
  }
}

TEST_CASE("chips say more where there is room, and always all of it in the tool tip") {
  Window w;
  keep_five_axes(w);
  w.window.resize(1024, 700);
  w.settle();
  const QString narrow = chips(w)[0]->text();
  CHECK(chips(w)[0]->toolTip().contains("Picker: worst limit"));
  w.window.resize(1280, 800);
  w.settle();
  const QString wide = chips(w)[0]->text();
  CHECK(wide.size() > narrow.size());
  CHECK(wide.endsWith(" %"));
  check_chips_readable(w, 5);
  // more axes than names fit: shortened, never cut in the middle of a figure
  w.session.edit("more", "", [](Document& d) {
    for (int i = 0; i < 3; ++i) d.axes.push_back(d.axes[2]);
  });
  w.settle();
  for (const QToolButton* chip : chips(w))
    CHECK(chip->fontMetrics().horizontalAdvance(chip->text()) <= chip->width());
}

TEST_CASE("the names of the views can be read at 1024 × 700 in both themes") {
  Window w;
  w.window.resize(1024, 700);
  w.settle();
  for (const bool dark : {false, true, false}) {
    w.window.set_dark(dark);
    w.settle();
    int seen = 0;
    for (const QToolButton* word : w.child<QWidget>("view_switch")->findChildren<QToolButton*>()) {
      INFO(word->text().toStdString() << (dark ? ", dark" : ""));
      CHECK(word->fontMetrics().horizontalAdvance(word->text()) <= word->width());
      ++seen;
    }
    CHECK(seen > 6);
  }
}

TEST_CASE("where not all axes have room, those that are shown are shown by their names") {
  Window w;
  w.window.resize(1024, 700);
  w.settle();
  for (const std::size_t axis : {0, 3, 6}) {
    w.session.select_axis(axis);
    w.settle();
    CHECK(w.child<QToolButton>("all_axes")->isVisible());
    int shown = 0;
    bool present = false;
    for (std::size_t i = 0; i < w.session.document().axes.size(); ++i) {
      const auto* chip = w.child<QToolButton>(QString("axis_%1").arg(i));
      if (!chip->isVisible()) continue;
      ++shown;
      present = present || i == axis;
      CHECK(chip->text().startsWith(QString::fromStdString(w.session.document().axes[i].name)));
    }
    CHECK(present);
    CHECK(shown >= 3);
    check_chips_readable(w, static_cast<std::size_t>(shown));
  }
  // a name that would take the room of the others ends with an ellipsis
  w.session.edit("long", "", [](Document& d) { d.axes[6].name = "Brush of the second table, left side"; });
  w.settle();
  CHECK(w.child<QToolButton>("axis_6")->text().startsWith("Brush of the …"));
  check_chips_readable(w, 4);
}

TEST_CASE("in a narrow window what follows from the others is told in full, and lines end with an ellipsis") {
  Window w;
  w.window.resize(1024, 700);
  w.session.select_axis(6);
  w.settle();
  int hints = 0;
  for (const FieldRow* row : w.window.findChildren<FieldRow*>()) {
    const auto* line = row->findChild<QLineEdit*>();
    if (!row->isVisible() || line == nullptr || line->placeholderText().isEmpty()) continue;
    INFO(line->placeholderText().toStdString());
    constexpr int frame = 10;
    CHECK(line->fontMetrics().horizontalAdvance(line->placeholderText()) + frame <= line->width());
    ++hints;
  }
  CHECK(hints > 1);
  const auto* move = w.child<QPushButton>("cycle_line_0");
  CHECK(move->toolTip().contains("12 rev in 1.5 s"));
}

TEST_CASE(
    "in a narrow window a value is shown whole, else from its beginning: no number loses its first digits") {
  Window w;
  w.window.resize(1024, 700);
  w.session.type("load", "friction", "0.0105 ±12.5%");
  w.session.type("load", "moved_mass", "12.3456 kg ±12.5%");
  w.session.type("load", "seal_drag", "8.123456789012345678901234567 N");
  w.settle();
  const auto line = [&](const QString& name) {
    return w.child<GivensPanel>("givens")->findChild<QLineEdit*>(name);
  };
  constexpr int margins = 12;
  for (const char* name : {"friction", "moved_mass"}) {
    INFO(name);
    CHECK(line(name)->fontMetrics().horizontalAdvance(line(name)->text()) + margins <= line(name)->width());
  }
  CHECK(line("seal_drag")->fontMetrics().horizontalAdvance(line("seal_drag")->text()) >
        line("seal_drag")->width());
  CHECK(line("seal_drag")->cursorPosition() == 0);
  // typed in it follows the cursor, left it shows its beginning again
  w.type("load.seal_drag", "9.123456789012345678901234567 N");
  CHECK(line("seal_drag")->cursorPosition() > 20);
  w.field("load.moved_mass");
  CHECK(line("seal_drag")->cursorPosition() == 0);
}

TEST_CASE("in a narrow window the line of a usual segment tells all of it") {
  Window w;
  w.window.resize(1024, 700);
  for (const std::size_t axis : {0U, 3U, 6U}) {
    w.session.select_axis(axis);
    w.settle();
    for (std::size_t i = 0; i < w.session.axis().cycle.size(); ++i) {
      auto* line = w.window.findChild<QPushButton*>("cycle_line_" + QString::number(i));
      REQUIRE(line != nullptr);
      INFO(axis << " " << line->text().toStdString());
      CHECK(line->fontMetrics().horizontalAdvance(line->text()) + 4 <= line->width());
    }
  }
}

TEST_CASE("at 1024 × 700 what is chosen and what the colours stand for can be read") {
  Window w;
  w.window.resize(1024, 700);
  int chosen = 0, names = 0;
  for (std::size_t axis = 0; axis < w.session.document().axes.size(); ++axis) {
    w.session.select_axis(axis);
    for (const char* path : {"mechanism.kind", "drive.current_setting", "cycle[0].law"}) {
      emit w.session.input_requested(path);
      w.settle();
      for (const QComboBox* box : w.child<QWidget>("givens")->findChildren<QComboBox*>()) {
        if (!box->isVisible()) continue;
        INFO(box->currentText().toStdString());
        constexpr int arrow = 36;
        CHECK(box->fontMetrics().horizontalAdvance(box->currentText()) + arrow <= box->width());
        ++chosen;
      }
    }
    for (const Plot* plot : w.window.findChildren<Plot*>())
      for (const Plot::Name& name : plot->names()) {
        if (!plot->isVisible()) continue;
        INFO(name.text.toStdString());
        constexpr int around = 16, beside = 21;
        CHECK(line_width(name.text, face(-2)) + beside <= (plot->width() - around) / plot->names_a_row());
        ++names;
      }
  }
  CHECK(chosen > 20);
  CHECK(names > 20);
  // also what is chosen by hand
  w.session.select_axis(0);
  emit w.session.input_requested("cycle[0].law");
  w.settle();
  auto* law = qobject_cast<QComboBox*>(w.window.focusWidget());
  REQUIRE(law != nullptr);
  const int before = law->width();
  QTest::keyClicks(law, "Modified s");
  w.settle();
  CHECK(law->currentText() == "Modified sine");
  CHECK(law->width() > before);
}

TEST_CASE("an axis's chip tells its worst limit after every edit") {
  Window w;
  std::set<QString> told;
  for (const char* mass : {"6 kg", "20 kg", "22 kg", "24 kg", "6 kg"}) {
    w.type("load.moved_mass", mass);
    const double used = w.session.worst_used(0);
    const QString tip = chips(w).front()->toolTip();
    INFO(mass << ": " << tip.toStdString() << ", " << used);
    CHECK(tip.contains(QString(" %1 %").arg(std::min(100.0 * used, 999.0), 0, 'f', 0)));
    told.insert(tip);
  }
  CHECK(told.size() >= 3);
}

TEST_CASE("an axis of which something is not judged has no chip that says clear") {
  Window w;
  const auto* chip = chips(w)[0];
  REQUIRE(chip->text().contains("✓"));
  const QString tip = chip->toolTip();
  const auto bus = w.session.axis()["surroundings"].text("shared_bus");
  w.session.type("surroundings", "shared_bus", "49V");
  w.settle();
  CHECK_FALSE(chip->text().contains("✓"));
  CHECK(chip->text().contains("–"));
  CHECK(chip->toolTip() == tip + "\nsupply not judged: no bus is called “49V”");
  w.session.select_axis(1); // of another axis it is told too
  w.settle();
  CHECK_FALSE(chip->text().contains("✓"));
  w.session.select_axis(0);
  w.session.type("surroundings", "shared_bus", qt(bus));
  w.session.type("surroundings", "brake_bus", "25 V");
  w.settle();
  CHECK_FALSE(chip->text().contains("✓"));
  CHECK(chip->toolTip() == tip + "\nsupply of the brake not judged: no bus is called “25 V”");
  w.session.undo();
  w.settle();
  CHECK(chip->text().contains("✓"));
  w.session.type("drive", "peak_current", "");
  w.settle();
  CHECK_FALSE(chip->text().contains("✓"));
  CHECK(chip->toolTip().contains(" not judged"));
  CHECK(chip->toolTip().contains("worst limit")); // of those that are
}

TEST_CASE("of many axes those near the present one have a chip, and a list has all") {
  Window w;
  keep_five_axes(w);
  w.session.edit("more", "", [](Document& d) {
    while (d.axes.size() < 40) {
      d.axes.push_back(d.axes[2]);
      d.axes.back().name = "Axis " + std::to_string(d.axes.size());
    }
  });
  const auto seen = [&](int axis) { return chips(w)[static_cast<std::size_t>(axis)]->isVisible(); };
  w.settle();
  CHECK(seen(0));
  CHECK(seen(1));
  CHECK_FALSE(seen(39));
  for (const QToolButton* chip : chips(w)) {
    if (!chip->isVisible()) continue;
    CHECK(chip->fontMetrics().horizontalAdvance(chip->text()) <= chip->width());
    CHECK(chip->geometry().right() < w.window.width());
  }
  auto* all = w.child<QToolButton>("all_axes");
  REQUIRE(all->isVisible());
  CHECK(all->text() == "all 40 ▾");
  emit all->menu()->aboutToShow();
  REQUIRE(all->menu()->actions().size() == 40);
  CHECK(all->menu()->actions()[19]->text().contains("Axis 20: worst limit"));
  all->menu()->actions()[19]->trigger();
  w.settle();
  CHECK(w.session.axis().name == "Axis 20");
  CHECK(seen(19));
  CHECK(seen(18));
  CHECK(seen(20));
  CHECK_FALSE(seen(0));
  w.session.undo(); // back to the five of the demo
  w.settle();
  CHECK_FALSE(all->isVisible());
  check_chips_readable(w, 5);
}

TEST_CASE("in a low window rows keep apart and the torque parts keep room for their course") {
  Window w;
  w.window.resize(1024, 640);
  w.settle();
  auto* plot = w.child<Plot>("stack_plot");
  CHECK(plot->axisRect()->height() > 40);
  CHECK(plot->axisRect()->width() > plot->width() / 2);
  CHECK(plot->names().empty());
  CHECK(w.child<QWidget>("torque_stack")->toolTip().contains("Gravity"));
  const auto* shares = w.child<QWidget>("inertia_shares");
  const auto rows = static_cast<int>(w.session.evaluation()->demand.inertia.size());
  CHECK(shares->height() >= 15 * rows + 28);
  w.window.resize(1280, 800);
  w.settle();
  CHECK(plot->names().size() > 4);
}

TEST_CASE("in a low window the picture of the load gives way, and nothing lies upon anything") {
  Window w;
  w.session.select_axis(3); // the table: three pieces
  w.child<QToolButton>("study_load")->click();
  const auto* page = w.child<QWidget>("load_page");
  for (const int height : {800, 700, 640}) {
    w.window.resize(1024, height);
    w.settle();
    QRect above;
    for (const QObject* child : page->children()) {
      const auto* part = qobject_cast<const QWidget*>(child);
      if (part == nullptr || !part->isVisible()) continue;
      CAPTURE(height, part->objectName().toStdString());
      CHECK(part->height() > 12);
      CHECK(part->y() >= above.bottom());
      CHECK(page->rect().contains(part->geometry()));
      above = part->geometry();
    }
    for (const char* name : {"piece_table", "chain_table"}) {
      const auto* table = w.child<QTableWidget>(name);
      CAPTURE(name);
      CHECK(table->viewport()->height() >= 2 * table->rowHeight(0));
    }
  }
}

TEST_CASE("in a narrow window the sheet of a part has room for its values, and every kind of part a word") {
  Window w;
  w.window.sheet()->show_view("library");
  for (const int width : {1280, 1024, 1280}) {
    w.window.resize(width, 700);
    w.settle();
    const auto* sheet = w.child<QTableWidget>("sheet_fields");
    const QString maker = "Bramhill (invented)";
    CAPTURE(width);
    CHECK(sheet->item(1, 1)->text() == maker);
    CHECK(sheet->fontMetrics().horizontalAdvance(maker) < sheet->columnWidth(1));
    const auto* motor = w.child<QToolButton>("library_motor");
    for (const SlotSpec* slot : part_slots()) {
      const auto* word = w.child<QToolButton>("library_" + qt(slot->id));
      CHECK(word->width() >= word->sizeHint().width());
      CHECK(word->parentWidget()->rect().contains(word->geometry()));
      if (width == 1280) CHECK(word->y() == motor->y());
    }
  }
}

TEST_CASE("the words of all views are whole in a narrow window, and as large as ever in a wide one") {
  Window w;
  for (const auto& [width, height] : {std::pair{1024, 700}, {1280, 800}, {1024, 700}}) {
    w.window.resize(width, height);
    w.settle();
    for (const ViewSpec& view : view_specs()) {
      const auto* word = w.child<QToolButton>("view_" + qt(view.id));
      CAPTURE(width, word->text().toStdString());
      CHECK(word->fontMetrics().horizontalAdvance(word->text()) < word->width());
      CHECK(word->geometry().right() <= word->parentWidget()->width());
      if (width == 1280) CHECK(word->font().pixelSize() == face(0).pixelSize());
    }
  }
}
