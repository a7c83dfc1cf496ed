// The smallest window that is promised: nothing that must be read is cut off.

#include "app/header/header_bar.hpp"
#include "app/widgets/field_row.hpp"
#include "window.hpp"

#include <QLabel>

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

void check_chips_readable(Window& w) {
  const auto all = chips(w);
  REQUIRE(all.size() == 5);
  for (const QToolButton* chip : all) {
    INFO(chip->text().toStdString());
    CHECK(chip->fontMetrics().horizontalAdvance(chip->text()) <= chip->width());
    CHECK(chip->geometry().right() < w.window.width());
  }
}

} // namespace

TEST_CASE("at 1024 × 700 every chip, label and value can be read") {
  Window w;
  w.window.resize(1024, 700);
  w.settle();
  REQUIRE(w.window.width() == 1024);
  for (std::size_t axis = 0; axis < w.session.document().axes.size(); ++axis) {
    w.session.select_axis(axis);
    w.settle();
    check_chips_readable(w);
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
  w.window.resize(1024, 700);
  w.settle();
  const QString narrow = chips(w)[0]->text();
  CHECK(chips(w)[0]->toolTip().contains("Picker: worst limit"));
  w.window.resize(1280, 800);
  w.settle();
  const QString wide = chips(w)[0]->text();
  CHECK(wide.size() > narrow.size());
  CHECK(wide.endsWith(" %"));
  check_chips_readable(w);
  // more axes than names fit: shortened, never cut in the middle of a figure
  w.session.edit("more", "", [](Document& d) {
    for (int i = 0; i < 3; ++i) d.axes.push_back(d.axes[2]);
  });
  w.settle();
  for (const QToolButton* chip : chips(w))
    CHECK(chip->fontMetrics().horizontalAdvance(chip->text()) <= chip->width());
}
