#include "app/machine/machine_view.hpp"

#include "app/machine/machine_givens.hpp"
#include "app/machine/machine_ladder.hpp"
#include "app/machine/machine_plots.hpp"
#include "app/machine/machine_working.hpp"
#include "app/machine/overview_page.hpp"
#include "app/machine/starts_page.hpp"
#include "app/machine/supply_page.hpp"
#include "app/machine/timeline.hpp"
#include "app/session/machine_watch.hpp"
#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/session/words.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/page_stack.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "app/widgets/steady_text.hpp"
#include "app/working/working_panel.hpp"
#include "core/quantity/format.hpp"
#include "core/requirements/duty.hpp"

#include <QCheckBox>
#include <QScrollArea>
#include <QSplitter>
#include <QToolButton>
#include <QVBoxLayout>

#include <cmath>

namespace fulmox::app {
MachineView::MachineView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), givens_(new MachineGivens(session)),
      ladder_(new MachineLadder(session)), source_(new MachineWorking(session)),
      working_(new WorkingPanel(session, std::unique_ptr<WorkingSource>(source_), "machine_working")),
      timeline_(new Timeline(session)), plots_(new MachinePlots(session)),
      overview_(new OverviewPage(session)), supply_(new SupplyPage(session)),
      starts_(new StartsPage(session)), pages_(new PageStack), switch_(new QButtonGroup(this)),
      bus_box_(choice_box("machine_bus", "Bus in view", {})), head_(new SteadyText("machine_told", "")),
      numbers_(new SteadyText("machine_numbers", "soft")), cursor_told_(new QLabel) {
  setObjectName("machine_view");
  build();
  connect(&session.machine_watch(), &MachineWatch::found, this, [this] {
    if (isVisible()) refresh();
  });
  connect(timeline_, &Timeline::cursor_set, this, &MachineView::set_cursor);
  connect(plots_, &MachinePlots::cursor_set, this, &MachineView::set_cursor);
  connect(supply_, &SupplyPage::moment_wanted, this, [this](double time) {
    show_page(0);
    set_cursor(time);
  });
  connect(timeline_, &Timeline::axis_wanted, this, &MachineView::open_axis);
  connect(overview_, &OverviewPage::axis_wanted, this, &MachineView::open_axis);
  connect(ladder_, &MachineLadder::chosen, this, [this](std::size_t bus, double time, const QString& input) {
    show_bus(bus);
    if (!std::isnan(time)) set_cursor(time);
    if (!input.isEmpty()) givens_->go_to(input);
  });
  connect(ladder_, &MachineLadder::working_wanted, this,
          [this](std::optional<std::size_t> bus, const QString& step) {
            if (source_->set_bus(bus)) working_->forget();
            working_->show();
            fit_sides();
            working_->show_result(step);
          });
  connect(working_, &WorkingPanel::closed, this, &MachineView::close_working);
  new Refresher(session, this, results_changed | Change::machine | Change::theme, [this](Changes what) {
    if (what & Change::theme) {
      plots_->restyle();
      timeline_->update();
    }
    // what is worked out anew is shown once it is there, or told as old when that takes long
    if ((what & Change::theme) || !session_.machine_watch().old()) refresh();
  });
}

void MachineView::build() {
  auto* top = new QHBoxLayout;
  const QStringList words{"Timeline", "Axes", "Supply", "Starts"};
  const QStringList tips{"When each axis runs, power and voltage of a bus", "All axes side by side",
                         "What could feed a bus, with reasons", "Which starts lower the peak"};
  for (int i = 0; i < words.size(); ++i) {
    auto* button = new QToolButton;
    button->setObjectName("machine_page_" + QString::number(i));
    button->setText(words[i]);
    button->setToolTip(tips[i]);
    button->setCheckable(true);
    button->setProperty("role", "view");
    switch_->addButton(button, i);
    top->addWidget(button);
  }
  switch_->button(0)->setChecked(true);
  connect(switch_, &QButtonGroup::idClicked, this, &MachineView::show_page);
  top->addSpacing(12);
  top->addWidget(new QLabel("Bus"));
  top->addWidget(bus_box_);
  connect(bus_box_, &QComboBox::activated, this,
          [this](int index) { show_bus(static_cast<std::size_t>(index)); });
  auto* start = new QCheckBox("Switch-on");
  start->setObjectName("machine_start");
  start->setToolTip("Voltage of the bus from switch-on instead of over the cycle");
  connect(start, &QCheckBox::toggled, plots_, &MachinePlots::show_start);
  top->addWidget(start);
  top->addStretch();
  cursor_told_->setObjectName("machine_cursor");
  cursor_told_->setProperty("role", "soft");
  top->addWidget(cursor_told_);

  pages_->addWidget(timeline_page());
  pages_->addWidget(overview_);
  pages_->addWidget(supply_);
  pages_->addWidget(starts_);

  auto* middle = new QWidget;
  auto* column = new QVBoxLayout(middle);
  column->setContentsMargins(4, 6, 4, 4);
  column->setSpacing(4);
  column->addLayout(top);
  column->addWidget(head_);
  column->addWidget(numbers_);
  column->addWidget(pages_, 1);

  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(0);
  all->addWidget(givens_);
  all->addWidget(middle, 1);
  all->addWidget(right_side());
}

