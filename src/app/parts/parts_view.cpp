#include "app/parts/parts_view.hpp"

#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/sheet/torque_plane.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/list_table.hpp"

#include <QApplication>
#include <QElapsedTimer>
#include <QHeaderView>
#include <QKeyEvent>
#include <QScopedValueRollback>
#include <QSplitter>
#include <QVBoxLayout>

namespace fulmox::app {
namespace {

const QString job = "parts";

QPushButton* outlined(const QString& text, const QString& name, const QString& tip) {
  auto* button = new QPushButton(text);
  button->setObjectName(name);
  button->setProperty("role", "outlined");
  button->setToolTip(tip);
  return button;
}

} // namespace

PartsView::PartsView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), slot_(axis_part_slots().front()), model_(new PartModel(this)) {
  setObjectName("parts_view");
  setAccessibleName("Parts of the library");
  auto* list = new QWidget;
  auto* layout = new QVBoxLayout(list);
  layout->setContentsMargins(8, 6, 8, 4);
  layout->setSpacing(5);
  auto* top = new QHBoxLayout;
  top->setSpacing(4);
  for (const SlotSpec* slot : axis_part_slots()) {
    auto* word = new QToolButton;
    word->setText(qt(slot->part_title()));
    word->setObjectName("parts_" + qt(slot->id));
    word->setCheckable(true);
    word->setProperty("role", "chip");
    connect(word, &QToolButton::clicked, this, [this, slot] { show_slot(*slot); });
    top->addWidget(word);
    words_.push_back(word);
  }
  search_ = new QLineEdit;
  search_->setObjectName("part_search");
  search_->setAccessibleName("Search the parts");
  search_->setPlaceholderText("search…");
  search_->setToolTip("Part number, maker, size or limit");
  search_->setClearButtonEnabled(true);
  top->addWidget(search_, 1);
  layout->addLayout(top);
  constexpr int row_height = 22;
  table_ = list_table("part_table", row_height);
  table_->setModel(model_);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->horizontalHeader()->setMinimumSectionSize(40);
  table_->setSortingEnabled(true);
  table_->setMinimumHeight(120);
  layout->addWidget(table_, 1);
  auto* bottom = new QHBoxLayout;
  bottom->setSpacing(6);
  note_ = new QLabel;
  note_->setObjectName("parts_note");
  note_->setProperty("role", "soft");
  note_->setFont(face(-1));
  note_->setWordWrap(true);
  bottom->addWidget(note_, 1);
  stop_ = new QToolButton;
  stop_->setText("Stop");
  stop_->setObjectName("parts_stop");
  stop_->setProperty("role", "part");
  stop_->setToolTip("Stop trying parts");
  connect(stop_, &QToolButton::clicked, this, [this] {
    session_.jobs().cancel(job);
    tell();
  });
  bottom->addWidget(stop_);
  auto* none = outlined("None", "parts_none", "Leave this place empty");
  back_ = outlined("Back to the old one", "parts_back", "Put back what was there before (Esc)");
  auto* taken = outlined("Take it", "parts_take", "Keep the part that is chosen (Enter)");
  for (QPushButton* button : {none, back_, taken}) bottom->addWidget(button);
  layout->addLayout(bottom);
  auto* halves = new QSplitter(Qt::Vertical);
  halves->setHandleWidth(1);
  halves->setChildrenCollapsible(false);
  halves->addWidget(list);
  halves->addWidget(new TorquePlane(session));
  halves->setStretchFactor(0, 3);
  halves->setStretchFactor(1, 2);
  halves->setSizes({330, 220});
  auto* outer = new QVBoxLayout(this);
  outer->setContentsMargins(0, 0, 0, 0);
  outer->addWidget(halves);

  search_->installEventFilter(this); // the arrow keys walk through the list while one types
  table_->installEventFilter(this);
  connect(search_, &QLineEdit::textChanged, this, [this](const QString& words) { model_->search(words); });
  connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
          [this](const QModelIndex& now) { try_row(now.row()); });
  connect(table_, &QTableView::doubleClicked, this, &PartsView::take);
  connect(taken, &QPushButton::clicked, this, &PartsView::take);
  connect(back_, &QPushButton::clicked, this, &PartsView::put_back);
  connect(none, &QPushButton::clicked, this, &PartsView::take_none);
  connect(&session.jobs(), &Jobs::progressed, this, [this](const QString& name) {
    if (name == job) tell();
  });
  connect(&session.jobs(), &Jobs::finished, this, [this](const QString& name) {
    if (name == job) tell();
  });
  new Refresher(session, this, results_changed, [this](Changes what) { refresh(what); });
}

