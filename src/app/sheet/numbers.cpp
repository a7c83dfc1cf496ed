#include "app/sheet/numbers.hpp"

#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"
#include "app/widgets/quiet_items.hpp"
#include "core/quantity/format.hpp"

#include <QApplication>
#include <QClipboard>
#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QMenu>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QToolTip>

#include <algorithm>
#include <array>

namespace fulmox::app {
namespace {

enum Role { number_role = Qt::UserRole, unit_role, id_role, stale_role, place_role };

constexpr int unit_column = 52, before_label = 8, after_unit = 10; // px

/// The results of a group that are always seen.
constexpr std::size_t always_seen = 5;

/// Label, then the number right-aligned with its unit in lighter ink in a column of its own.
class NumberDelegate : public QStyledItemDelegate {
public:
  using QStyledItemDelegate::QStyledItemDelegate;

  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const Theme& t = theme();
    if (option.state & QStyle::State_Selected) painter->fillRect(option.rect, t.accent_wash);
    const QRect box = option.rect.adjusted(before_label, 0, -after_unit, 0);
    const QString label = index.data(Qt::DisplayRole).toString();
    painter->setPen(t.soft);
    if (index.data(place_role).toInt() < 0) {
      draw_line(*painter, box, Qt::AlignLeft | Qt::AlignVCenter, label, face(-1, true));
      return;
    }
    const QRect number = box.adjusted(0, 0, -unit_column, 0);
    painter->setPen(index.data(stale_role).toBool() ? t.faint : t.ink);
    const int taken = draw_line(*painter, number, Qt::AlignRight | Qt::AlignVCenter,
                                index.data(number_role).toString(), face(0, true));
    painter->setPen(t.soft);
    draw_line(*painter, number.adjusted(0, 0, -taken - 4, 0), Qt::AlignLeft | Qt::AlignVCenter, label,
              face());
    draw_line(*painter, QRect(box.right() - unit_column + 5, box.top(), unit_column - 4, box.height()),
              Qt::AlignLeft | Qt::AlignVCenter, index.data(unit_role).toString(), face(-1));
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
  connect(this, &QListWidget::itemActivated, this, &Numbers::activate);
  connect(this, &QListWidget::itemDoubleClicked, this, &Numbers::activate);
  connect(this, &QListWidget::itemClicked, this, [this](const QListWidgetItem* line) {
    if (line->data(place_role).toInt() == more) unfold(!all_);
  });
  new Refresher(session, this, results_changed, [this](Changes) { refresh(); });
}

int Numbers::column_count() const { return width() > 600 ? 3 : 2; }

/// Each column holds whole groups; with more groups than columns the last ones share a column once all is
/// shown, and are left for then.
std::vector<int> Numbers::arrange() const {
  const Evaluation* e = session_.evaluation();
  if (e == nullptr) return {};
  std::array<std::vector<int>, 4> groups;
  for (std::size_t i = 0; i < e->results.size(); ++i)
    groups[static_cast<std::size_t>(e->results[i].group)].push_back(static_cast<int>(i));
  std::vector<std::vector<int>> columns(static_cast<std::size_t>(column_count()));
  bool left_out = false;
  std::size_t filled = 0;
  for (std::size_t g = 0; g < groups.size(); ++g) {
    if (groups[g].empty()) continue;
    const bool shares = filled >= columns.size();
    const std::size_t column = std::min(filled++, columns.size() - 1);
    // heat and train are short: together they are as long as one of the others
    const bool fits = !shares || columns[column].size() + groups[g].size() < always_seen + 1;
    if (!fits && !all_) {
      left_out = true;
      continue;
    }
    columns[column].push_back(first_heading - static_cast<int>(g));
    for (std::size_t i = 0; i < groups[g].size(); ++i) {
      if (i >= always_seen && !all_) left_out = true;
      if (i < always_seen || all_) columns[column].push_back(groups[g][i]);
    }
  }
  std::size_t rows = 0;
  for (const auto& column : columns) rows = std::max(rows, column.size());
  if (left_out || all_) {
    if (columns.back().size() == rows) ++rows;
    columns.back().resize(rows, blank);
    columns.back().back() = more;
  }
  std::vector<int> places;
  for (auto& column : columns) {
    column.resize(rows, blank);
    places.insert(places.end(), column.begin(), column.end());
  }
  return places;
}

void Numbers::fit() {
  // in a low window the plots need what the rows can spare
  constexpr int low_window = 740;
  const int row_height = window()->height() < low_window ? 18 : 20;
  const int columns = column_count();
  setGridSize(QSize((width() - 2) / columns, row_height));
  rows_ = static_cast<int>(places_.size()) / columns;
  const int wanted = rows_ * row_height + 4;
  if (height() != wanted) setFixedHeight(wanted);
}

void Numbers::resizeEvent(QResizeEvent* event) {
  if (arrange() != places_)
    refresh();
  else
    fit();
  QListWidget::resizeEvent(event);
}

void Numbers::refresh() {
  const std::vector<int> places = arrange();
  const bool other = places != places_;
  places_ = places;
  const int count_wanted = static_cast<int>(places.size());
  while (count() > count_wanted) delete takeItem(count() - 1);
  while (count() < count_wanted) addItem(new QListWidgetItem);
  row_width_ = count_wanted > 0 ? visualItemRect(item(0)).width() : 0;
  QuietItems items(*this);
  for (int i = 0; i < count_wanted; ++i) {
    const int place = places[static_cast<std::size_t>(i)];
    if (place >= 0) {
      show_result(items, i, static_cast<std::size_t>(place));
      continue;
    }
    const QString words = place == more    ? (all_ ? QString("fewer ▴") : QString("more ▾"))
                          : place == blank ? QString()
                                           : qt(title_of(static_cast<ResultGroup>(first_heading - place)));
    items.set(i, place_role, place);
    items.set(i, Qt::DisplayRole, words);
    items.set_unseen(i, id_role, QString());
    items.set_unseen(i, Qt::AccessibleTextRole, words);
    item(i)->setFlags(place == more ? Qt::ItemIsEnabled | Qt::ItemIsSelectable : Qt::NoItemFlags);
  }
  if (!other) return;
  items.relayout();
  fit();
}

RowPart Numbers::part_of_number(const QString& label, const QString& before, const QString& after) const {
  const QFont font = face(0, true);
  return part_of_value(line_width(before, font), line_width(after, font), line_width(label, face()),
                       row_width_ - before_label - after_unit - unit_column, after_unit + unit_column);
}

void Numbers::show_result(QuietItems& items, int row, std::size_t index) {
  const ResultValue& result = session_.evaluation()->results[index];
  const Shown shown = format(result.value, result.kind, session_.document().units);
  items.set(row, place_role, static_cast<int>(index));
  items.set(row, Qt::DisplayRole, qt(result.label));
  const QString number = qt(shown.number), before = item(row)->data(number_role).toString();
  if (number != before) items.set(row, number_role, number, part_of_number(qt(result.label), before, number));
  items.set(row, unit_role, qt(shown.unit), RowPart{after_unit + unit_column, 0});
  items.set_unseen(row, id_role, qt(result.id));
  items.set(row, stale_role, session_.stale());
  items.set_unseen(row, Qt::AccessibleTextRole, qt(result.label) + " " + qt(shown.text()));
  item(row)->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
}

bool Numbers::viewportEvent(QEvent* event) {
  if (event->type() != QEvent::ToolTip) return QListWidget::viewportEvent(event);
  const auto* help = static_cast<QHelpEvent*>(event);
  const QListWidgetItem* line = itemAt(help->pos());
  const Evaluation* e = session_.evaluation();
  const int place = line != nullptr ? line->data(place_role).toInt() : static_cast<int>(blank);
  if (e == nullptr || place < 0 || place >= static_cast<int>(e->results.size())) return false;
  const ResultValue& result = e->results[static_cast<std::size_t>(place)];
  QToolTip::showText(help->globalPos(),
                     qt(result.symbol) + ": " + qt(result.help) + "\nF2 shows how it came about.", viewport(),
                     visualItemRect(line));
  return true;
}

bool Numbers::select(const QString& id) {
  for (const bool everything : {all_, true}) {
    unfold(everything);
    for (int i = 0; i < count(); ++i)
      if (item(i)->data(id_role).toString() == id) {
        setCurrentRow(i);
        setFocus();
        return true;
      }
  }
  return false;
}

void Numbers::unfold(bool all) {
  if (all == all_) return;
  all_ = all;
  refresh();
}

void Numbers::activate() {
  if (currentItem() == nullptr) return;
  if (currentItem()->data(place_role).toInt() == more) return unfold(!all_);
  if (!current_result().isEmpty()) emit session_.working_requested(current_result());
}

QString Numbers::current_result() const {
  return currentItem() != nullptr ? currentItem()->data(id_role).toString() : QString();
}

void Numbers::contextMenuEvent(QContextMenuEvent* event) {
  QListWidgetItem* here = itemAt(event->pos());
  if (here == nullptr || here->data(place_role).toInt() < 0) return;
  setCurrentItem(here);
  QMenu menu;
  menu.addAction("Show working\tF2", this, &Numbers::activate);
  menu.addAction("Copy value", this, [here] {
    QApplication::clipboard()->setText(here->data(number_role).toString() + " " +
                                       here->data(unit_role).toString());
  });
  menu.exec(event->globalPos());
}

} // namespace fulmox::app