/// The ladder, and below it the working of one of its limits when it is asked for.
QWidget* MachineView::right_side() {
  auto* halves = new QSplitter(Qt::Vertical);
  halves->setChildrenCollapsible(false);
  halves->addWidget(ladder_);
  halves->addWidget(working_);
  halves->setSizes({300, 300});
  working_->hide();
  right_ = new QWidget; // a splitter forgets a width it is given
  auto* around = new QVBoxLayout(right_);
  around->setContentsMargins(0, 0, 0, 0);
  around->addWidget(halves);
  return right_;
}

void MachineView::show_working() { ladder_->show_working(); }

void MachineView::close_working() {
  working_->hide();
  fit_sides();
}

QWidget* MachineView::timeline_page() {
  auto* parts = new QSplitter(Qt::Vertical);
  auto* rows = new QScrollArea;
  rows->setObjectName("timeline_area");
  rows->setWidgetResizable(true);
  rows->setFrameShape(QFrame::NoFrame);
  rows->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  rows->setMinimumHeight(120);
  rows->setWidget(timeline_);
  parts->addWidget(rows);
  parts->addWidget(plots_);
  parts->setStretchFactor(0, 0);
  parts->setStretchFactor(1, 1);
  parts->setChildrenCollapsible(false);
  parts->setSizes({222, 400}); // seven axes without scrolling
  return parts;
}

void MachineView::show_page(int page) {
  switch_->button(page)->setChecked(true);
  pages_->setCurrentIndex(page);
  givens_->setVisible(page != 1); // the table needs the room
  fit_sides();
  refresh();
}

void MachineView::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  session_.machine_watch().set_seen(true);
  refresh();
}

void MachineView::hideEvent(QHideEvent* event) {
  QWidget::hideEvent(event);
  session_.machine_watch().set_seen(false);
}

void MachineView::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fit_sides();
}

/// A working needs more room than rungs.
void MachineView::fit_sides() {
  givens_->setFixedWidth(std::clamp(width() * 24 / 100, 210, 300));
  right_->setFixedWidth(working_->isHidden() ? std::clamp(width() * 20 / 100, 190, 250)
                                             : std::clamp(width() * 28 / 100, 270, 420));
  // its table needs the room more than the ladder does
  constexpr int wide = 1200;
  right_->setVisible(pages_->currentIndex() != 1 || width() >= wide || !working_->isHidden());
  constexpr int room = 560; // for the pages, the bus and the switch beside it
  cursor_told_->setVisible(width() - givens_->width() - right_->width() >= room || givens_->isHidden());
}

void MachineView::list_buses() {
  QStringList names;
  if (const MachineRun* run = session_.machine_watch().run())
    for (const BusPower& bus : run->power.buses) names << qt(bus.name);
  QStringList now;
  for (int i = 0; i < bus_box_->count(); ++i) now << bus_box_->itemText(i);
  if (now != names) {
    bus_box_->clear();
    bus_box_->addItems(names);
  }
  if (bus_ >= static_cast<std::size_t>(names.size())) bus_ = 0;
  bus_box_->setCurrentIndex(names.isEmpty() ? -1 : static_cast<int>(bus_));
  bus_box_->setEnabled(names.size() > 1);
}

void MachineView::show_bus(std::size_t bus) {
  if (bus == bus_) return;
  bus_ = bus;
  refresh();
}