const Section& PartsView::chosen() const { return session_.axis()[slot_->id]; }

void PartsView::choose_for(const std::string& slot, const QString& return_to) {
  return_to_ = return_to;
  if (const SlotSpec* known = find_slot(slot)) show_slot(*known);
  search_->setFocus();
}

void PartsView::show_slot(const SlotSpec& slot) {
  session_.seal();
  slot_ = &slot;
  const auto all = axis_part_slots();
  for (std::size_t i = 0; i < words_.size(); ++i) words_[i]->setChecked(all[i] == &slot);
  if (!session_.has_axis()) return;
  before_ = chosen();
  axis_index_ = session_.axis_index();
  asked_.reset();
  {
    const QScopedValueRollback quiet(putting_, true);
    search_->clear();
    model_->show(session_.library().of(slot.id), kind_in(slot, chosen()), session_.document().units);
    table_->horizontalHeader()->setSortIndicator(PartModel::used_column, Qt::AscendingOrder);
  }
  fit_columns();
  ask();
  mark_chosen();
}

/// As narrow as a title broken into lines and what stands below it: the more columns are seen.
void PartsView::fit_columns() {
  constexpr int around = 16;
  for (int column = 0; column < model_->columnCount(); ++column)
    table_->setColumnWidth(column, needed_width(*table_, column) + around);
  table_->setColumnWidth(PartModel::used_column, 76); // what comes into these two is not there yet
  table_->setColumnWidth(PartModel::why_column, 150);
}

void PartsView::refresh(Changes what) {
  if (!open_ || !session_.has_axis()) return;
  // another axis: what was in the slot of the one before must never be put back into this one
  if (session_.axis_index() != axis_index_) return show_slot(*slot_);
  if (what.testFlag(Change::units)) return show_slot(*slot_);
  ask();
  if (!putting_) mark_chosen();
  tell();
}

/// Tries every part beside the window, unless the axis is the one they were tried in: what is in the slot
/// does not matter to the others.
void PartsView::ask() {
  Axis axis = session_.axis();
  const Parts& parts = session_.library().of(slot_->id);
  if (parts.empty()) return;
  choose_part(axis, slot_->id, parts.front());
  const Section& rules = session_.document().house_rules;
  if (asked_ && *asked_ == axis && asked_rules_ && *asked_rules_ == rules) return;
  asked_ = axis;
  asked_rules_ = rules;
  model_->forget_fits();
  session_.jobs().start(job, [this, axis, rules, parts, slot = std::string(slot_->id)](const JobLink& link) {
    constexpr qint64 frame = 40; // ms
    QElapsedTimer since;
    since.start();
    PartModel::Tried tried;
    PartTrial trial(axis, slot, rules);
    for (std::size_t i = 0; i < parts.size() && link.wanted(); ++i) {
      tried.emplace_back(i, trial(parts[i]));
      if (since.elapsed() < frame && i + 1 < parts.size()) continue;
      link.deliver([this, tried] {
        model_->take(tried);
        if (!table_->currentIndex().isValid()) mark_chosen();
      });
      link.progress(static_cast<double>(i + 1) / static_cast<double>(parts.size()));
      tried.clear();
      since.restart();
    }
  });
  tell();
}

