#include "app/ladder/ladder_panel.hpp"

#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

enum Role {
  used_role = Qt::UserRole,
  state_role,
  label_role,
  stale_role,
  attention_role,
  path_role,
  reason_role
};

QString percent(double used) {
  if (!std::isfinite(used)) return "none left";
  return used > 9.995 ? "> 999 %" : QString::number(100.0 * used, 'f', 0) + " %";
}

class RungDelegate : public QStyledItemDelegate {
public:
  using QStyledItemDelegate::QStyledItemDelegate;

  QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {200, 30}; }

  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const Theme& t = theme();
    const auto state = static_cast<LimitState>(index.data(state_role).toInt());
    const bool stale = index.data(stale_role).toBool();
    painter->save();
    if (option.state & QStyle::State_Selected) painter->fillRect(option.rect, t.accent_wash);
    const QRect box = option.rect.adjusted(8, 3, -8, -3);
    const QColor ink = stale                             ? t.faint
                       : state == LimitState::over       ? t.alarm
                       : state == LimitState::not_judged ? t.soft
                                                         : t.ink;
    painter->setPen(ink);
    painter->setFont(face(0, state == LimitState::over || state == LimitState::tight));
    painter->drawText(QRect(box.left(), box.top(), 18, 16), Qt::AlignLeft | Qt::AlignVCenter,
                      glyph(static_cast<int>(state)));
    const QString value =
        state == LimitState::not_judged ? QString("not judged") : percent(index.data(used_role).toDouble());
    painter->drawText(QRect(box.left(), box.top(), box.width(), 16), Qt::AlignRight | Qt::AlignVCenter,
                      value);
    const int room = box.width() - 20 - painter->fontMetrics().horizontalAdvance(value) - 6;
    painter->drawText(
        QRect(box.left() + 20, box.top(), room, 16), Qt::AlignLeft | Qt::AlignVCenter,
        painter->fontMetrics().elidedText(index.data(label_role).toString(), Qt::ElideRight, room));
    if (state != LimitState::not_judged) draw_bar(painter, box, index, state, stale);
    painter->restore();
  }

private:
  /// The bar ends at 100 % one eighth before the edge, so that what is over shows as over.
  static void draw_bar(QPainter* painter, const QRect& box, const QModelIndex& index, LimitState state,
                       bool stale) {
    const Theme& t = theme();
    const double full = box.width() * 0.875;
    const double used = std::min(index.data(used_role).toDouble(), 1.14);
    const QRectF track(box.left(), box.bottom() - 4, full, 4);
    painter->fillRect(track, t.rule);
    const QRectF bar(track.left(), track.top(), std::max(1.0, full * used), 4);
    const QColor fill = stale                        ? t.faint
                        : state == LimitState::over  ? t.alarm
                        : state == LimitState::tight ? t.ink
                                                     : t.accent;
    painter->fillRect(bar, fill);
    painter->setPen(QPen(t.soft, 1));
    painter->drawLine(QPointF(track.right(), track.top() - 1), QPointF(track.right(), track.bottom() + 1));
    const double attention = track.left() + full * index.data(attention_role).toDouble();
    painter->drawLine(QPointF(attention, track.bottom()), QPointF(attention, track.bottom() + 2));
  }
};

class WarningDelegate : public QStyledItemDelegate {
public:
  using QStyledItemDelegate::QStyledItemDelegate;
  static constexpr auto flags = Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap;

  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const int width = (option.widget != nullptr ? option.widget->width() : 240) - 30;
    const int title = QFontMetrics(face(0, true))
                          .boundingRect(QRect(0, 0, width, 1000), flags, index.data(label_role).toString())
                          .height();
    const int reason = QFontMetrics(face(-1))
                           .boundingRect(QRect(0, 0, width, 1000), flags, index.data(reason_role).toString())
                           .height();
    return {width, title + reason + 10};
  }

  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const Theme& t = theme();
    painter->save();
    if (option.state & QStyle::State_Selected) painter->fillRect(option.rect, t.accent_wash);
    QRect box = option.rect.adjusted(8, 4, -8, -2);
    painter->setFont(face(0, true));
    painter->setPen(t.ink);
    QRect used;
    painter->drawText(box, flags, index.data(label_role).toString(), &used);
    box.setTop(used.bottom() + 2);
    painter->setFont(face(-1));
    painter->setPen(t.soft);
    painter->drawText(box, flags, index.data(reason_role).toString());
    painter->restore();
  }
};

QListWidget* make_list(const QString& name, QStyledItemDelegate* delegate) {
  auto* list = new QListWidget;
  list->setObjectName(name);
  list->setItemDelegate(delegate);
  list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  delegate->setParent(list);
  return list;
}