void MachineView::refresh() {
  const MachineWatch& watch = session_.machine_watch();
  const auto run = watch.shared();
  list_buses();
  ladder_->set_bus(bus_);
  ladder_->show_machine(run, watch.old());
  // what was worked out before stays until the limits are there again
  if (!working_->isHidden() && (run == nullptr || run->complete)) working_->refresh();
  switch (pages_->currentIndex()) {
  case 0:
    timeline_->show_machine(run, watch.results());
    plots_->show_bus(run, bus_, timeline_->left());
    plots_->set_cursor(timeline_->cursor());
    break;
  case 1:
    overview_->show_machine(run, watch.results(), watch.judging() ? MachineResult() : watch.fed_results());
    break;
  case 2:
    supply_->show_bus(run, bus_);
    break;
  default:
    starts_->show_bus(run, bus_);
    break;
  }
  tell();
}

void MachineView::tell() {
  const MachineRun* run = session_.machine_watch().run();
  if (run == nullptr) {
    head_->set_text("The machine is being worked out.");
    return numbers_->clear();
  }
  if (!run->power.problem.what.empty()) {
    head_->set_text(qt(run->power.problem.text()));
    return numbers_->clear();
  }
  constexpr double hour = 3600.0;
  QString text = "Cycle " + told(run->power.schedule.cycle, Kind::time);
  if (!std::isnan(run->power.rate))
    text += ", " + qt(significant(run->power.rate * hour, 4)) + " parts an hour";
  if (run->power.buses.empty()) {
    head_->set_text(text +
                    ". No bus yet: add one at the left, then its axes' power and voltage are worked out.");
    return numbers_->clear();
  }
  const BusPower& bus = run->power.buses[bus_];
  text += ". Bus " + qt(bus.name) + ": mean " + told(bus.mean, Kind::power) + ", peak " +
          told(bus.peak.watts, Kind::power) + " at " + told(bus.peak.time, Kind::time);
  if (bus_ < run->buses.size() && bus.problem.empty()) {
    const BusState& state = run->buses[bus_];
    text += state.low->collapsed ? "; it collapses at " + told(state.low->collapsed_at, Kind::time)
                                 : "; from " + told(state.low->lowest, Kind::voltage) + " to " +
                                       told(state.high->highest, Kind::voltage);
  }
  head_->set_text(text + ".");
  const Duty duty = Duty::from(session_.document().duty);
  const double watts = bus_ < run->buses.size() && bus.problem.empty()
                           ? run->buses[bus_].supplied_watts / bus.data.efficiency
                           : bus.mean;
  const double kwh = watts * duty.hours / 1000.0;
  const QString a_year = std::isnan(kwh) ? QString() // of a bus that collapses
                                         : " · " + qt(significant(kwh, 3)) + " kWh a year, costing " +
                                               qt(significant(kwh * duty.energy_price, 3)) + " (" +
                                               qt(significant(duty.energy_price, 3)) + " a kWh)";
  numbers_->set_text("95 % of the time below " + told(bus.often, Kind::power) + " · means over 10 ms " +
                     told(bus.window_10ms.watts, Kind::power) + ", 0.1 s " +
                     told(bus.window_100ms.watts, Kind::power) + ", 1 s " +
                     told(bus.window_1s.watts, Kind::power) + " · drawn " + told(bus.drawn, Kind::energy) +
                     ", returned " + told(bus.returned, Kind::energy) + " a cycle" + a_year);
}

void MachineView::set_cursor(double time) {
  timeline_->set_cursor(time);
  plots_->set_cursor(time);
  const MachineRun* run = session_.machine_watch().run();
  if (run == nullptr || !run->power.problem.what.empty()) return;
  QString text = told(time, Kind::time);
  if (bus_ < run->power.buses.size()) {
    text += ": " + told(run->power.buses[bus_].total.at(time), Kind::power);
    if (bus_ < run->buses.size() && run->power.buses[bus_].problem.empty())
      text += ", " + told(run->buses[bus_].nominal->volts_at(time), Kind::voltage);
  }
  cursor_told_->setText(text);
  if (session_.axis_index() < run->power.axes.size())
    if (const auto own = own_time(run->power, session_.axis_index(), time)) session_.set_cursor(*own);
}

void MachineView::open_axis(std::size_t axis) {
  session_.select_axis(axis);
  emit session_.view_requested("axis");
}

} // namespace fulmox::app
