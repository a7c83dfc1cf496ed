#include "app/match/match_kinds.hpp"

#include "app/session/session.hpp"
#include "app/sheet/plot.hpp"
#include "app/sheet/plot_style.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/match/kind_curves.hpp"
#include "core/quantity/format.hpp"

#include <QHeaderView>
#include <QPainter>
#include <QVBoxLayout>

#include <algorithm>
#include <array>
#include <cmath>
#include <thread>

namespace fulmox::app {
namespace {

const QString kinds_job = "kinds";
constexpr int label_width = 128, column_width = 196;

/// The axis as far as the answer depends on it: whatever is fitted in the places that are searched.
Axis searched(Axis axis, AlsoSearched also) {
  for (const std::string_view slot : {"motor", "gearhead", "drive"}) axis[slot] = kept_settings(axis[slot]);
  if (also.brake) axis["brake"] = kept_settings(axis["brake"]);
  if (also.coupling) axis["coupling"] = kept_settings(axis["coupling"]);
  return axis;
}

/// The line of a kind in the picture, and beside its title.
QPen pen_of(std::size_t place) {
  constexpr std::array styles{Qt::SolidLine, Qt::DashLine, Qt::DotLine, Qt::DashDotLine};
  return {theme().parts[place % std::size(theme().parts)], 1.8, styles[place % styles.size()]};
}

QIcon line_icon(const QPen& pen) {
  constexpr int width = 26, height = 10, scale = 2;
  QPixmap picture(width * scale, height * scale);
  picture.setDevicePixelRatio(scale);
  picture.fill(Qt::transparent);
  QPainter painter(&picture);
  painter.setPen(pen);
  painter.drawLine(0, height / 2, width, height / 2);
  return picture;
}

QString side_word(KindReason::Side side) {
  constexpr std::array<const char*, 4> words{"Ruled out", "For it", "Against it", "In doubt"};
  return words[static_cast<std::size_t>(side)];
}

} // namespace

MatchKinds::MatchKinds(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("match_kinds");
  setAccessibleName("Kinds of motor");
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(4);
  advice_ = wrapped_label("kinds_advice", "");
  advice_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
  all->addWidget(advice_);
  table_ = new QTableWidget;
  table_->setObjectName("kinds_table");
  table_->setAccessibleName("Kinds side by side");
  table_->setShowGrid(false);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setWordWrap(true);
  table_->setFont(face(-1));
  table_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  table_->setHorizontalScrollMode(QAbstractItemView::ScrollPerPixel);
  table_->verticalHeader()->hide();
  table_->horizontalHeader()->setHighlightSections(false);
  table_->horizontalHeader()->setFont(face(-1, true));
  table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignBottom);
  connect(table_->horizontalHeader(), &QHeaderView::sectionClicked, this, [this](int section) {
    const auto place = static_cast<std::size_t>(section) - 1;
    if (section > 0 && place < order_.size())
      emit wanted(qt(compared_->kinds[order_[place]].kind->slot.called()));
  });
  all->addWidget(table_, 3);
  auto* host = new QWidget;
  host->setMinimumHeight(140);
  plot_ = make_plot(host, "kinds_plot", "Torque at the head's output; dots: asked");
  plot_->setToolTip(
      "What each kind gives at the gearhead's output, lowest bus; dots: what the load asks there. "
      "The rotor's own torque comes on top of it.");
  all->addWidget(host, 2);
  const auto follow = [this](const QString& name) {
    if (name == kinds_job) tell();
  };
  connect(&session.jobs(), &Jobs::progressed, this, follow);
  connect(&session.jobs(), &Jobs::finished, this, follow);
  restyle();
}

void MatchKinds::renew(const Weights& weights, AlsoSearched also) {
  if (!session_.has_axis()) return;
  const Document& machine = session_.document();
  Axis asked = searched(session_.axis(), also);
  if (asked_ && *asked_ == asked && asked_rules_ && *asked_rules_ == machine.house_rules && asked_duty_ &&
      *asked_duty_ == machine.duty && asked_weights_ == weights && asked_units_ == machine.units)
    return tell();
  if (compared_ && asked_ && asked_->name != asked.name) take(nullptr); // nothing of another axis
  asked_ = std::move(asked);
  asked_rules_ = machine.house_rules;
  asked_duty_ = machine.duty;
  asked_weights_ = weights;
  asked_units_ = machine.units;
  old_ = true;
  session_.jobs().start(kinds_job, [this, axis = session_.axis(), rules = machine.house_rules,
                                    duty = machine.duty, units = machine.units, library = session_.library(),
                                    weights, also](const JobLink& link) {
    KindsRun run;
    run.weights = weights;
    run.units = units;
    run.also = also;
    run.threads = std::max(1U, std::thread::hardware_concurrency());
    run.wanted = [&] { return link.wanted(); };
    run.progress = [&](double share) { link.progress(share); };
    auto found = std::make_shared<const KindsCompared>(compare_kinds(axis, rules, duty, library, run));
    if (found->finished) link.deliver([this, found] { take(found); });
  });
  tell();
}

