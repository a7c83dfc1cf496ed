#pragma once
#include "app/match/match_search.hpp"
#include "core/project/document.hpp"

#include <QString>

class QTableWidget;

namespace fulmox::app {

/// The table of what was chosen before, and why.
QTableWidget* choices_table();
/// Fills it with the choices kept for an axis, the latest first.
void show_choices(QTableWidget& table, const Document& machine, const std::string& axis);

/// What is kept of a choice: it, the three best rivals of the list, what was weighed, the user's own words.
Section record_of_choice(const std::string& axis, const MatchAnswer& answer, const Trial& trial,
                         const std::vector<std::size_t>& listed, const QString& weights,
                         const QString& reason);

} // namespace fulmox::app
