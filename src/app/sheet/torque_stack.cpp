#include "app/sheet/torque_stack.hpp"

#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/sheet/plot.hpp"
#include "app/sheet/plot_style.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

/// The heaps of torque parts at one moment: those that drive upwards from zero, those that brake downwards,
/// each on top of the one before.
struct Heap {
  explicit Heap(const Instant& now) : least(now.torque), most(now.torque) {
    double above = 0.0;
    double below = 0.0;
    for (std::size_t i = 0; i < torque_part_count; ++i) {
      const double part = now.parts.values[i];
      (part >= 0.0 ? above : below) += part;
      up[i] = above;
      down[i] = below;
    }
  }
  void cover(const Heap& other) {
    for (std::size_t i = 0; i < torque_part_count; ++i) {
      up[i] = std::max(up[i], other.up[i]);
      down[i] = std::min(down[i], other.down[i]);
    }
    least = std::min(least, other.least);
    most = std::max(most, other.most);
  }

  std::array<double, torque_part_count> up{};
  std::array<double, torque_part_count> down{};
  double least;
  double most;
};

struct HeapAt {
  double time;
  Heap heap;
};

/// The heaps of all samples; of a cycle with more than a screen can show, what covers those that share a
/// column. An area that goes up and down thousands of times within a few hundred pixels takes half a second
/// to fill and shows nothing but that cover.
std::vector<HeapAt> heaps_of(const std::vector<Instant>& samples, double duration) {
  constexpr double columns = 400.0; // about as many as the plot has pixels
  const bool crowded = static_cast<double>(samples.size()) > 10.0 * columns;
  std::vector<HeapAt> heaps;
  double column = -1.0;
  for (const Instant& now : samples) {
    const HeapAt here{now.time, Heap(now)};
    const double in = std::floor(now.time / duration * columns);
    if (!crowded || in != column)
      heaps.push_back(here);
    else
      heaps.back().heap.cover(here.heap);
    column = in;
  }
  return heaps;
}

} // namespace

TorqueStack::TorqueStack(Session& session, QWidget* parent)
    : QWidget(parent), session_(session),
      plot_(make_plot(this, "stack_plot", "Torque parts, energy per cycle")) {
  setObjectName("torque_stack");
  setAccessibleName("Torque parts over the cycle");
  plot_->setNotAntialiasedElements(QCP::aeAll); // steps along the grid of pixels
  for (std::size_t i = 0; i < torque_part_count; ++i) {
    up_.push_back(plot_->addGraph());
    down_.push_back(plot_->addGraph());
  }
  zero_ = plot_->addGraph();
  sum_ = plot_->addGraph();
  sum_low_ = plot_->addGraph();
  restyle();
  new Refresher(session, this, results_changed | Change::theme | Change::cursor,
                [this](Changes what) { what == Change::cursor ? place_cursor() : refresh(); });
}

/// A low plot shows the course rather than the names, which the tool tip tells as well.
void TorqueStack::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  constexpr int room_for_names = 170;
  const bool room = height() >= room_for_names;
  fit_ticks(plot_);
  if (room == named_) return;
  named_ = room;
  refresh();
}

void TorqueStack::restyle() {
  const Theme& t = theme();
  dark_ = t.dark;
  style_plot(plot_);
  for (std::size_t i = 0; i < torque_part_count; ++i) {
    for (auto* stack : {&up_, &down_}) {
      (*stack)[i]->setPen(Qt::NoPen);
      (*stack)[i]->setBrush(t.parts[i]);
      if (i > 0) (*stack)[i]->setChannelFillGraph((*stack)[i - 1]);
    }
  }
  zero_->setPen(QPen(t.faint, 1));
  for (QCPGraph* sum : {sum_, sum_low_}) sum->setPen(QPen(t.ink, 1));
}

void TorqueStack::refresh() {
  if (dark_ != theme().dark) restyle();
  const Evaluation* e = session_.evaluation();
  QVector<double> time, sum, sum_low;
  std::vector<QVector<double>> up(torque_part_count), down(torque_part_count);
  double high = 0.0, low = 0.0;
  std::array<bool, torque_part_count> occurs{}, occurs_up{}, occurs_down{};
  if (e != nullptr) {
    for (const auto& [at, heap] : heaps_of(session_.plots().trace.samples, e->model->load->cycle.duration)) {
      time << at;
      sum << heap.most;
      sum_low << heap.least;
      for (std::size_t i = 0; i < torque_part_count; ++i) {
        up[i] << heap.up[i];
        down[i] << heap.down[i];
      }
      high = std::max(high, heap.up.back());
      low = std::min(low, heap.down.back());
    }
    for (const Instant& now : session_.plots().trace.samples)
      for (std::size_t i = 0; i < torque_part_count; ++i) {
        occurs_up[i] |= now.parts.values[i] > 0.0;
        occurs_down[i] |= now.parts.values[i] < 0.0;
        occurs[i] = occurs_up[i] || occurs_down[i];
      }
  }
  const DisplayUnit& unit = display_unit(std::max(high, -low), Kind::torque, session_.document().units);
  const auto scale = [&](QVector<double>& values) {
    for (double& value : values) value /= unit.factor;
  };
  scale(sum);
  scale(sum_low);
  for (std::size_t i = 0; i < torque_part_count; ++i) {
    scale(up[i]);
    scale(down[i]);
    up_[i]->setData(time, up[i], true);
    down_[i]->setData(time, down[i], true);
    // what has no area takes no time
    up_[i]->setVisible(occurs_up[i]);
    down_[i]->setVisible(occurs_down[i]);
  }
  sum_->setData(time, sum, true);
  sum_low_->setData(time, sum_low, true);
  tell_energies(e != nullptr ? e->demand.integrals.energy : TorqueParts(), occurs);
  const double end = e != nullptr ? e->model->load->cycle.duration : 1.0;
  zero_->setData({0.0, end}, {0.0, 0.0}, true);
  plot_->xAxis->setRange(0.0, end);
  plot_->yAxis->setRange(1.08 * low / unit.factor, std::max(1e-9, 1.08 * high / unit.factor));
  plot_->set_units(qt(unit.symbol), "s");
  place_cursor();
  plot_->replot(QCustomPlot::rpQueuedRefresh);
}

/// Energy per cycle beside each name; what a closed cycle gives back entirely has none.
void TorqueStack::tell_energies(const TorqueParts& energy,
                                const std::array<bool, torque_part_count>& occurs) {
  double most = 0.0;
  for (const double part : energy.values) most = std::max(most, std::abs(part));
  std::vector<Plot::Name> names;
  QString all = "Torque at the motor shaft by cause, and its energy over one cycle:";
  for (std::size_t i = 0; i < torque_part_count; ++i) {
    if (!occurs[i]) continue;
    constexpr double rounding = 1e-9;
    const double part = energy.values[i];
    const bool none = std::abs(part) <= rounding * most;
    const QString text = qt(format(none ? 0.0 : part, Kind::energy, session_.document().units).text());
    const QString label = qt(torque_part_info[i].label);
    names.push_back({theme().parts[i], none ? label : label + " " + text});
    all += "\n" + label + "  " + text + "  (" + qt(torque_part_info[i].help) + ")";
  }
  plot_->set_names(named_ ? names : std::vector<Plot::Name>());
  setToolTip(all);
}

void TorqueStack::place_cursor() {
  const bool known = session_.evaluation() != nullptr;
  plot_->set_cursor(known ? Plot::Cursor::line : Plot::Cursor::none, {session_.cursor(), 0.0});
}

} // namespace fulmox::app
