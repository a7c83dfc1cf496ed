// Pictures of a machine's power and voltage: drawn anew where something changed, no peak lost on the way.

#include "app/machine/column_stack.hpp"
#include "app/machine/thinned.hpp"
#include "app/machine/time_step.hpp"
#include "app/machine_window.hpp"
#include "app/sheet/plot.hpp"
#include "app/theme/theme.hpp"
#include "core/motion/segments.hpp"

#include <QCheckBox>

#include <cmath>
#include <random>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

TEST_CASE("the lower plot tells whether it starts at switch-on") {
  MachineWindow w;
  w.run();
  auto* plot = w.child<Plot>("machine_volts");
  CHECK(plot->title() == "Voltage of the bus");
  QTest::mouseClick(w.child<QCheckBox>("machine_start"), Qt::LeftButton, {}, QPoint(8, 8));
  w.settle();
  CHECK(plot->title() == "Voltage from switch-on");
  QTest::mouseClick(w.child<QCheckBox>("machine_start"), Qt::LeftButton, {}, QPoint(8, 8));
  w.settle();
  CHECK(plot->title() == "Voltage of the bus");
}

TEST_CASE("a curve thinned for its picture keeps every peak, both ends and its order") {
  constexpr int count = 100'000, columns = 400;
  QVector<double> x, y;
  for (int i = 0; i < count; ++i) {
    x << i;
    y << (i % 7919 == 13 ? 50.0 + i : i % 7907 == 11 ? -50.0 - i : std::sin(0.01 * i));
  }
  QVector<double> thin_x = x, thin_y = y;
  thin(thin_x, thin_y, columns);
  REQUIRE(thin_x.size() == thin_y.size());
  CHECK(thin_x.size() <= 2 * columns + 4);
  CHECK(std::is_sorted(thin_x.begin(), thin_x.end()));
  CHECK(thin_x.front() == x.front());
  CHECK(thin_x.back() == x.back());
  for (int i = 13; i < count; i += 7919) CHECK(thin_y.contains(50.0 + i));
  for (int i = 11; i < count; i += 7907) CHECK(thin_y.contains(-50.0 - i));
  for (qsizetype i = 0; i < thin_x.size(); ++i) CHECK(thin_y[i] == y[static_cast<qsizetype>(thin_x[i])]);
  QVector<double> few{0.0, 1.0, 2.0}, of_few{3.0, 1.0, 2.0};
  thin(few, of_few, columns);
  CHECK(few.size() == 3);
}

TEST_CASE("power and voltage are drawn anew for another bus, another edit and another theme") {
  MachineWindow w;
  auto* power = w.child<Plot>("machine_power");
  auto* volts = w.child<Plot>("machine_volts");
  const auto sum = [&] { return power->graph(power->graphCount() - 1); };
  const auto peak = [&] {
    bool found = false;
    return sum()->data()->valueRange(found).upper;
  };
  const double before = peak();
  REQUIRE(volts->graphCount() > 0);
  for (const Plot* plot : {power, volts}) { // the cursor stands at the start
    CHECK(plot->cursor() == Plot::Cursor::line);
    CHECK(plot->cursor_at().x() == 0.0);
  }
  w.session.type("load", "moved_mass", "9 kg"); // the picker's
  w.settle();
  CHECK(peak() > 1.05 * before);
  CHECK(volts->graphCount() > 0);
  auto* box = w.child<QComboBox>("machine_bus");
  const double of_first = peak();
  emit box->activated(2);
  w.settle();
  CHECK(peak() != Approx(of_first));
  const QColor ink = sum()->pen().color();
  w.window.set_dark(true);
  w.settle();
  CHECK(sum()->pen().color() != ink);
  w.window.set_dark(false);
}

