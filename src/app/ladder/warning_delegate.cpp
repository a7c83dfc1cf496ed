#include "app/ladder/warning_delegate.hpp"

#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"

#include <QPainter>
#include <QWidget>

namespace fulmox::app {

QSize WarningDelegate::sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const {
  const int width = (option.widget != nullptr ? option.widget->width() : 240) - 30;
  return {width, paragraph_height(index.data(title_role).toString(), face(0, true), width) +
                     paragraph_height(index.data(reason_role).toString(), face(-1), width) + 10};
}

void WarningDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option,
                            const QModelIndex& index) const {
  const Theme& t = theme();
  if (option.state & QStyle::State_Selected) painter->fillRect(option.rect, t.accent_wash);
  const int width = (option.widget != nullptr ? option.widget->width() : 240) - 30;
  QRect box(option.rect.left() + 8, option.rect.top() + 4, width, option.rect.height() - 6);
  painter->setPen(t.ink);
  box.setTop(box.top() + draw_paragraph(*painter, box, index.data(title_role).toString(), face(0, true)) + 1);
  painter->setPen(t.soft);
  draw_paragraph(*painter, box, index.data(reason_role).toString(), face(-1));
}

} // namespace fulmox::app
