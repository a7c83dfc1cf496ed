#include "app/match/match_view.hpp"

#include "app/match/match_choices.hpp"
#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/list_table.hpp"
#include "app/widgets/page_stack.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/project/chosen_parts.hpp"

#include <QHeaderView>
#include <QKeyEvent>
#include <QScopedValueRollback>
#include <QVBoxLayout>

#include <algorithm>
#include <numeric>
#include <thread>

namespace fulmox::app {
MatchView::MatchView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), search_(session, this), table_(make_table()),
      model_(new MatchModel(this)) {
  setObjectName("match_view");
  setAccessibleName("Combinations of parts");
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(8, 6, 8, 4);
  all->setSpacing(4);
  head_ = new MatchHead;
  all->addWidget(head_);
  choice_row_ = choice_row();
  all->addWidget(choice_row_);
  weights_ = new MatchWeights;
  all->addWidget(weights_);
  table_->setModel(model_);
  table_->installEventFilter(this);
  plot_ = new MatchPlot;
  ruled_out_ = new MatchRuledOut(session);
  choices_ = choices_table();
  kinds_ = new MatchKinds(session);
  compare_ = new MatchCompare;
  body_ = new PageStack;
  auto* list = new QWidget;
  auto* column = new QVBoxLayout(list);
  column->setContentsMargins(0, 0, 0, 0);
  column->addWidget(table_, 3);
  column->addWidget(plot_, 2);
  ways_ = new MatchWays(session);
  column->addWidget(ways_, 2);
  for (QWidget* page : {list, static_cast<QWidget*>(ruled_out_), static_cast<QWidget*>(compare_),
                        static_cast<QWidget*>(choices_), static_cast<QWidget*>(kinds_)})
    body_->addWidget(page);
  all->addWidget(body_, 1);
  bottom_ = bottom();
  all->addWidget(bottom_);
  filters_->count_by([this] {
    const auto& answer = search_.answer();
    if (answer == nullptr) return MatchFilters::Counts();
    const auto& fits = answer->result.fits;
    const Filter& filter = filters_->filter();
    const unsigned threads = std::thread::hardware_concurrency();
    return MatchFilters::Counts{facet_counts(answer->space, fits, filter, threads),
                                count_in_stock(answer->space, fits, filter, threads)};
  });
  connect(filters_, &MatchFilters::changed, this, &MatchView::arrange);
  connect(head_, &MatchHead::turned, this, &MatchView::turn_to);
  connect(head_, &MatchHead::stopped, &search_, &MatchSearch::stop);
  connect(weights_, &MatchWeights::changed, this, &MatchView::arrange);
  connect(&search_, &MatchSearch::found, this, &MatchView::arrange);
  connect(&search_, &MatchSearch::progressed, this, &MatchView::tell);
  connect(plot_, &MatchPlot::picked, this, &MatchView::pick);
  connect(plot_, &MatchPlot::turned, this, &MatchView::arrange);
  connect(ways_, &MatchWays::taken, this, [this](const Way& way) {
    if (can_apply()) put_in(selected().front(), way.axis, changes_told(way));
  });
  connect(kinds_, &MatchKinds::wanted, this, [this](const QString& kind) {
    filters_->only("motor.kind", kind.toStdString());
    turn_to(MatchHead::fits);
  });
  connect(table_->selectionModel(), &QItemSelectionModel::selectionChanged, this,
          &MatchView::follow_selection);
  connect(table_, &QTableView::doubleClicked, this, &MatchView::apply);
  new Refresher(session, this, results_changed | Change::machine | Change::theme,
                [this](Changes what) { refresh(what); });
}

QTableView* MatchView::make_table() {
  constexpr int row_height = 21;
  QTableView* table = list_table("match_table", row_height);
  table->setAccessibleName("Combinations");
  table->setSelectionMode(QAbstractItemView::ExtendedSelection);
  table->horizontalHeader()->setMinimumSectionSize(36);
  table->setMinimumHeight(110);
  return table;
}

/// What is listed, and what else is tried.
QWidget* MatchView::choice_row() {
  auto* widget = new QWidget;
  auto* row = new QHBoxLayout(widget);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  filters_ = new MatchFilters;
  row->addWidget(filters_, 1);
  told_ = new QLabel;
  told_->setObjectName("match_told");
  told_->setProperty("role", "soft");
  told_->setFont(face(-1));
  told_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred); // its words move nothing else
  told_->setToolTip("While all are tried the best of those before stand in the list, tried again first");
  row->addWidget(told_, 1);
  const auto box = [&](const char* name, const char* text, const char* tip) {
    auto* check = new QCheckBox(text);
    check->setObjectName(name);
    check->setToolTip(tip);
    check->setFont(face(-1));
    connect(check, &QCheckBox::toggled, this, [this] {
      search_.also({brakes_->isChecked(), couplings_->isChecked()}, asked());
    });
    row->addWidget(check);
    return check;
  };
  brakes_ = couplings_ = nullptr;
  brakes_ = box("match_brakes", "brakes", "Try every brake of the library as well");
  couplings_ = box("match_couplings", "couplings", "Try every coupling of the library as well");
  return widget;
}