/// The row of the part that is in the slot becomes the current one; none where it holds something else.
void PartsView::mark_chosen() {
  const QScopedValueRollback quiet(putting_, true);
  const Parts& parts = session_.library().of(slot_->id);
  const std::string number = chosen().has("part_number") ? chosen().text("part_number") : "";
  int row = -1;
  for (std::size_t i = 0; i < parts.size() && !number.empty(); ++i)
    if (parts[i].text("part_number") == number) row = model_->row_of(i);
  table_->setCurrentIndex(row < 0 ? QModelIndex() : model_->index(row, 0));
  if (row >= 0) table_->scrollTo(table_->currentIndex());
  tell();
}

void PartsView::tell() {
  if (!session_.has_axis()) return;
  const bool running = session_.jobs().running(job);
  stop_->setVisible(running);
  const bool changed = before_ && !(*before_ == chosen());
  back_->setEnabled(changed);
  const QString was = before_ ? QString::fromStdString(part_summary(*before_)) : QString();
  QString text = running ? QString("Trying the parts in this axis: %1 %.")
                               .arg(100.0 * session_.jobs().progress(job), 0, 'f', 0)
                         : QString("“used” is the worst limit of the axis with the part; what fits stands "
                                   "first, the tightest at the top. All parts are invented.");
  if (changed) text = "Before: " + was + ". " + (running ? text : QString());
  note_->setText(text);
}

void PartsView::put(const QString& step, const Section& part) {
  const QScopedValueRollback quiet(putting_, true);
  session_.edit(step, "choose " + qt(slot_->id), [&](Document& document) {
    choose_part(document.axes[session_.axis_index()], slot_->id, part);
  });
}

void PartsView::try_row(int row) {
  if (putting_ || row < 0) return;
  const Section& part = session_.library().of(slot_->id)[model_->place(row)];
  if (!before_) before_ = chosen();
  put("Choose " + qt(slot_->part_title()).toLower() + " " + QString::fromStdString(part.text("part_number")),
      part);
  tell();
}

void PartsView::take() {
  if (!session_.has_axis()) return;
  session_.seal();
  before_ = chosen();
  tell();
  emit done(std::exchange(return_to_, {}));
}

void PartsView::take_none() {
  if (!session_.has_axis()) return;
  put("Remove " + qt(slot_->part_title()).toLower(), Section(chosen().spec()));
  take();
}

void PartsView::put_back() {
  if (!session_.has_axis()) return;
  if (before_ && !(*before_ == chosen())) {
    put("Keep " + qt(slot_->part_title()).toLower(), *before_);
    mark_chosen();
  }
  session_.seal();
  emit done(std::exchange(return_to_, {}));
}

/// Opened again, it begins afresh.
void PartsView::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  open_ = true;
  show_slot(*slot_);
}

void PartsView::hideEvent(QHideEvent* event) {
  open_ = false;
  session_.jobs().cancel(job);
  session_.seal();
  QWidget::hideEvent(event);
}

bool PartsView::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() == QEvent::ShortcutOverride && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
    event->accept(); // Escape is ours here
    return true;
  }
  if (event->type() != QEvent::KeyPress) return QWidget::eventFilter(watched, event);
  const int key = static_cast<QKeyEvent*>(event)->key();
  if (key == Qt::Key_Escape) return put_back(), true;
  if (key == Qt::Key_Return || key == Qt::Key_Enter) return take(), true;
  const bool walks =
      key == Qt::Key_Up || key == Qt::Key_Down || key == Qt::Key_PageUp || key == Qt::Key_PageDown;
  if (watched == search_ && walks) {
    if (!table_->currentIndex().isValid() && model_->rowCount() > 0)
      table_->setCurrentIndex(model_->index(0, 0));
    else
      QApplication::sendEvent(table_, event);
    return true;
  }
  return QWidget::eventFilter(watched, event);
}

} // namespace fulmox::app
