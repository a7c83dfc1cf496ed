#pragma once
#include <QHeaderView>
#include <QTableWidget>

namespace fulmox::app {

/// A calm table for reading: no grid, right-aligned figures, rows selected whole.
inline QTableWidget* reading_table(const QStringList& columns) {
  auto* table = new QTableWidget(0, static_cast<int>(columns.size()));
  table->setHorizontalHeaderLabels(columns);
  table->setShowGrid(false);
  table->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table->setSelectionBehavior(QAbstractItemView::SelectRows);
  table->setSelectionMode(QAbstractItemView::SingleSelection);
  table->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  table->verticalHeader()->hide();
  table->verticalHeader()->setDefaultSectionSize(22);
  table->horizontalHeader()->setHighlightSections(false);
  table->horizontalHeader()->setDefaultAlignment(Qt::AlignRight | Qt::AlignVCenter);
  table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  table->horizontalHeader()->setMinimumSectionSize(20);
  table->horizontalHeaderItem(0)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  return table;
}

inline void set_cell(QTableWidget* table, int row, int column, const QString& text, bool strong = false) {
  auto* item = new QTableWidgetItem(text);
  item->setTextAlignment((column == 0 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
  QFont font = table->font();
  font.setBold(strong);
  item->setFont(font);
  table->setItem(row, column, item);
}

} // namespace fulmox::app
