#include "app/machine/machine_plots.hpp"

#include "app/machine/column_stack.hpp"
#include "app/machine/thinned.hpp"
#include "app/machine/time_step.hpp"
#include "app/session/session.hpp"
#include "app/sheet/plot.hpp"
#include "app/sheet/plot_style.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"
#include "core/quantity/format.hpp"

#include <QMouseEvent>
#include <QPainter>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace fulmox::app {

/// What the colours of the stack stand for, in the room left of the plots.
class BusLegend : public QWidget {
public:
  explicit BusLegend(QWidget* parent) : QWidget(parent) { setAttribute(Qt::WA_TransparentForMouseEvents); }
  void set_names(std::vector<Plot::Name> names) {
    if (names == names_) return;
    names_ = std::move(names);
    update();
  }

protected:
  void paintEvent(QPaintEvent*) override {
    QPainter painter(this);
    const double step = std::clamp(height() / std::max(1.0, static_cast<double>(names_.size())), 11.0, 16.0);
    const QFont font = face(-2);
    for (std::size_t i = 0; i < names_.size(); ++i) {
      const double y = static_cast<double>(i) * step;
      if (y + step > height() + 2.0) break;
      painter.fillRect(QRectF(0.0, y + 4.0, 9.0, 6.0), names_[i].color);
      painter.setPen(theme().ink);
      draw_line(painter, QRect(14, static_cast<int>(y), width() - 14, 14), Qt::AlignLeft | Qt::AlignVCenter,
                QFontMetrics(font).elidedText(names_[i].text, Qt::ElideRight, width() - 16), font);
    }
  }

private:
  std::vector<Plot::Name> names_;
};

namespace {

constexpr int right_margin = 14, label_room = 48;

/// Moments at which a curve is looked at for its picture: both sides of every jump, and the peaks that a
/// picture of so many columns can show.
QVector<double> looks_at(const PowerCurve& curve, int columns) {
  QVector<double> times, watts;
  for (const PowerPiece& piece : curve.pieces) {
    const double inside = 1e-9 * curve.period();
    const int between = piece.watts.size() > 2 ? 8 : 1;
    for (int k = 0; k <= between; ++k) {
      const double t =
          std::clamp(piece.from + piece.length() * k / between, piece.from + inside, piece.to - inside);
      times << t;
      watts << piece.at(t);
    }
  }
  thin(times, watts, columns);
  return times;
}

void fix_margins(Plot* plot, int left) {
  plot->axisRect()->setAutoMargins(QCP::MarginSides(QCP::msTop) | QCP::msBottom);
  plot->axisRect()->setMargins(QMargins(left, 0, right_margin, 0));
}

/// Columns of pixels that a plot has for its curves.
int columns(const Plot* plot) { return std::clamp(plot->axisRect()->width(), 300, 3000); }

/// Points so close that smoothing their edges shows nothing and takes most of the time.
bool crowded(const Plot* plot, const QVector<double>& points) { return points.size() > columns(plot); }

void add_line(Plot* plot, QVector<double> x, QVector<double> y, QPen pen) {
  thin(x, y, columns(plot));
  auto* graph = plot->addGraph();
  if (crowded(plot, x)) {
    graph->setAntialiased(false);
    pen.setWidth(1);
  }
  graph->setData(x, y, true);
  graph->setPen(pen);
}

/// The ticks of a plot's time below those of the timeline.
void fit_times(Plot* plot) {
  const QMargins margins = plot->axisRect()->margins();
  const auto ticks = QSharedPointer<QCPAxisTickerFixed>::create();
  ticks->setTickStep(time_step(plot->xAxis->range().upper, plot->width() - margins.left() - margins.right()));
  plot->xAxis->setTicker(ticks);
}

void show_times(Plot* plot, double end) {
  plot->xAxis->setRange(0.0, end);
  fit_times(plot);
}

} // namespace

