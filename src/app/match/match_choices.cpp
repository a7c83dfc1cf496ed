#include "app/match/match_choices.hpp"

#include "app/match/match_model.hpp"
#include "app/session/session.hpp"
#include "app/study/table.hpp"
#include "core/project/chosen_parts.hpp"

#include <QDate>

#include <cmath>

namespace fulmox::app {

QTableWidget* choices_table() {
  QTableWidget* table = reading_table({"Chosen", "when", "why"});
  table->setObjectName("match_choices");
  table->setWordWrap(true);
  return table;
}

void show_choices(QTableWidget& table, const Document& machine, const std::string& axis) {
  const auto& all = machine.lists.find(chosen_parts_list().id)->second;
  table.setRowCount(0);
  for (auto it = all.rbegin(); it != all.rend(); ++it) {
    if (it->text("axis") != axis) continue;
    const int row = table.rowCount();
    table.setRowCount(row + 1);
    set_cell(&table, row, 0, QString::fromStdString(it->text("chosen")));
    set_cell(&table, row, 1, QString::fromStdString(it->text("date")));
    set_cell(&table, row, 2, QString::fromStdString(it->text("reason")));
    const QString more = "Rivals: " + QString::fromStdString(it->text("rivals")) +
                         "\nWeights: " + QString::fromStdString(it->text("weights"));
    for (int column = 0; column < 3; ++column) table.item(row, column)->setToolTip(more);
  }
}

Section record_of_choice(const std::string& axis, const MatchAnswer& answer, const Trial& trial,
                         const std::vector<std::size_t>& listed, const QString& weights,
                         const QString& reason) {
  const auto in_words = [&](const Trial& one) {
    QString text = combination_name(answer.space, one.parts) + ": " + qt(one.worst) + " " +
                   QString::number(100.0 * one.used, 'f', 0) + " %";
    const double price = find_yardstick("price")->value(answer.space, one);
    if (std::isfinite(price)) text += ", price " + QString::number(price);
    return text;
  };
  QStringList rivals;
  constexpr int told = 3;
  for (const std::size_t place : listed)
    if (rivals.size() < told && !(answer.result.fits[place].parts == trial.parts))
      rivals << in_words(answer.fit(place));
  Section record(chosen_parts_section());
  record.type("axis", axis);
  record.type("date", QDate::currentDate().toString(Qt::ISODate).toStdString());
  record.type("chosen", in_words(trial).toStdString());
  record.type("rivals", rivals.join("; ").toStdString());
  record.type("weights", weights.toStdString());
  record.type("reason", reason.toStdString());
  return record;
}

} // namespace fulmox::app
