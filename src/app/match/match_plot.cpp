#include "app/match/match_plot.hpp"

#include "app/match/match_model.hpp"
#include "app/session/session.hpp"
#include "app/sheet/plot.hpp"
#include "app/sheet/plot_style.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/quantity/format.hpp"

#include <QKeyEvent>
#include <QToolTip>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

QComboBox* yardstick_box(const char* name, const char* what, std::string_view chosen) {
  QStringList all;
  for (const Yardstick& yardstick : yardsticks()) all << qt(yardstick.label);
  QComboBox* box = choice_box(name, what, all);
  for (std::size_t i = 0; i < yardsticks().size(); ++i)
    if (yardsticks()[i].id == chosen) box->setCurrentIndex(static_cast<int>(i));
  return box;
}

const Yardstick& chosen(const QComboBox* box) {
  return yardsticks()[static_cast<std::size_t>(box->currentIndex())];
}

QLabel* word(const QString& text) {
  auto* label = new QLabel(text);
  label->setProperty("role", "soft");
  label->setFont(face(-1));
  return label;
}

void fit_range(QCPAxis* axis, const std::vector<double>& values) {
  const auto [least, most] = std::minmax_element(values.begin(), values.end());
  const double room = std::max(0.06 * (*most - *least), 1e-3 * std::max(1.0, std::abs(*most)));
  axis->setRange(*least - room, *most + room);
}

} // namespace

MatchPlot::MatchPlot(QWidget* parent) : QWidget(parent) {
  setObjectName("match_picture");
  setAccessibleName("Combinations over two yardsticks");
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(2);
  auto* top = new QHBoxLayout;
  across_ = yardstick_box("match_across", "Across", "price");
  up_ = yardstick_box("match_up", "Up", "used");
  top->addWidget(up_);
  top->addWidget(word("over"));
  top->addWidget(across_);
  top->addWidget(word("line: not beaten in both"));
  top->addStretch();
  all->addLayout(top);
  auto* host = new QWidget;
  host->setMinimumHeight(110);
  plot_ = make_plot(host, "match_plot", "Combinations that fit");
  plot_->setFocusPolicy(Qt::StrongFocus);
  plot_->setMouseTracking(true);
  plot_->installEventFilter(this);
  all->addWidget(host, 1);
  dots_ = plot_->addGraph();
  front_ = plot_->addGraph();
  marked_ = plot_->addGraph();
  note_ = make_note(plot_);
  for (QComboBox* box : {across_, up_})
    connect(box, &QComboBox::currentIndexChanged, this, [this] { draw(); });
  restyle();
}

const Yardstick& MatchPlot::across() const { return chosen(across_); }
const Yardstick& MatchPlot::up() const { return chosen(up_); }

void MatchPlot::restyle() {
  const Theme& t = theme();
  style_plot(plot_);
  restyle_notes(plot_);
  dots_->setLineStyle(QCPGraph::lsNone);
  dots_->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.soft, t.soft, 4.0));
  front_->setLineStyle(QCPGraph::lsStepLeft);
  front_->setPen(QPen(t.accent, 1.6));
  front_->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.accent, t.accent, 6.0));
  marked_->setLineStyle(QCPGraph::lsNone);
  marked_->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssCircle, QPen(t.ink, 2.0), Qt::NoBrush, 12.0));
  plot_->replot(QCustomPlot::rpQueuedRefresh);
}

void MatchPlot::show(std::shared_ptr<const MatchAnswer> answer, std::vector<std::size_t> places,
                     UnitSet units) {
  answer_ = std::move(answer);
  places_ = std::move(places);
  units_ = units;
  draw();
}