MachinePlots::MachinePlots(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("machine_plots");
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(2);
  auto* upper = new QWidget;
  auto* lower = new QWidget;
  power_ = make_plot(upper, "machine_power", "Power of the bus");
  volts_ = make_plot(lower, "machine_volts", "Voltage of the bus");
  upper->setAccessibleName("Power of every axis on the bus, one upon the other, and their sum");
  lower->setAccessibleName("Voltage of the bus over the machine's cycle");
  power_->setToolTip(
      "Every axis's power one upon the other; what comes back below zero. The line is the sum.");
  upper->setMinimumHeight(96);
  lower->setMinimumHeight(84);
  all->addWidget(upper, 3);
  all->addWidget(lower, 2);
  legend_ = new BusLegend(upper);
  note_ = make_note(volts_);
  power_->installEventFilter(this);
  volts_->installEventFilter(this);
  restyle();
}

bool MachinePlots::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() == QEvent::Resize) fit_times(watched == power_ ? power_ : volts_);
  const bool press = event->type() == QEvent::MouseButtonPress, move = event->type() == QEvent::MouseMove;
  if ((press || move) && !start_ && run_ != nullptr && (watched == power_ || watched == volts_)) {
    const auto* mouse = static_cast<QMouseEvent*>(event); // NOLINT: told by its type
    if (mouse->buttons() & Qt::LeftButton) {
      const double t = power_->xAxis->pixelToCoord(mouse->position().x());
      emit cursor_set(std::clamp(t, 0.0, run_->power.schedule.cycle));
    }
  }
  return QWidget::eventFilter(watched, event);
}

void MachinePlots::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fit_ticks(power_);
  fit_ticks(volts_);
  legend_->setGeometry(8, 22, std::max(20, power_->axisRect()->margins().left() - label_room - 12),
                       power_->height() - 30);
}

void MachinePlots::restyle() {
  for (Plot* plot : {power_, volts_}) style_plot(plot);
  restyle_notes(volts_);
  draw_again();
}

void MachinePlots::draw_again() {
  power_shown_.reset();
  volts_shown_.reset();
  if (run_ != nullptr) show_bus(run_, bus_, power_->axisRect()->margins().left());
}

void MachinePlots::show_start(bool start) {
  start_ = start;
  volts_->set_title(start ? "Voltage from switch-on" : "Voltage of the bus");
  draw_again();
}

void MachinePlots::show_bus(std::shared_ptr<const MachineRun> run, std::size_t bus, int left) {
  run_ = std::move(run);
  bus_ = bus;
  const bool there = run_ != nullptr && run_->power.problem.what.empty() && bus_ < run_->power.buses.size();
  Shown shown{run_ != nullptr ? run_->number : 0, bus, there, left, columns(power_)};
  if (power_shown_ != shown) {
    for (Plot* plot : {power_, volts_}) fix_margins(plot, left);
    legend_->setGeometry(8, 22, std::max(20, left - label_room - 12), power_->height() - 30);
    clear(power_);
    legend_->set_names({});
    if (there) draw_power();
    power_->replot(QCustomPlot::rpQueuedRefresh);
    power_shown_ = shown;
    volts_shown_.reset();
  }
  shown.complete = run_ != nullptr && run_->complete;
  if (volts_shown_ == shown) return;
  clear(volts_);
  note_->setText("");
  if (there && start_)
    draw_start();
  else if (there)
    draw_volts();
  volts_->replot(QCustomPlot::rpQueuedRefresh);
  volts_shown_ = shown;
}

/// Layers of the power from zero outwards, each with its own colour.
void MachinePlots::fill(const QVector<double>& times, std::vector<StackLayer> layers) {
  if (crowded(power_, times)) {
    auto* stack = new ColumnStack(power_); // deleted by the plot
    stack->setLayer("main");
    stack->set(times, std::move(layers));
    return;
  }
  const auto line = [&](const QVector<double>& watts) {
    auto* graph = power_->addGraph();
    graph->setData(times, watts, true);
    graph->setPen(Qt::NoPen);
    return graph;
  };
  QCPGraph* below = line(QVector<double>(times.size(), 0.0));
  for (const StackLayer& layer : layers) {
    QCPGraph* top = line(layer.tops);
    top->setBrush(layer.color);
    top->setChannelFillGraph(below);
    below = top;
  }
}

