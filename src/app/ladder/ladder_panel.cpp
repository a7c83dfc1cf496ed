#include "app/ladder/ladder_panel.hpp"

#include "app/ladder/bus_note.hpp"
#include "app/ladder/rung_delegate.hpp"
#include "app/ladder/warning_delegate.hpp"
#include "app/session/corner_watch.hpp"
#include "app/session/machine_watch.hpp"
#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/quiet_items.hpp"
#include "core/quantity/format.hpp"

#include <QHelpEvent>
#include <QToolTip>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

QListWidget* make_list(const QString& name, QStyledItemDelegate* delegate) {
  auto* list = new QListWidget;
  list->setObjectName(name);
  list->setItemDelegate(delegate);
  list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  delegate->setParent(list);
  return list;
}

void set_count(QListWidget* list, std::size_t count) {
  while (list->count() > static_cast<int>(count)) delete list->takeItem(list->count() - 1);
  while (list->count() < static_cast<int>(count)) list->addItem(new QListWidgetItem);
}

/// "Motor, torque constant at its least; Load, friction at its most".
QString where(const LimitCorner& corner) {
  QStringList all;
  for (const CornerInput& input : corner.at) all << qt(input.label) + " " + qt(input.where());
  return all.join("; ");
}

/// The spread that does most and which way, short enough for a rung: "torque constant low".
QString mainly(const LimitCorner& corner) {
  const auto found = std::find_if(corner.at.begin(), corner.at.end(),
                                  [&](const CornerInput& input) { return input.path == corner.mainly; });
  const CornerInput& input = found != corner.at.end() ? *found : corner.at.front();
  return qt(input.label).section(", ", -1) + (input.end > 0.0 ? " high" : " low");
}

QString rung_tip(const Limit& limit, const LimitCorner* corner, const Document& document) {
  const UnitSet units = document.units;
  if (limit.state == LimitState::not_judged)
    return qt(limit.reason) + "\nClick or press Enter to go to the missing value.";
  QString tip = qt(format(limit.demand, limit.kind, units).text()) + " of " +
                qt(format(limit.capacity, limit.kind, units).text());
  if (limit.moment) tip += "\nbinds at " + qt(format(limit.moment->time, Kind::time, units).text());
  if (corner != nullptr)
    tip += "\n" + used_told(corner->worst) + " at the worst corner of the typed spreads: " + where(*corner);
  if (!limit.rule.empty()) tip += "\n" + qt(limit.rule);
  tip += "\ntight from " + qt(document.house_rules.text("attention")) + ", house rules “" +
         qt(document.house_rules.text("name")) + "”";
  return tip;
}

} // namespace

LadderPanel::LadderPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  auto* title = new QLabel("Limits");
  title->setFont(face(0, true));
  title->setContentsMargins(8, 8, 8, 4);
  layout->addWidget(title);
  state_ = new QLabel;
  state_->setObjectName("stale_note");
  state_->setProperty("role", "fault");
  state_->setWordWrap(true);
  state_->setContentsMargins(8, 0, 8, 6);
  state_->hide();
  layout->addWidget(state_);
  rungs_ = make_list("ladder", new RungDelegate);
  rungs_->setAccessibleName("Limits ladder");
  rungs_->viewport()->installEventFilter(this);
  layout->addWidget(rungs_, 5);
  hint_ = new QLabel("Every limit of the axis appears here as soon as the load, the mechanism and a move are "
                     "known: worst at the top, length = used share.");
  hint_->setProperty("role", "soft");
  hint_->setWordWrap(true);
  hint_->setContentsMargins(8, 4, 8, 12);
  layout->addWidget(hint_);
  shared_ = new QLabel;
  shared_->setObjectName("shared_bus_note");
  shared_->setProperty("role", "soft");
  shared_->setWordWrap(true);
  shared_->setContentsMargins(8, 4, 8, 2);
  connect(shared_, &QLabel::linkActivated, this, [this] { emit session_.view_requested("machine"); });
  layout->addWidget(shared_);
  second_title_ = new QLabel;
  second_title_->setFont(face(0, true));
  second_title_->setContentsMargins(8, 8, 8, 4);
  layout->addWidget(second_title_);
  second_ = make_list("second_look", new WarningDelegate);
  second_->setAccessibleName("Second look");
  layout->addWidget(second_, 2);
  connect(rungs_, &QListWidget::itemClicked, this, &LadderPanel::choose);
  connect(rungs_, &QListWidget::itemActivated, this, &LadderPanel::choose);
  const auto to_input = [this](const QListWidgetItem* item) {
    emit session_.input_requested(item->data(WarningDelegate::input_role).toString());
  };
  connect(second_, &QListWidget::itemClicked, this, to_input);
  connect(second_, &QListWidget::itemActivated, this, to_input);
  new Refresher(session, this, results_changed, [this](Changes) { refresh(); });
  new Refresher(session, this, Changes(Change::machine) | Change::theme, [this](Changes) { show_bus(); });
  connect(&session.machine_watch(), &MachineWatch::found, this, [this] {
    if (isVisible()) show_bus();
  });
  connect(&session.corner_watch(), &CornerWatch::found, this, [this] {
    if (session_.evaluation() != nullptr) show_rungs(session_.evaluation()->limits);
  });
}