QWidget* MatchView::bottom() {
  auto* widget = new QWidget;
  auto* row = new QHBoxLayout(widget);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  detail_ = wrapped_label("match_detail", "soft");
  detail_->setFont(face(-1));
  row->addWidget(detail_, 1);
  reason_ = new QLineEdit;
  reason_->setObjectName("match_reason");
  reason_->setAccessibleName("Why this one");
  reason_->setPlaceholderText("why this one");
  reason_->setToolTip("Your own words, kept with the machine");
  reason_->setMinimumWidth(140);
  row->addWidget(reason_);
  apply_ = outlined_button("match_apply", "Put into the axis");
  apply_->setToolTip("Puts the chosen parts into the axis, in one step that can be undone (Enter)");
  connect(apply_, &QPushButton::clicked, this, &MatchView::apply);
  row->addWidget(apply_);
  return widget;
}

void MatchView::turn_to(MatchHead::Page page) {
  page_ = page;
  if (page == MatchHead::compare) {
    compared_ = selected();
    if (compared_.size() > MatchCompare::most) compared_.resize(MatchCompare::most);
  }
  arrange();
}

void MatchView::refresh(Changes what) {
  if (what.testFlag(Change::theme)) {
    plot_->restyle();
    kinds_->restyle();
  }
  if (!open_ || !session_.has_axis()) return;
  search_.renew(asked());
  // the answer is the same until another one is found: an edit has nothing to list
  if (what.testFlag(Change::units) || page_ == MatchHead::choices || page_ == MatchHead::kinds)
    arrange();
  else
    tell();
}

void MatchView::arrange() {
  if (!open_ || !session_.has_axis()) return;
  const bool list = page_ == MatchHead::fits || page_ == MatchHead::misses;
  body_->setCurrentIndex(list                          ? 0
                         : page_ == MatchHead::killers ? 1
                         : page_ == MatchHead::compare ? 2
                         : page_ == MatchHead::choices ? 3
                                                       : 4);
  choice_row_->setVisible(list);
  weights_->setVisible(list || page_ == MatchHead::kinds);
  bottom_->setVisible(list);
  if (list) show_list();
  if (page_ == MatchHead::killers) ruled_out_->show(search_.answer(), search_.old());
  if (page_ == MatchHead::choices) show_choices(*choices_, session_.document(), session_.axis().name);
  if (page_ == MatchHead::kinds) kinds_->renew(weights_->weights(), search_.also());
  if (page_ == MatchHead::compare && search_.answer())
    compare_->show(session_.axis(), session_.document().house_rules, session_.document().units,
                   *search_.answer(), compared_);
  tell();
}

ListAsked MatchView::asked() const {
  return {weights_->weights(), filters_->filter(), &plot_->across(), &plot_->up()};
}

/// Places among the fits, in their order.
const std::vector<std::size_t>& MatchView::listed() const {
  static const std::vector<std::size_t> none;
  const auto& answer = shown_answer();
  return answer ? answer->list(asked()).order : none;
}

std::size_t MatchView::passing() const {
  const auto& answer = shown_answer();
  return answer ? answer->list(asked()).passing : 0;
}

/// Of what fits the first that are known of the axis as it is, where that is all there is.
const std::shared_ptr<const MatchAnswer>& MatchView::shown_answer() const {
  return page_ != MatchHead::misses && search_.so_far() != nullptr ? search_.so_far() : search_.answer();
}

void MatchView::show_list() {
  const auto& answer = shown_answer();
  if (answer == nullptr) {
    const QScopedValueRollback quiet(arranging_, true);
    model_->show(nullptr, {}, false, session_.document().units);
    plot_->show(nullptr, session_.document().units);
    return;
  }
  const auto marked = selected();
  {
    const QScopedValueRollback quiet(arranging_, true);
    const MatchList& list = answer->list(asked());
    std::vector<std::size_t> rows = list.rows;
    if (page_ == MatchHead::misses) {
      rows.resize(answer->result.misses.size());
      std::iota(rows.begin(), rows.end(), std::size_t{0});
    }
    model_->show(answer, std::move(rows), page_ == MatchHead::misses, session_.document().units);
    fit_columns();
    plot_->setVisible(page_ == MatchHead::fits);
    ways_->setVisible(page_ == MatchHead::misses);
    if (page_ == MatchHead::fits) plot_->show(answer, session_.document().units);
    for (const Trial& trial : marked)
      if (const int row = model_->row_of(trial.parts); row >= 0)
        table_->selectionModel()->select(model_->index(row, 0),
                                         QItemSelectionModel::Select | QItemSelectionModel::Rows);
  }
  // of what is known so far the first is nothing to keep to
  const bool whole = search_.answer() != nullptr;
  if (whole && !table_->selectionModel()->hasSelection() && model_->rowCount() > 0) table_->selectRow(0);
  follow_selection();
}