void MatchKinds::take(std::shared_ptr<const KindsCompared> compared) {
  compared_ = std::move(compared);
  old_ = false;
  order_.clear();
  if (compared_) {
    const auto excluded = [&](std::size_t kind) {
      return std::any_of(compared_->reasons.begin(), compared_->reasons.end(), [&](const KindReason& r) {
        return r.kind == kind && r.side == KindReason::Side::excludes;
      });
    };
    for (std::size_t i = 0; i < compared_->kinds.size(); ++i) order_.push_back(i);
    std::stable_sort(order_.begin(), order_.end(), [&](std::size_t a, std::size_t b) {
      if (excluded(a) != excluded(b)) return !excluded(a);
      const KindCandidate &one = compared_->kinds[a], &other = compared_->kinds[b];
      if (one.judged != other.judged) return one.judged;
      return !excluded(a) ? one.standing < other.standing : one.trial.used < other.trial.used;
    });
  }
  fill();
  draw();
  tell();
}

void MatchKinds::tell() {
  const bool running = session_.jobs().running(kinds_job);
  QString text = compared_ ? qt(compared_->advice) : QString();
  if (running)
    text = QString("Comparing, %1 %. ").arg(100.0 * session_.jobs().progress(kinds_job), 0, 'f', 0) +
           (compared_ ? "Before: " + text : QString());
  advice_->setText(text);
  advice_->setEnabled(!old_);
}

void MatchKinds::add_row(const QString& label, const QString& help, const std::vector<QString>& texts,
                         const std::vector<QString>& more, const std::vector<bool>& best) {
  const int row = table_->rowCount();
  table_->setRowCount(row + 1);
  auto* name = new QTableWidgetItem(label);
  name->setToolTip(help);
  name->setForeground(theme().soft);
  name->setTextAlignment(Qt::AlignLeft | Qt::AlignTop);
  table_->setItem(row, 0, name);
  for (std::size_t i = 0; i < texts.size(); ++i) {
    auto* item = new QTableWidgetItem(texts[i]);
    item->setTextAlignment(Qt::AlignLeft | Qt::AlignTop);
    item->setToolTip(more[i]);
    item->setFont(face(-1, best[i]));
    table_->setItem(row, static_cast<int>(i) + 1, item);
  }
}

/// Before the figures: what decides.
void MatchKinds::fill_reasons() {
  for (const auto side : {KindReason::Side::excludes, KindReason::Side::speaks_for, KindReason::Side::against,
                          KindReason::Side::doubt}) {
    std::vector<QString> texts;
    bool any = false;
    for (const std::size_t kind : order_) {
      QStringList all;
      for (const KindReason& reason : compared_->reasons)
        if (reason.kind == kind && reason.side == side) all << qt(reason.text);
      any = any || !all.isEmpty();
      texts.push_back(all.join('\n'));
    }
    if (any)
      add_row(side_word(side), "", texts, std::vector<QString>(texts.size()),
              std::vector<bool>(texts.size(), false));
  }
}