void MatchPlot::draw() {
  shown_.clear();
  on_front_.clear();
  QVector<double> x, y, front_x, front_y;
  std::vector<double> xs, ys;
  if (answer_ != nullptr) {
    const auto& fits = answer_->result.fits;
    std::vector<Dot> raw;
    double most_x = 0.0, most_y = 0.0;
    for (const std::size_t place : places_) {
      const Dot dot{across().value(answer_->space, fits[place]), up().value(answer_->space, fits[place]),
                    place};
      if (!std::isfinite(dot.x) || !std::isfinite(dot.y)) continue;
      most_x = std::max(most_x, dot.x);
      most_y = std::max(most_y, dot.y);
      raw.push_back(dot);
    }
    const DisplayUnit &unit_x = display_unit(most_x, across().kind, units_),
                      &unit_y = display_unit(most_y, up().kind, units_);
    const auto in = [](double value, const DisplayUnit& unit) { return value / unit.factor - unit.offset; };
    for (const Dot& dot : raw) {
      shown_.push_back({in(dot.x, unit_x), in(dot.y, unit_y), dot.place});
      x << shown_.back().x;
      y << shown_.back().y;
    }
    on_front_ = best_front(answer_->space, std::span<Trial>(answer_->result.fits), places_, across(), up(),
                           *answer_->settle);
    for (const std::size_t place : on_front_) {
      front_x << in(across().value(answer_->space, fits[place]), unit_x);
      front_y << in(up().value(answer_->space, fits[place]), unit_y);
    }
    xs.assign(x.begin(), x.end());
    ys.assign(y.begin(), y.end());
    const auto titled = [](const Yardstick& yardstick, const DisplayUnit& unit) {
      return qt(yardstick.label) + (unit.symbol.empty() ? QString() : " " + qt(unit.symbol));
    };
    plot_->set_units(titled(up(), unit_y), titled(across(), unit_x));
  }
  dots_->setData(x, y);
  front_->setData(front_x, front_y, true);
  note_->setText(xs.empty() ? "Nothing fits that has both figures." : "");
  if (!xs.empty()) {
    fit_range(plot_->xAxis, xs);
    fit_range(plot_->yAxis, ys);
  }
  mark(current_);
}

void MatchPlot::mark(const std::optional<Combination>& parts) {
  current_ = parts;
  QVector<double> x, y;
  for (const Dot& dot : shown_)
    if (parts && answer_->result.fits[dot.place].parts == *parts) {
      x << dot.x;
      y << dot.y;
    }
  marked_->setData(x, y);
  plot_->replot(QCustomPlot::rpQueuedRefresh);
}

std::optional<std::size_t> MatchPlot::near(const QPoint& at) const {
  constexpr double reach = 12.0; // pixels
  double nearest = reach * reach;
  std::optional<std::size_t> found;
  for (const Dot& dot : shown_) {
    const double dx = plot_->xAxis->coordToPixel(dot.x) - at.x(),
                 dy = plot_->yAxis->coordToPixel(dot.y) - at.y();
    if (dx * dx + dy * dy >= nearest) continue;
    nearest = dx * dx + dy * dy;
    found = dot.place;
  }
  return found;
}

/// Along the front from the one that is marked, or from its beginning.
void MatchPlot::walk(int step) {
  if (on_front_.empty()) return;
  const auto& fits = answer_->result.fits;
  const auto here = std::find_if(on_front_.begin(), on_front_.end(), [&](std::size_t place) {
    return current_ && fits[place].parts == *current_;
  });
  auto index = here == on_front_.end() ? 0 : (here - on_front_.begin()) + step;
  index = std::clamp<std::ptrdiff_t>(index, 0, static_cast<std::ptrdiff_t>(on_front_.size()) - 1);
  emit picked(fits[on_front_[static_cast<std::size_t>(index)]].parts);
}

bool MatchPlot::eventFilter(QObject* watched, QEvent* event) {
  if (watched != plot_) return QWidget::eventFilter(watched, event);
  if (event->type() == QEvent::KeyPress) {
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Left || key == Qt::Key_Right) return walk(key == Qt::Key_Right ? 1 : -1), true;
  }
  if (event->type() == QEvent::MouseMove || event->type() == QEvent::MouseButtonPress) {
    auto* mouse = static_cast<QMouseEvent*>(event);
    const auto place = near(mouse->pos());
    if (event->type() == QEvent::MouseButtonPress && place) emit picked(answer_->result.fits[*place].parts);
    if (event->type() == QEvent::MouseMove)
      QToolTip::showText(mouse->globalPosition().toPoint(),
                         place ? told_of(*answer_, answer_->fit(*place), false) : QString(), plot_);
  }
  return QWidget::eventFilter(watched, event);
}

void MatchPlot::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fit_ticks(plot_);
}

} // namespace fulmox::app
