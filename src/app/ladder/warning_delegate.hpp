#pragma once
#include <QStyledItemDelegate>

namespace fulmox::app {

/// Paints a warning of the second look: its title, and its reason below in lighter ink.
class WarningDelegate : public QStyledItemDelegate {
public:
  enum Role { title_role = Qt::UserRole, reason_role, input_role };

  using QStyledItemDelegate::QStyledItemDelegate;
  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override;
  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
};

} // namespace fulmox::app
