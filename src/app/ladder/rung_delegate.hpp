#pragma once
#include "app/widgets/quiet_items.hpp"
#include "core/limits/limit.hpp"

#include <QStyledItemDelegate>

namespace fulmox::app {

/// What an item of the ladder holds for its delegate.
enum RungRole {
  used_role = Qt::UserRole,
  state_role, ///< LimitState as int
  label_role, ///< name of the limit, or the words of a heading
  stale_role,
  attention_role,
  heading_role, ///< true for the line above a group that folds
  share_role,   ///< the used share in words
  worst_role,   ///< the used share at the worst corner
  corner_role,  ///< what makes that corner another state than the typed one; else empty
  limit_role    ///< index among the limits; -1 for a heading
};

/// "85 %" of a used share.
QString used_told(double used);

/// The part of a rung with its bar.
inline constexpr RowPart bar_part{0, 9};
/// The part with the used share, as it was and as it becomes.
RowPart share_part(LimitState state, const QString& label, const QString& before, const QString& after,
                   int row_width);

/// Paints a rung: what is over or tight in full, with the corner that makes it so, what is clear or not
/// judged in one dense line, headings of groups with a mark that they fold.
class RungDelegate : public QStyledItemDelegate {
public:
  using QStyledItemDelegate::QStyledItemDelegate;
  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override;
  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
};

} // namespace fulmox::app
