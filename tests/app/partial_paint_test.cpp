// What is repainted in part looks like all of it painted anew.

#include "app/sheet/plot.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"
#include "core/evaluation/evaluation.hpp"
#include "window.hpp"

#include <QBackingStore>
#include <QPainter>

#include <algorithm>
#include <iterator>
#include <random>
#include <set>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

/// Where the screen shows something else than the window painted whole; empty where nothing.
QRect differing(Window& w) {
  w.settle();
  // what is kept of the window between two paints: the same at every scale
  const auto* kept = dynamic_cast<const QImage*>(w.window.backingStore()->paintDevice());
  REQUIRE(kept != nullptr);
  const QImage seen = kept->copy();
  const QImage whole = w.window.grab().toImage().convertToFormat(seen.format());
  REQUIRE(seen.size() == whole.size());
  QRect box;
  for (int y = 0; y < seen.height(); ++y)
    for (int x = 0; x < seen.width(); ++x)
      if (seen.pixel(x, y) != whole.pixel(x, y)) box |= QRect(x, y, 1, 1);
  return box;
}

/// The columns of a plot that are of the cursor's ink from top to bottom.
std::vector<int> upright_lines(const Plot* plot) {
  const QImage image = const_cast<Plot*>(plot)->grab().toImage();
  const QRect area = plot->axisRect()->rect();
  std::vector<int> found;
  for (int x = area.left() + 2; x < area.right() - 1; ++x) {
    bool whole = true;
    for (int y = area.top() + 1; y < area.bottom(); ++y) whole &= image.pixelColor(x, y) == theme().ink;
    if (whole) found.push_back(x);
  }
  return found;
}

/// One line of text, drawn as everywhere in the window.
class Line : public QWidget {
public:
  using QWidget::QWidget;

protected:
  void paintEvent(QPaintEvent*) override {
    QPainter painter(this);
    draw_line(painter, rect(), Qt::AlignLeft | Qt::AlignVCenter, "Peak torque", face());
  }
};

/// How many pixels of a part of a picture are not as its corner.
int inked(const QImage& image, const QRect& part) {
  int number = 0;
  for (int y = part.top(); y <= part.bottom(); ++y)
    for (int x = part.left(); x <= part.right(); ++x)
      number += image.pixel(x, y) != image.pixel(0, 0) ? 1 : 0;
  return number;
}

} // namespace

TEST_CASE(
    "a text is drawn wherever in a window its widget lies, and nothing of it where nothing is painted") {
  QWidget window;
  window.resize(400, 300);
  auto* line = new Line(&window);
  line->setGeometry(250, 220, 140, 30);
  const QImage whole = window.grab().toImage();
  const double scale = whole.devicePixelRatio();
  const QRect place = QRectF(250 * scale, 220 * scale, 140 * scale, 30 * scale).toRect();
  CHECK(inked(whole, place) > 100);
  CHECK(inked(whole, whole.rect()) == inked(whole, place));
  // the left half of it alone
  QImage half(whole.size(), whole.format());
  half.setDevicePixelRatio(scale);
  half.fill(whole.pixel(0, 0));
  window.render(&half, {}, QRegion(0, 0, 280, 300), QWidget::DrawChildren);
  const QRect left = QRectF(250 * scale, 220 * scale, 30 * scale, 30 * scale).toRect();
  CHECK(inked(half, left) == inked(whole, left));
  CHECK(inked(half, half.rect()) == inked(half, left));
}