void LadderPanel::refresh() {
  const Evaluation* e = session_.evaluation();
  const bool noted = (!session_.problem().what.empty() || !session_.trial().isEmpty()) && session_.has_axis();
  QString note = session_.problem_told();
  if (session_.stale()) note += "\nShown are the last good results.";
  if (!session_.trial().isEmpty()) note = "Tried: " + session_.trial() + "\n" + note;
  if (state_->text() != note) state_->setText(note);
  state_->setVisible(noted);
  show_rungs(e != nullptr ? std::span<const Limit>(e->limits) : std::span<const Limit>());
  hint_->setVisible(rungs_->count() == 0);
  show_bus();
  show_warnings();
}

void LadderPanel::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  show_bus();
}

void LadderPanel::show_bus() {
  const QString note = bus_note(session_);
  if (shared_->text() != note) shared_->setText(note);
  shared_->setVisible(!note.isEmpty() && rungs_->count() > 0);
}

/// Limits come worst first, those not judged last; a heading goes before those that are clear and those that
/// are not judged.
void LadderPanel::show_rungs(std::span<const Limit> limits) {
  std::vector<LimitState> states;
  for (const Limit& limit : limits) states.push_back(shown_state(limit));
  const auto count_of = [&](LimitState state) {
    return static_cast<std::size_t>(std::count(states.begin(), states.end(), state));
  };
  const std::size_t clear = count_of(LimitState::clear), unknown = count_of(LimitState::not_judged);
  set_count(rungs_, limits.size() + (clear > 0 ? 1 : 0) + (unknown > 0 ? 1 : 0));
  QuietItems items(*rungs_);
  int row = 0;
  // in their own order, but for a fit that counts as clear though it is used to the full
  for (const LimitState group :
       {LimitState::over, LimitState::tight, LimitState::clear, LimitState::not_judged}) {
    const bool foldable = group == LimitState::clear || group == LimitState::not_judged;
    const std::size_t count = count_of(group);
    if (foldable && count > 0) show_heading(items, row++, group, count);
    for (std::size_t i = 0; i < limits.size(); ++i) {
      if (states[i] != group) continue;
      show_limit(items, row, i);
      hide(items, row++, foldable && folded(group));
    }
  }
}

/// Clear as typed and over at a corner is over; while new corners are on their way the last ones only warn.
LimitState LadderPanel::shown_state(const Limit& limit) const {
  const LimitCorner* corner = session_.corner_watch().worse(limit.id);
  if (corner == nullptr || limit.state == LimitState::not_judged) return limit.state;
  return std::max(corner->state, limit.state); // in the order clear, tight, over
}

void LadderPanel::hide(QuietItems& items, int row, bool hidden) {
  if (rungs_->isRowHidden(row) == hidden) return;
  rungs_->setRowHidden(row, hidden);
  items.relayout();
}

void LadderPanel::show_heading(QuietItems& items, int row, LimitState group, std::size_t count) {
  const QString mark = folded(group) ? "▸ " : "▾ ";
  const QString words = QString("%1 %2").arg(count).arg(qt(word(group)));
  become(items, row, true, group, {});
  items.set_unseen(row, limit_role, -1);
  items.set(row, label_role, mark + words);
  items.set_unseen(row, Qt::AccessibleTextRole, words + (folded(group) ? ", folded" : ""));
  hide(items, row, false);
}

/// Headings and rungs of different states differ in height.
void LadderPanel::become(QuietItems& items, int row, bool heading, LimitState state, const QString& corner) {
  const QListWidgetItem* item = rungs_->item(row);
  if (item->data(heading_role) != heading || item->data(state_role) != static_cast<int>(state) ||
      item->data(corner_role).toString().isEmpty() != corner.isEmpty())
    items.relayout();
  items.set(row, heading_role, heading);
  items.set(row, state_role, static_cast<int>(state));
  items.set(row, corner_role, corner);
}