TEST_CASE("each column of pixels keeps what of a curve is furthest from zero") {
  std::mt19937 random(71);
  std::uniform_real_distribution<double> value(0.0, 1.0);
  for (int round = 0; round < 40; ++round) {
    constexpr int columns = 50;
    const bool below = round % 2 == 1;
    QVector<double> x{-3.0}, y{below ? -value(random) : value(random)};
    while (x.back() < columns + 2.0) {
      x << x.back() +
               (value(random) < 0.3 ? 0.0 : std::pow(value(random), 3) * 8.0); // jumps, crowds, long lines
      y << (below ? -value(random) : value(random));
    }
    const std::vector<double> found = furthest_in_columns(x, y, columns);
    REQUIRE(found.size() == columns);
    std::vector<double> seen(columns, 0.0); // walked through in small steps
    for (qsizetype k = 0; k + 1 < x.size(); ++k)
      for (int step = 0; step <= 2000; ++step) {
        const double at = x[k] + (x[k + 1] - x[k]) * step / 2000.0;
        const double here = y[k] + (y[k + 1] - y[k]) * step / 2000.0;
        if (at < 0.0 || at >= columns) continue;
        double& known = seen[static_cast<std::size_t>(at)];
        if (std::abs(here) > std::abs(known)) known = here;
      }
    for (std::size_t c = 0; c < seen.size(); ++c) {
      INFO("round " << round << ", column " << c);
      CHECK(std::abs(found[c]) >= std::abs(seen[c]) - 1e-12);
      CHECK(found[c] == Approx(seen[c]).margin(0.01));
    }
  }
  CHECK(furthest_in_columns({}, {}, 3) == std::vector<double>{0.0, 0.0, 0.0});
}

TEST_CASE("of a long cycle the power is filled to its peak all along") {
  MachineWindow w;
  w.session.edit("Long cycle", "", [](Document& d) {
    Axis& picker = d.axes.front();
    const std::vector<Section> once = picker.cycle;
    for (int i = 0; i < 199; ++i) picker.cycle.insert(picker.cycle.end(), once.begin(), once.end());
    d.axes.resize(1);
    d.lists.find("blocks")->second.clear();
    d.lists.find("steady_loads")->second.clear();
    number_sections(d);
  });
  w.session.catch_up();
  const BusPower& bus = w.run().power.buses[0];
  auto* plot = w.child<Plot>("machine_power");
  plot->replot();
  const QImage picture = plot->toPixmap(plot->width(), plot->height()).toImage();
  const QRect area = plot->axisRect()->rect();
  const QColor color = theme().parts[0];
  const auto height_at = [&](int column) { // of the fill, in pixels from the top; the plot's zero where none
    for (int y = area.top(); y < area.bottom(); ++y)
      if (picture.pixelColor(area.left() + column, y) == color) return y;
    return area.bottom();
  };
  const double peak = plot->yAxis->coordToPixel(bus.peak.watts / 1000.0); // told in kW, or in W
  const double in_watts = plot->yAxis->coordToPixel(bus.peak.watts);
  const double top = peak > area.top() && peak < area.bottom() ? peak : in_watts;
  int reached = 0;
  for (int column = 5; column < area.width() - 5; ++column)
    if (height_at(column) <= top + 4.0) ++reached; // the line of the sum lies over its upper edge
  INFO(reached << " of " << area.width());
  CHECK(reached > area.width() / 4); // each of the 200 rounds comes up to its peak
}

TEST_CASE("the ticks of the plots stand below those of the timeline, in a wide window and a narrow one") {
  MachineWindow w;
  for (const QSize size : {QSize(1280, 800), QSize(1024, 700), QSize(1600, 900)}) {
    w.window.resize(size);
    w.settle();
    const double cycle = w.run().power.schedule.cycle;
    for (const char* name : {"machine_power", "machine_volts"}) {
      auto* plot = w.child<QCustomPlot>(name);
      INFO(name << " " << size.width());
      const auto ticks = plot->xAxis->ticker().dynamicCast<QCPAxisTickerFixed>();
      REQUIRE(ticks);
      CHECK(ticks->tickStep() == time_step(cycle, plot->axisRect()->width()));
      CHECK(plot->xAxis->range().upper == cycle);
    }
  }
  CHECK(time_step(10.0, 500) == Approx(2.0));
  CHECK(time_step(10.0, 400) == Approx(2.0)); // just
  CHECK(time_step(10.0, 399) == Approx(5.0));
  CHECK(time_step(0.01, 800) == Approx(0.001));
  CHECK(time_step(10.0, 0) == Approx(1000.0));
}