TEST_CASE("after any edit the screen shows what painting all of it would show") {
  QApplication::setCursorFlashTime(0);
  Window w;
  w.window.resize(1280, 800);
  REQUIRE(differing(w).isEmpty());
  const auto same_after = [&](const std::string& what) {
    INFO(what);
    const QRect box = differing(w);
    INFO("differs at " << box.x() << ", " << box.y() << ", " << box.width() << " × " << box.height());
    CHECK(box.isEmpty());
  };
  std::mt19937 random(20);
  std::uniform_real_distribution<double> factor(0.3, 2.0);
  for (int i = 0; i < 6; ++i) {
    w.type("load.moved_mass", QString("%1 kg").arg(6.0 * factor(random), 0, 'g', 3));
    same_after("mass");
  }
  for (const char* mass :
       {"13 kg", "13.04 kg", "13.08 kg", "13.12 kg"}) { // shares of full rungs move a little
    w.type("load.moved_mass", mass);
    same_after(mass);
  }
  w.type("mechanism.lead", QString("%1 mm").arg(20.0 * factor(random), 0, 'g', 3));
  same_after("lead");
  w.type("load.moved_mass", "6 lb/in"); // the last good results in another ink
  same_after("stale");
  w.type("load.moved_mass", "6.2 kg");
  same_after("good again");
  const auto without = [&](std::string_view slot) { // its inertia goes, and all rows below move up
    w.session.edit("Without " + QString(slot.data()), "", [&](Document& document) {
      document.axes[0][slot] = Section(document.axes[0][slot].spec());
      document.axes[0][slot].path = slot;
    });
    w.settle();
    same_after(std::string("without ") + slot.data());
    w.session.undo();
    w.settle();
    same_after(std::string("again with ") + slot.data());
  };
  without("coupling");
  without("brake");
  const double end = w.session.evaluation()->model->load->cycle.duration;
  for (const double at : {0.31, 0.32, 0.77, 0.05}) {
    w.session.set_cursor(at * end);
    same_after("cursor");
  }
  w.window.set_dark(true);
  same_after("dark");
  w.session.set_cursor(0.6 * end);
  w.session.undo();
  same_after("undone in the dark");
  w.window.set_dark(false);
  w.session.select_axis(1);
  same_after("another axis");
  w.session.select_axis(0);
  w.window.resize(1024, 700);
  same_after("a smaller window");
  w.type("load.moved_mass", "11.7 kg");
  same_after("mass in a smaller window");
}

TEST_CASE("the cursor is one upright line at its time") {
  Window w;
  const auto* plot = w.child<Plot>("stack_plot");
  const double end = w.session.evaluation()->model->load->cycle.duration;
  for (const double at : {0.2, 0.5, 0.9}) {
    w.session.set_cursor(at * end);
    w.settle();
    const std::vector<int> lines = upright_lines(plot);
    REQUIRE(lines.size() == 1);
    CHECK(std::abs(lines[0] - plot->xAxis->coordToPixel(at * end)) < 1.5);
  }
  const auto* plane = w.child<Plot>("plane_plot");
  CHECK(plane->cursor() == Plot::Cursor::ring);
  CHECK(plane->cursor_at().x() == Approx(std::abs(w.session.at_cursor().speed) * 60.0 / (2.0 * M_PI)));
}

TEST_CASE(
    "the ribbon draws the motion anew where it belongs to another cycle, and keeps it where it does not") {
  Window w;
  auto* ribbon = w.child<Ribbon>("ribbon");
  ribbon->set_shown(Ribbon::TraceKind::torque, false);
  const auto trace = [&] { // places in the trace's colour
    w.settle();
    const QImage image = ribbon->grab().toImage();
    std::set<std::pair<int, int>> places;
    for (int x = 230; x < image.width(); ++x)
      for (int y = 14; y < 110; ++y)
        if (image.pixelColor(x, y) == theme().accent) places.emplace(x, y);
    return places;
  };
  const auto differ = [](const std::set<std::pair<int, int>>& a, const std::set<std::pair<int, int>>& b) {
    std::vector<std::pair<int, int>> all;
    std::set_symmetric_difference(a.begin(), a.end(), b.begin(), b.end(), std::back_inserter(all));
    return all.size();
  };
  const auto moves = trace();
  CHECK(moves.size() > 100);
  w.type("mechanism.lead",
         "5 kg"); // nothing to be worked out: what is shown belongs to what was typed before
  CHECK(trace().empty());
  w.type("mechanism.lead", "20 mm");
  CHECK(differ(trace(), moves) < 20); // drawn from other samples
  const std::string move = w.session.axis().cycle.front().path;
  w.session.what_if(move + ".time", 0.9);
  CHECK(differ(trace(), moves) > 100);
  w.session.what_if(move + ".time", std::nullopt);
  CHECK(differ(trace(), moves) < 20);
  // the same distance and time, told in the same words, made otherwise
  w.session.type(move, "acceleration_share", "0.48");
  CHECK(differ(trace(), moves) > 50);
}