void LadderPanel::show_limit(QuietItems& items, int row, std::size_t index) {
  const Limit& limit = session_.evaluation()->limits[index];
  const LimitState state = shown_state(limit);
  const LimitCorner* corner = session_.corner_watch().worse(limit.id);
  const QString told = state != limit.state ? used_told(corner->worst) + ", " + mainly(*corner) : QString();
  become(items, row, false, state, told);
  // in steps that can be seen: what looks the same is not painted again
  const auto seen = [](double used) {
    constexpr double steps = 400.0;
    return std::isfinite(used) ? std::round(used * steps) / steps : used;
  };
  items.set(row, used_role, seen(limit.used), bar_part);
  items.set(row, worst_role, seen(corner != nullptr ? corner->worst : limit.used), bar_part);
  items.set(row, label_role, qt(limit.label));
  items.set(row, stale_role, session_.stale());
  items.set(row, attention_role, session_.document().house_rules.term("attention").value);
  items.set_unseen(row, limit_role, static_cast<int>(index));
  const QString used = used_told(limit.used);
  const QString before = rungs_->item(row)->data(share_role).toString();
  if (used != before)
    items.set(row, share_role, used,
              share_part(state, qt(limit.label), before, used, rungs_->viewport()->width()));
  items.set_unseen(row, Qt::AccessibleTextRole,
                   qt(word(state)) + ", " + used + ", " + (told.isEmpty() ? "" : told + ", ") +
                       qt(limit.label));
}

void LadderPanel::show_warnings() {
  const Evaluation* e = session_.evaluation();
  const std::size_t count = e != nullptr ? e->warnings.size() : 0;
  second_title_->setText(QString("Second look (%1)").arg(count));
  second_title_->setVisible(count > 0);
  second_->setVisible(count > 0);
  set_count(second_, count);
  QuietItems items(*second_);
  for (std::size_t i = 0; i < count; ++i) {
    const Warning& warning = e->warnings[i];
    const int row = static_cast<int>(i);
    const QString told = qt(warning.title) + ". " + qt(warning.reason);
    if (second_->item(row)->data(Qt::AccessibleTextRole) != told) items.relayout();
    items.set(row, WarningDelegate::title_role, qt(warning.title));
    items.set(row, WarningDelegate::reason_role, qt(warning.reason));
    items.set_unseen(row, WarningDelegate::input_role, qt(warning.input));
    items.set_unseen(row, Qt::AccessibleTextRole, told);
    items.set_unseen(row, Qt::ToolTipRole, "Click or press Enter to go to the input.");
  }
}

bool LadderPanel::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() != QEvent::ToolTip || watched != rungs_->viewport())
    return QWidget::eventFilter(watched, event);
  const auto* help = static_cast<QHelpEvent*>(event);
  const QListWidgetItem* item = rungs_->itemAt(help->pos());
  const Evaluation* e = session_.evaluation();
  if (item == nullptr || e == nullptr) return false;
  const int index = item->data(limit_role).toInt();
  QString tip = "Click or press Enter to fold or unfold.";
  if (index >= 0) {
    const Limit& limit = e->limits[static_cast<std::size_t>(index)];
    tip = rung_tip(limit, session_.corner_watch().worse(limit.id), session_.document());
  }
  QToolTip::showText(help->globalPos(), tip, rungs_->viewport(), rungs_->visualItemRect(item));
  return true;
}

void LadderPanel::choose(const QListWidgetItem* item) {
  const Evaluation* e = session_.evaluation();
  if (e == nullptr) return;
  if (item->data(heading_role).toBool()) {
    bool& fold = folded(static_cast<LimitState>(item->data(state_role).toInt()));
    fold = !fold;
    return show_rungs(e->limits);
  }
  const auto index = static_cast<std::size_t>(item->data(limit_role).toInt());
  if (index >= e->limits.size()) return;
  const Limit limit = e->limits[index];
  if (limit.state == LimitState::not_judged) {
    emit session_.input_requested(qt(limit.input));
    return;
  }
  if (limit.moment) session_.set_cursor(limit.moment->time);
  emit session_.limit_chosen(limit.id);
  emit session_.working_requested(qt(limit.step));
}

} // namespace fulmox::app
