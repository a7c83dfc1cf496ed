#include "app/ladder/rung_delegate.hpp"

#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

constexpr int full_height = 30, corner_height = 45, dense_height = 21, heading_height = 24;
constexpr int rung_margin = 8, mark_width = 18; // px

bool in_full(LimitState state) { return state == LimitState::over || state == LimitState::tight; }

LimitState state_of(const QModelIndex& index) {
  return static_cast<LimitState>(index.data(state_role).toInt());
}

QFont font_of(LimitState state) { return in_full(state) ? face(0, true) : face(-1); }

/// In a narrow ladder long names get along with smaller letters rather than be cut off.
QFont name_font(LimitState state, int row_width) {
  constexpr int narrow = 230;
  return row_width < narrow ? face(-1) : font_of(state);
}

/// The bar ends at 100 % one eighth before the edge, so that what is over shows as over.
void draw_bar(QPainter* painter, const QRectF& track, const QModelIndex& index, LimitState state,
              bool stale) {
  const Theme& t = theme();
  const double used = std::min(index.data(used_role).toDouble(), 1.14);
  painter->fillRect(track, t.rule);
  const QRectF bar(track.left(), track.top(), std::max(1.0, track.width() * used), track.height());
  const QColor fill = stale                        ? t.faint
                      : state == LimitState::over  ? t.alarm
                      : state == LimitState::tight ? t.ink
                                                   : t.accent;
  painter->fillRect(bar, fill);
  // from as typed to the worst corner: a thin line on
  const double worst = track.left() + track.width() * std::min(index.data(worst_role).toDouble(), 1.14);
  if (worst > bar.right() + 1.0)
    painter->fillRect(QRectF(bar.right(), track.center().y() - 0.5, worst - bar.right(), 1.0), fill);
  painter->setPen(QPen(t.soft, 1));
  painter->drawLine(QPointF(track.right(), track.top() - 1), QPointF(track.right(), track.bottom() + 1));
  const double attention = track.left() + track.width() * index.data(attention_role).toDouble();
  painter->drawLine(QPointF(attention, track.bottom()), QPointF(attention, track.bottom() + 2));
}

void paint_heading(QPainter* painter, const QRect& box, const QModelIndex& index) {
  painter->setPen(theme().soft);
  draw_line(*painter, box, Qt::AlignLeft | Qt::AlignVCenter, index.data(label_role).toString(),
            face(-1, true));
}

} // namespace

QString used_told(double used) {
  if (!std::isfinite(used)) return "none left";
  return used > 9.995 ? "> 999 %" : QString::number(100.0 * used, 'f', 0) + " %";
}

RowPart share_part(LimitState state, const QString& label, const QString& before, const QString& after,
                   int row_width) {
  const QFont font = font_of(state);
  return part_of_value(line_width(before, font), line_width(after, font),
                       line_width(label, name_font(state, row_width)),
                       row_width - 2 * rung_margin - mark_width, rung_margin);
}

QSize RungDelegate::sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const {
  if (index.data(heading_role).toBool()) return {200, heading_height};
  if (!in_full(state_of(index))) return {200, dense_height};
  return {200, index.data(corner_role).toString().isEmpty() ? full_height : corner_height};
}

void RungDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option,
                         const QModelIndex& index) const {
  const Theme& t = theme();
  if (option.state & QStyle::State_Selected) painter->fillRect(option.rect, t.accent_wash);
  const QRect box = option.rect.adjusted(rung_margin, 0, -rung_margin, 0);
  if (index.data(heading_role).toBool()) return paint_heading(painter, box, index);
  const LimitState state = state_of(index);
  const bool stale = index.data(stale_role).toBool();
  painter->setPen(stale                             ? t.faint
                  : state == LimitState::over       ? t.alarm
                  : state == LimitState::not_judged ? t.soft
                                                    : t.ink);
  const bool full = in_full(state);
  const QFont font = font_of(state);
  const QRect line(box.left(), box.top() + (full ? 3 : 0), box.width(), full ? 16 : dense_height - 5);
  draw_line(*painter, line, Qt::AlignLeft | Qt::AlignVCenter, glyph(static_cast<int>(state)), font);
  const QString value = state == LimitState::not_judged ? "not judged" : index.data(share_role).toString();
  const int taken = draw_line(*painter, line, Qt::AlignRight | Qt::AlignVCenter, value, font);
  draw_line(*painter, line.adjusted(mark_width, 0, -taken - 4, 0), Qt::AlignLeft | Qt::AlignVCenter,
            index.data(label_role).toString(), name_font(state, option.rect.width()));
  if (state == LimitState::not_judged) return;
  if (const QString corner = index.data(corner_role).toString(); !corner.isEmpty())
    draw_line(*painter, line.adjusted(mark_width, 16, 0, 14), Qt::AlignLeft | Qt::AlignVCenter, corner,
              face(-1));
  const double height = full ? 4.0 : 2.0;
  draw_bar(painter, QRectF(box.left(), option.rect.bottom() - height - 2.0, box.width() * 0.875, height),
           index, state, stale);
}

} // namespace fulmox::app