QString rung_tip(const Limit& limit, const Document& document) {
  const UnitSet units = document.units;
  if (limit.state == LimitState::not_judged) return qt(limit.reason) + "\nClick to go to the missing value.";
  QString tip = qt(format(limit.demand, limit.kind, units).text()) + " of " +
                qt(format(limit.capacity, limit.kind, units).text());
  if (limit.moment) tip += "\nbinds at " + qt(format(limit.moment->time, Kind::time, units).text());
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
  layout->addWidget(rungs_, 5);
  hint_ = new QLabel("Every limit of the axis appears here as soon as the load, the mechanism and a move are "
                     "known: worst at the top, length = used share.");
  hint_->setProperty("role", "soft");
  hint_->setWordWrap(true);
  hint_->setContentsMargins(8, 4, 8, 12);
  layout->addWidget(hint_);
  second_title_ = new QLabel;
  second_title_->setFont(face(0, true));
  second_title_->setContentsMargins(8, 8, 8, 4);
  layout->addWidget(second_title_);
  second_ = make_list("second_look", new WarningDelegate);
  second_->setAccessibleName("Second look");
  second_->setWordWrap(true);
  layout->addWidget(second_, 2);
  connect(rungs_, &QListWidget::itemClicked, this,
          [this](QListWidgetItem* item) { choose(rungs_->row(item)); });
  connect(rungs_, &QListWidget::itemActivated, this,
          [this](QListWidgetItem* item) { choose(rungs_->row(item)); });
  const auto to_input = [this](QListWidgetItem* item) {
    emit session_.input_wanted(item->data(path_role).toString());
  };
  connect(second_, &QListWidget::itemClicked, this, to_input);
  connect(second_, &QListWidget::itemActivated, this, to_input);
  new Refresher(session, this, results_changed, [this](Changes) { refresh(); });
}

void LadderPanel::refresh() {
  const Evaluation* e = session_.evaluation();
  state_->setVisible((!session_.problem().what.empty() || !session_.trial().isEmpty()) &&
                     session_.has_axis());
  QString note = session_.problem_told();
  if (session_.stale()) note += "\nShown are the last good results.";
  if (!session_.trial().isEmpty()) note = "Tried: " + session_.trial() + "\n" + note;
  state_->setText(note);
  const int count = e != nullptr ? static_cast<int>(e->limits.size()) : 0;
  while (rungs_->count() > count) delete rungs_->takeItem(rungs_->count() - 1);
  while (rungs_->count() < count) rungs_->addItem(new QListWidgetItem);
  const double attention = session_.document().house_rules.term("attention");
  for (int i = 0; i < count; ++i) {
    const Limit& limit = e->limits[static_cast<std::size_t>(i)];
    QListWidgetItem* item = rungs_->item(i);
    item->setData(used_role, limit.used);
    item->setData(state_role, static_cast<int>(limit.state));
    item->setData(label_role, qt(limit.label));
    item->setData(stale_role, session_.stale());
    item->setData(attention_role, attention);
    item->setData(path_role, qt(limit.id));
    item->setData(Qt::AccessibleTextRole,
                  qt(word(limit.state)) + ", " + percent(limit.used) + ", " + qt(limit.label));
    item->setToolTip(rung_tip(limit, session_.document()));
  }
  hint_->setVisible(count == 0);
  const int warnings = e != nullptr ? static_cast<int>(e->warnings.size()) : 0;
  second_title_->setText(QString("Second look (%1)").arg(warnings));
  second_title_->setVisible(warnings > 0);
  second_->setVisible(warnings > 0);
  while (second_->count() > warnings) delete second_->takeItem(second_->count() - 1);
  while (second_->count() < warnings) second_->addItem(new QListWidgetItem);
  for (int i = 0; i < warnings; ++i) {
    const Warning& warning = e->warnings[static_cast<std::size_t>(i)];
    QListWidgetItem* item = second_->item(i);
    item->setData(label_role, qt(warning.title));
    item->setData(reason_role, qt(warning.reason));
    item->setData(path_role, qt(warning.input));
    item->setData(Qt::AccessibleTextRole, qt(warning.title) + ". " + qt(warning.reason));
    item->setToolTip("Click to go to the input.");
  }
}

void LadderPanel::choose(int row) {
  const Evaluation* e = session_.evaluation();
  if (e == nullptr || row < 0 || row >= static_cast<int>(e->limits.size())) return;
  const Limit limit = e->limits[static_cast<std::size_t>(row)];
  if (limit.state == LimitState::not_judged) {
    emit session_.input_wanted(qt(limit.input));
    return;
  }
  if (limit.moment) session_.set_cursor(limit.moment->time);
  emit session_.working_wanted(qt(limit.step));
}

} // namespace fulmox::app
