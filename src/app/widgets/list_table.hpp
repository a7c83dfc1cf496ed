#pragma once
#include <QTableView>

namespace fulmox::app {

/// A list to walk through: whole rows, no grid, low rows.
QTableView* list_table(const char* name, int row_height);
/// As narrow as a title broken into lines and what stands in the first rows below it.
int needed_width(const QTableView& table, int column);

} // namespace fulmox::app