/// As narrow as what stands in them.
void MatchView::fit_columns() {
  constexpr int around = 11, widest = 150;
  for (int column = 0; column < model_->columnCount(); ++column)
    table_->setColumnWidth(column, std::min(needed_width(*table_, column) + around, widest));
}

void MatchView::tell() {
  const auto& answer = search_.answer();
  const bool running = search_.running();
  QString text;
  const int percent = static_cast<int>(100.0 * search_.progress());
  if (running) text = QString("trying, %1 %").arg(percent);
  if (running && search_.so_far())
    text = QString("%1 %, so far %2").arg(percent).arg(search_.so_far()->result.fits.size());
  if (answer && !answer->result.problem.what.empty())
    text = qt(answer->result.problem.text());
  else if (answer && !running)
    text = "of " + grouped(answer->result.tried) + (search_.old() ? ", as it was before" : "");
  told_->setText(text);
  const auto number = [&](std::size_t of) {
    return answer ? grouped(static_cast<double>(of)) : QString("…");
  };
  const std::size_t marked = page_ == MatchHead::compare ? compared_.size() : selected().size();
  head_->tell({search_.so_far() ? QString("…") : number(passing()),
               number(answer ? answer->result.misses.size() : 0), std::min(marked, MatchCompare::most),
               running},
              page_);
  apply_->setEnabled(can_apply());
}

/// One is marked, and the answer belongs to what is typed: an old one would put back more than its parts.
bool MatchView::can_apply() const {
  return !search_.old() && search_.answer() != nullptr && selected().size() == 1 && !session_.read_only();
}

std::vector<Trial> MatchView::selected() const {
  std::vector<Trial> all;
  if (search_.answer() == nullptr || model_->rowCount() == 0) return all;
  auto rows = table_->selectionModel()->selectedRows();
  std::sort(rows.begin(), rows.end(),
            [](const QModelIndex& a, const QModelIndex& b) { return a.row() < b.row(); });
  for (const QModelIndex& row : rows) all.push_back(model_->trial(row.row()));
  return all;
}

void MatchView::follow_selection() {
  if (arranging_) return;
  const auto marked = selected();
  plot_->mark(marked.size() == 1 ? std::optional(marked.front().parts) : std::nullopt);
  QString text = marked.empty()
                     ? QString()
                     : QString("%1 are marked: Compare shows them side by side.").arg(marked.size());
  if (marked.size() == 1 && shown_answer()) {
    const int row = model_->row_of(marked.front().parts);
    text = told_of(*shown_answer(), model_->trial(row), page_ == MatchHead::misses).replace('\n', "  ");
  }
  detail_->setText(text);
  look_for_ways(marked);
  tell();
}

/// Of one near miss that belongs to what is typed.
void MatchView::look_for_ways(const std::vector<Trial>& marked) {
  if (page_ != MatchHead::misses) return;
  if (marked.size() != 1 || search_.old()) return ways_->clear();
  ways_->look_at(with_parts(session_.axis(), search_.answer()->space, marked.front().parts),
                 marked.front().worst);
}

void MatchView::pick(const Combination& parts) {
  const int row = model_->row_of(parts);
  if (row < 0) return;
  table_->selectRow(row);
  table_->scrollTo(model_->index(row, 0));
}

void MatchView::apply() {
  if (!can_apply() || !session_.has_axis()) return;
  const Trial trial = selected().front();
  put_in(trial, with_parts(session_.axis(), search_.answer()->space, trial.parts), "");
}

/// One step: the axis with the parts, and why they were taken.
void MatchView::put_in(const Trial& trial, const Axis& axis, const QString& change) {
  const auto answer = search_.answer();
  const QString filter = filters_->told();
  const Section record =
      record_of_choice(session_.axis().name, *answer, trial, listed(),
                       weights_->told() + (filter.isEmpty() ? "" : "; " + filter),
                       (change.isEmpty() ? "" : change + ". ") + reason_->text().trimmed());
  session_.seal();
  session_.edit("Take " + combination_name(answer->space, trial.parts) +
                    (change.isEmpty() ? "" : " and " + change),
                "", [&](Document& document) {
                  document.axes[session_.axis_index()] = axis;
                  document.lists[std::string(chosen_parts_list().id)].push_back(record);
                  number_sections(document);
                });
  session_.seal();
  reason_->clear();
}

bool MatchView::eventFilter(QObject* watched, QEvent* event) {
  if (watched == table_ && event->type() == QEvent::KeyPress) {
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Return || key == Qt::Key_Enter) return apply(), true;
  }
  return QWidget::eventFilter(watched, event);
}

void MatchView::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  open_ = true;
  search_.renew(asked());
  arrange();
}

void MatchView::hideEvent(QHideEvent* event) {
  open_ = false;
  search_.stop();
  QWidget::hideEvent(event);
}

} // namespace fulmox::app