void MatchKinds::fill() {
  table_->clearSpans();
  table_->setRowCount(0);
  if (!compared_) return;
  QStringList titles{"the best of each\nrow is bold"};
  for (const std::size_t kind : order_) {
    const KindCandidate& candidate = compared_->kinds[kind];
    titles << (compared_->first == kind ? "▸ " : "") + qt(candidate.title).replace(", ", "\n");
  }
  table_->setColumnCount(static_cast<int>(titles.size()));
  table_->setHorizontalHeaderLabels(titles);
  for (std::size_t i = 0; i < order_.size(); ++i)
    if (compared_->kinds[order_[i]].judged)
      table_->horizontalHeaderItem(static_cast<int>(i) + 1)->setIcon(line_icon(pen_of(i)));
  const Duty duty = Duty::from(session_.document().duty);
  const UnitSet units = session_.document().units;
  const auto figures_of = [&](const KindFigureSpec& spec) {
    std::vector<KindFigure> all;
    for (const std::size_t kind : order_)
      all.push_back(compared_->kinds[kind].judged ? spec.figure(compared_->kinds[kind], duty, units)
                                                  : KindFigure{});
    return all;
  };
  for (const KindFigureSpec& spec : kind_figures()) {
    const auto figures = figures_of(spec);
    double best = std::nan("");
    for (const KindFigure& figure : figures)
      if (spec.better == KindFigureSpec::Better::less ? !(figure.value >= best) : !(figure.value <= best))
        if (!std::isnan(figure.value)) best = figure.value;
    std::vector<QString> texts, more;
    std::vector<bool> bold;
    for (const KindFigure& figure : figures) {
      texts.push_back(figure.text.empty() ? "–" : qt(figure.text));
      more.push_back(qt(figure.more));
      bold.push_back(spec.better != KindFigureSpec::Better::neither && figure.value == best);
    }
    add_row(qt(spec.label), qt(spec.help), texts, more, bold);
    if (spec.id == "parts") fill_reasons();
  }
  for (const School& school : compared_->schools) {
    add_row("Two views: " + qt(school.title), "On this practitioners differ",
            {qt(school.one) + "\n" + qt(school.other)}, {QString()}, {false});
    if (order_.size() > 1) table_->setSpan(table_->rowCount() - 1, 1, 1, static_cast<int>(order_.size()));
  }
  table_->setColumnWidth(0, label_width);
  for (int column = 1; column < table_->columnCount(); ++column) table_->setColumnWidth(column, column_width);
  table_->resizeRowsToContents();
}

void MatchKinds::draw() {
  plot_->clearGraphs();
  if (!compared_) return plot_->replot(QCustomPlot::rpQueuedRefresh);
  const Theme& t = theme();
  struct Line {
    OutputPoints points;
    QPen pen;
  };
  std::vector<Line> lines;
  for (std::size_t place = 0; place < order_.size(); ++place) {
    const KindCandidate& kind = compared_->kinds[order_[place]];
    if (!kind.judged) continue;
    lines.push_back({capability_at_output(kind), pen_of(place)});
  }
  OutputPoints demand;
  for (const std::size_t kind : order_)
    if (compared_->kinds[kind].judged) {
      demand = demand_at_output(*compared_->kinds[kind].evaluation->model);
      break;
    }
  double fastest = 0.0, most = 0.0;
  for (const auto& point : demand) {
    fastest = std::max(fastest, point[0]);
    most = std::max(most, point[1]);
  }
  std::vector<double> capable; // N·m at most, of each kind
  for (const Line& line : lines) {
    double best = 0.0;
    for (const auto& point : line.points) best = std::max(best, point[1]);
    capable.push_back(best);
  }
  if (capable.empty()) return plot_->replot(QCustomPlot::rpQueuedRefresh);
  const UnitSet set = session_.document().units;
  constexpr double beyond = 1.6; // of what is asked: the corner that decides is seen, the rest is cut off
  // the first two are seen whole where that leaves what is asked more than a dot at the bottom
  const double strong =
      *std::max_element(capable.begin(), capable.begin() + std::min<std::ptrdiff_t>(2, std::ssize(capable)));
  const double right = beyond * fastest, top = 1.15 * std::max(most, std::min(strong, 5.0 * most));
  const DisplayUnit &x_unit = display_unit(right, Kind::angular_speed, set),
                    &y_unit = display_unit(top, Kind::torque, set);
  const auto add = [&](const OutputPoints& points) {
    QVector<double> x, y;
    for (const auto& point : points) {
      x << point[0] / x_unit.factor;
      y << point[1] / y_unit.factor;
    }
    auto* graph = plot_->addGraph();
    graph->setData(x, y);
    return graph;
  };
  for (const Line& line : lines) add(line.points)->setPen(line.pen);
  auto* cloud = add(demand);
  cloud->setLineStyle(QCPGraph::lsNone);
  cloud->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.ink, t.ink, 2.5));
  plot_->set_units(qt(y_unit.symbol), qt(x_unit.symbol));
  plot_->xAxis->setRange(0.0, std::max(right / x_unit.factor, 1e-9));
  plot_->yAxis->setRange(0.0, std::max(top / y_unit.factor, 1e-9));
  plot_->replot(QCustomPlot::rpQueuedRefresh);
}

void MatchKinds::restyle() {
  style_plot(plot_);
  restyle_notes(plot_);
  fill();
  draw();
}

} // namespace fulmox::app
