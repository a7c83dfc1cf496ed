#include "app/widgets/list_table.hpp"

#include "app/theme/theme.hpp"

#include <QHeaderView>

#include <algorithm>

namespace fulmox::app {

QTableView* list_table(const char* name, int row_height) {
  auto* table = new QTableView;
  table->setObjectName(name);
  table->setSelectionBehavior(QAbstractItemView::SelectRows);
  table->setShowGrid(false);
  table->setWordWrap(false);
  table->setFont(face(-1));
  table->horizontalHeader()->setFont(face(-2));
  table->horizontalHeader()->setHighlightSections(false);
  table->horizontalHeader()->setStretchLastSection(true);
  table->verticalHeader()->hide();
  table->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
  table->verticalHeader()->setDefaultSectionSize(row_height);
  return table;
}

int needed_width(const QTableView& table, int column) {
  constexpr int looked_at = 60;
  const QAbstractItemModel& model = *table.model();
  const QFontMetrics title = table.horizontalHeader()->fontMetrics(), cell(face(-1));
  int width = 0;
  for (const QString& line : model.headerData(column, Qt::Horizontal, Qt::DisplayRole).toString().split('\n'))
    width = std::max(width, title.horizontalAdvance(line));
  for (int row = 0; row < std::min(model.rowCount(), looked_at); ++row)
    width = std::max(width, cell.horizontalAdvance(model.index(row, column).data().toString()));
  return width;
}

} // namespace fulmox::app
