#include "app/sheet/numbers.hpp"

#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <QApplication>
#include <QClipboard>
#include <QContextMenuEvent>
#include <QMenu>
#include <QPainter>
#include <QStyledItemDelegate>

#include <algorithm>

namespace fulmox::app {
namespace {

enum Role { number_role = Qt::UserRole, unit_role, id_role, stale_role };

/// Label, then the number right-aligned with its unit in lighter ink in a column of its own.
class NumberDelegate : public QStyledItemDelegate {
public:
  using QStyledItemDelegate::QStyledItemDelegate;

  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const Theme& t = theme();
    painter->save();
    if (option.state & QStyle::State_Selected) painter->fillRect(option.rect, t.accent_wash);
    const QRect box = option.rect.adjusted(8, 0, -10, 0);
    constexpr int unit_width = 52;
    painter->setFont(face());
    painter->setPen(t.soft);
    painter->drawText(box, Qt::AlignLeft | Qt::AlignVCenter, index.data(Qt::DisplayRole).toString());
    painter->setPen(index.data(stale_role).toBool() ? t.faint : t.ink);
    painter->setFont(face(0, true));
    painter->drawText(box.adjusted(0, 0, -unit_width, 0), Qt::AlignRight | Qt::AlignVCenter,
                      index.data(number_role).toString());
    painter->setFont(face(-1));
    painter->setPen(t.soft);
    painter->drawText(QRect(box.right() - unit_width + 5, box.top(), unit_width - 5, box.height()),
                      Qt::AlignLeft | Qt::AlignVCenter, index.data(unit_role).toString());
    painter->restore();
  }
};

} // namespace

Numbers::Numbers(Session& session, QWidget* parent) : QListWidget(parent), session_(session) {
  setObjectName("numbers");
  setAccessibleName("Results");
  setFlow(QListView::TopToBottom);
  setWrapping(true);
  setUniformItemSizes(true);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setResizeMode(QListView::Adjust);
  setItemDelegate(new NumberDelegate(this));
  connect(this, &QListWidget::itemActivated, this, &Numbers::open_working);
  connect(this, &QListWidget::itemDoubleClicked, this, &Numbers::open_working);
  new Refresher(session, this, results_changed, [this](Changes) { refresh(); });
}

void Numbers::fit() {
  // in a low window the plots need what the rows can spare
  constexpr int low_window = 740;
  const int row_height = window()->height() < low_window ? 18 : 22;
  const int columns = width() > 620 ? 3 : 2;
  const int rows = std::max(1, (count() + columns - 1) / columns);
  setGridSize(QSize((width() - 2) / columns, row_height));
  const int wanted = rows * row_height + 4;
  if (height() != wanted) setFixedHeight(wanted);
}

void Numbers::resizeEvent(QResizeEvent* event) {
  fit();
  QListWidget::resizeEvent(event);
}

void Numbers::refresh() {
  const Evaluation* e = session_.evaluation();
  const int rows = e != nullptr ? static_cast<int>(e->results.size()) : 0;
  const bool other = count() != rows;
  while (count() > rows) delete takeItem(count() - 1);
  while (count() < rows) addItem(new QListWidgetItem);
  for (int i = 0; i < rows; ++i) {
    const ResultValue& result = e->results[static_cast<std::size_t>(i)];
    const Shown shown = format(result.value, result.kind, session_.document().units);
    QListWidgetItem* line = item(i);
    line->setData(Qt::DisplayRole, qt(result.label));
    line->setData(number_role, qt(shown.number));
    line->setData(unit_role, qt(shown.unit));
    line->setData(id_role, qt(result.id));
    line->setData(stale_role, session_.stale());
    line->setData(Qt::AccessibleTextRole, qt(result.label) + " " + qt(shown.text()));
    line->setToolTip(qt(result.symbol) + ": " + qt(result.help) + "\nF2 shows how it came about.");
  }
  if (other) fit();
}

bool Numbers::select(const QString& id) {
  for (int i = 0; i < count(); ++i)
    if (item(i)->data(id_role).toString() == id) {
      setCurrentRow(i);
      setFocus();
      return true;
    }
  return false;
}

void Numbers::open_working() {
  if (currentItem() != nullptr) emit session_.working_wanted(currentItem()->data(id_role).toString());
}

void Numbers::contextMenuEvent(QContextMenuEvent* event) {
  QListWidgetItem* here = itemAt(event->pos());
  if (here == nullptr) return;
  setCurrentItem(here);
  QMenu menu;
  menu.addAction("Show working\tF2", this, &Numbers::open_working);
  menu.addAction("Copy value", this, [here] {
    QApplication::clipboard()->setText(here->data(number_role).toString() + " " +
                                       here->data(unit_role).toString());
  });
  menu.exec(event->globalPos());
}

} // namespace fulmox::app