void MachinePlots::clear(Plot* plot) {
  plot->clearGraphs();
  for (int i = plot->itemCount() - 1; i >= 0; --i)
    if (QCPAbstractItem* item = plot->item(i); item != note_) plot->removeItem(item);
}

void MachinePlots::draw_power() {
  const Theme& t = theme();
  const BusPower& bus = run_->power.buses[bus_];
  struct Part {
    const PowerCurve* curve;
    QString name;
  };
  std::vector<Part> parts;
  if (!bus.steady.pieces.empty()) parts.push_back({&bus.steady, "other loads"});
  for (const std::size_t i : bus.brakes)
    parts.push_back({&run_->power.axes[i].brake, qt(run_->power.axes[i].name) + ", brake"});
  for (const std::size_t i : bus.axes)
    parts.push_back({&run_->power.axes[i].placed, qt(run_->power.axes[i].name)});
  const QVector<double> times = looks_at(bus.total, columns(power_));
  const DisplayUnit& unit = display_unit(std::max(bus.peak.watts, -bus.least.watts), Kind::power);
  QVector<double> above(times.size(), 0.0), below(times.size(), 0.0);
  std::vector<Plot::Name> names;
  std::vector<StackLayer> ups, downs;
  for (std::size_t i = 0; i < parts.size(); ++i) {
    bool draws = false, returns = false;
    for (qsizetype k = 0; k < times.size(); ++k) {
      const double watts = parts[i].curve->at(times[k]) / unit.factor;
      (watts >= 0.0 ? above : below)[k] += watts;
      draws = draws || watts > 0.0;
      returns = returns || watts < 0.0;
    }
    const QColor color = t.parts[i % std::size(t.parts)];
    if (draws) ups.push_back({above, color});
    if (returns) downs.push_back({below, color});
    names.push_back({color, parts[i].name});
  }
  fill(times, std::move(ups));
  fill(times, std::move(downs));
  QVector<double> sum;
  for (const double time : times) sum << bus.total.at(time) / unit.factor;
  add_line(power_, times, sum, QPen(t.ink, 1.4));
  names.push_back({t.ink, "sum"});
  legend_->set_names(std::move(names));
  const auto [least, most] = std::minmax_element(below.begin(), below.end());
  const auto top = std::max_element(above.begin(), above.end());
  (void)most;
  const double high = top == above.end() ? 1.0 : std::max(*top, 1e-6),
               low = least == below.end() ? 0.0 : *least;
  show_times(power_, run_->power.schedule.cycle);
  power_->yAxis->setRange(low < 0.0 ? 1.15 * low : 0.0, 1.12 * high);
  power_->set_units(qt(unit.symbol), "s");
}

/// A dot with its word beside and, so that two close to each other stay apart, a little above or below.
void MachinePlots::mark(double time, double volts, const QString& text, bool alarm, Qt::Alignment side) {
  const Theme& t = theme();
  auto* dot = volts_->addGraph();
  dot->setData({time}, {volts}, true);
  dot->setLineStyle(QCPGraph::lsNone);
  dot->setScatterStyle(
      QCPScatterStyle(QCPScatterStyle::ssDisc, alarm ? t.alarm : t.ink, alarm ? t.alarm : t.ink, 6));
  auto* word = new QCPItemText(volts_);
  const bool right = time > 0.7 * volts_->xAxis->range().upper;
  word->setPositionAlignment((right ? Qt::AlignRight : Qt::AlignLeft) | side);
  word->position->setCoords(time, volts);
  word->setPadding(QMargins(8, 0, 8, 0));
  word->setText(text);
  word->setFont(face(-2, true));
  word->setColor(alarm ? t.alarm : t.ink);
}

