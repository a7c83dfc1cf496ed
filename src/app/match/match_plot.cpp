#include "app/match/match_plot.hpp"

#include "app/match/match_model.hpp"
#include "app/session/session.hpp"
#include "app/sheet/dots.hpp"
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
  plot_ = make_plot(host, "match_plot", "Combinations that fit");
  plot_->setFocusPolicy(Qt::StrongFocus);
  plot_->setMouseTracking(true);
  plot_->installEventFilter(this);
  all->addWidget(host, 1);
  dots_ = new Dots(plot_->xAxis, plot_->yAxis); // the plot owns it
  front_ = plot_->addGraph();
  marked_ = plot_->addGraph();
  note_ = make_note(plot_);
  for (QComboBox* box : {across_, up_})
    connect(box, &QComboBox::currentIndexChanged, this, &MatchPlot::turned);
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

void MatchPlot::show(std::shared_ptr<const MatchAnswer> answer, UnitSet units) {
  answer_ = std::move(answer);
  list_ = answer_ != nullptr ? answer_->last : nullptr;
  units_ = units;
  draw();
}

MatchPlot::Dot MatchPlot::dot_of(std::size_t place) const {
  const Trial trial = answer_->result.fits[place];
  return {across().value(answer_->space, trial), up().value(answer_->space, trial), place};
}

void MatchPlot::draw() {
  shown_.clear();
  std::vector<double> xs, ys;
  QVector<double> front_x, front_y;
  if (list_ != nullptr) {
    double most_x = 0.0, most_y = 0.0;
    for (const std::size_t place : list_->dots) {
      const Dot dot = dot_of(place);
      if (!std::isfinite(dot.x) || !std::isfinite(dot.y)) continue;
      most_x = std::max(most_x, dot.x);
      most_y = std::max(most_y, dot.y);
      shown_.push_back(dot);
    }
    const DisplayUnit &unit_x = display_unit(most_x, across().kind, units_),
                      &unit_y = display_unit(most_y, up().kind, units_);
    x_ = {unit_x.factor, unit_x.offset};
    y_ = {unit_y.factor, unit_y.offset};
    for (Dot& dot : shown_) {
      dot = scaled(dot);
      xs.push_back(dot.x);
      ys.push_back(dot.y);
    }
    for (const std::size_t place : list_->front) {
      front_x << scaled(dot_of(place)).x;
      front_y << scaled(dot_of(place)).y;
    }
    const auto titled = [](const Yardstick& yardstick, const DisplayUnit& unit) {
      return qt(yardstick.label) + (unit.symbol.empty() ? QString() : " " + qt(unit.symbol));
    };
    plot_->set_units(titled(up(), unit_y), titled(across(), unit_x));
  }
  dots_->setData(QVector<double>(xs.begin(), xs.end()), QVector<double>(ys.begin(), ys.end()));
  front_->setData(front_x, front_y, true);
  note_->setText(xs.empty() ? "Nothing fits that has both figures." : "");
  if (!xs.empty()) {
    fit_range(plot_->xAxis, xs);
    fit_range(plot_->yAxis, ys);
  }
  mark();
}

void MatchPlot::mark(const std::optional<Combination>& parts) {
  if (parts == current_) return;
  current_ = parts;
  mark();
}

void MatchPlot::mark() {
  QVector<double> x, y;
  const auto place = current_ && list_ != nullptr ? answer_->result.fits.place_of(*current_) : std::nullopt;
  if (place && std::find(list_->rows.begin(), list_->rows.end(), *place) != list_->rows.end())
    if (const Dot dot = scaled(dot_of(*place)); std::isfinite(dot.x) && std::isfinite(dot.y)) {
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
  if (list_ == nullptr || list_->front.empty()) return;
  const auto& front = list_->front;
  const auto& fits = answer_->result.fits;
  const auto here = std::find_if(front.begin(), front.end(), [&](std::size_t place) {
    return current_ && fits.parts(place) == *current_;
  });
  auto index = here == front.end() ? 0 : (here - front.begin()) + step;
  index = std::clamp<std::ptrdiff_t>(index, 0, static_cast<std::ptrdiff_t>(front.size()) - 1);
  emit picked(fits.parts(front[static_cast<std::size_t>(index)]));
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
    if (event->type() == QEvent::MouseButtonPress && place) emit picked(answer_->result.fits.parts(*place));
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