void MachinePlots::draw_volts() {
  const Theme& t = theme();
  const BusPower& bus = run_->power.buses[bus_];
  note_->setText("");
  volts_->set_units("V", "s");
  show_times(volts_, run_->power.schedule.cycle);
  if (bus_ >= run_->buses.size() || !bus.problem.empty()) {
    note_->setText(bus.problem.empty() ? "worked out…"
                                       : qt("The voltage cannot be worked out: " + bus.problem));
    return;
  }
  const BusState& state = run_->buses[bus_];
  const auto curve = [&](const BusRun& run, const QPen& pen) {
    QVector<double> time, volts;
    for (const BusSample& sample : run.samples) {
      time << sample.time;
      volts << sample.volts;
    }
    add_line(volts_, time, volts, pen);
  };
  const bool mains = bus.data.swing > 0.0;
  if (mains) {
    curve(*state.high, QPen(t.soft, 1.0));
    curve(*state.low, QPen(t.soft, 1.0));
  }
  curve(*state.nominal, QPen(t.accent, 1.8));
  const auto over = [&](std::string_view id) {
    return std::any_of(state.limits.begin(), state.limits.end(),
                       [&](const Limit& l) { return l.id == id && l.state == LimitState::over; });
  };
  double low = state.low->lowest, high = std::max(state.high->highest, state.low->highest);
  if (state.low->collapsed) high = std::max(high, bus.data.nominal.supply.highest());
  const double room = std::max(0.25 * (high - low), 0.02 * high);
  const auto border = [&](double volts, const QString& word) {
    if (std::isnan(volts) || volts < low - 4.0 * room || volts > high + 4.0 * room) return;
    auto* graph = volts_->addGraph();
    graph->setData({0.0, run_->power.schedule.cycle}, {volts, volts}, true);
    graph->setPen(QPen(t.ink, 1.0, Qt::DashLine));
    auto* text = new QCPItemText(volts_);
    text->setPositionAlignment(Qt::AlignLeft | Qt::AlignBottom);
    text->position->setCoords((word == "chopper" ? 0.4 : 0.01) * run_->power.schedule.cycle, volts);
    text->setText(word);
    text->setFont(face(-2));
    text->setColor(t.soft);
    low = std::min(low, volts);
    high = std::max(high, volts);
  };
  if (bus.data.nominal.chopper) border(bus.data.nominal.chopper->on, "chopper");
  border(bus.over, "trip of " + qt(bus.over_of));
  border(bus.under, "least of " + qt(bus.under_of));
  volts_->yAxis->setRange(low - room, high + 1.3 * room);
  const auto told = [](double volts) { return qt(format(volts, Kind::voltage).text()); };
  if (state.low->collapsed)
    mark(state.low->collapsed_at, std::max(low, state.low->lowest), "collapses, then untrue", true);
  else
    mark(state.low->lowest_at, state.low->lowest, told(state.low->lowest), over("machine.bus_low"),
         Qt::AlignTop);
  if (!state.high->collapsed)
    mark(state.high->highest_at, state.high->highest, told(state.high->highest), over("machine.bus_high"),
         Qt::AlignBottom);
}

void MachinePlots::draw_start() {
  const Theme& t = theme();
  note_->setText("");
  volts_->set_units("V", "s");
  const BusPower& bus = run_->power.buses[bus_];
  if (bus_ >= run_->buses.size() || !run_->buses[bus_].start) {
    note_->setText(bus.data.feed == BusData::Feed::regulated
                       ? "Whether it starts is open: the supply's current limit is not given."
                       : "Behind a rectifier it comes up; precharge and inrush are told under Supply.");
    return;
  }
  const BusStart& start = *run_->buses[bus_].start;
  QVector<double> time, volts;
  const double end = start.up ? 1.3 * start.up_at : start.samples.back().time;
  for (const BusSample& sample : start.samples) {
    if (sample.time > end) break;
    time << sample.time;
    volts << sample.volts;
  }
  add_line(volts_, time, volts, QPen(t.accent, 1.8));
  show_times(volts_, std::max(end, 1e-3));
  volts_->yAxis->setRange(0.0, 1.15 * bus.data.nominal.supply.highest());
  if (start.up)
    mark(start.up_at, volts.isEmpty() ? 0.0 : volts.back(),
         "up after " + qt(format(start.up_at, Kind::time).text()), false);
  else
    mark(0.5 * end, 0.5 * bus.data.nominal.supply.highest(), "it does not come up", true);
}

void MachinePlots::set_cursor(double time) {
  power_->set_cursor(Plot::Cursor::line, {time, 0.0});
  volts_->set_cursor(start_ ? Plot::Cursor::none : Plot::Cursor::line, {time, 0.0});
}

} // namespace fulmox::app
