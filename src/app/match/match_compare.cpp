#include "app/match/match_compare.hpp"

#include "app/match/match_model.hpp"
#include "app/session/session.hpp"
#include "app/session/words.hpp"
#include "app/theme/theme.hpp"

#include "core/evaluation/machine.hpp"
#include "core/quantity/format.hpp"

#include <QHeaderView>

#include <cmath>

namespace fulmox::app {
namespace {

struct Cell {
  QString text = "–";
  double value = std::numeric_limits<double>::quiet_NaN(); ///< the less the better
  bool over = false;
};

Cell cell_of(const Limit* limit) {
  if (limit == nullptr) return {};
  if (limit->state == LimitState::not_judged) return {"not judged"};
  const bool over = limit->state == LimitState::over;
  return {(over ? "✕ " : "") + percent_used(limit->used), limit->used, over};
}

} // namespace

MatchCompare::MatchCompare(QWidget* parent) : QTableWidget(parent) {
  setObjectName("match_compare");
  setAccessibleName("Combinations side by side");
  setShowGrid(false);
  setEditTriggers(QAbstractItemView::NoEditTriggers);
  setSelectionBehavior(QAbstractItemView::SelectRows);
  setFont(face(-1));
  verticalHeader()->hide();
  verticalHeader()->setDefaultSectionSize(21);
  horizontalHeader()->setHighlightSections(false);
  horizontalHeader()->setFont(face(-2));
}

void MatchCompare::show(const Axis& axis, const Section& house_rules, UnitSet units,
                        const MatchAnswer& answer, const std::vector<Trial>& trials) {
  std::vector<SharedResult> results;
  for (const Trial& trial : trials)
    results.push_back(work_out(with_parts(axis, answer.space, trial.parts), house_rules, units));
  QStringList titles{"the best of each\nrow is bold"};
  for (const Trial& trial : trials)
    titles << combination_name(answer.space, trial.parts).replace(" · ", "\n").replace(", ", ",\n");
  setRowCount(0);
  setColumnCount(static_cast<int>(titles.size()));
  setHorizontalHeaderLabels(titles);
  horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
  const auto add = [&](const QString& label, const std::vector<Cell>& cells) {
    const int row = rowCount();
    setRowCount(row + 1);
    auto* name = new QTableWidgetItem(label);
    setItem(row, 0, name);
    double best = std::numeric_limits<double>::infinity();
    for (const Cell& cell : cells)
      if (cell.value < best) best = cell.value;
    for (std::size_t i = 0; i < cells.size(); ++i) {
      auto* item = new QTableWidgetItem(cells[i].text);
      item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
      QFont font = face(-1, cells.size() > 1 && cells[i].value == best);
      item->setFont(font);
      if (cells[i].over) item->setForeground(theme().alarm);
      setItem(row, static_cast<int>(i) + 1, item);
    }
  };
  for (const Yardstick& yardstick : yardsticks()) {
    std::vector<Cell> cells;
    for (const Trial& trial : trials) {
      const double value = yardstick.value(answer.space, trial);
      Cell cell;
      cell.value = value;
      if (std::isfinite(value))
        cell.text =
            yardstick.id == "used" ? percent_used(value) : qt(format(value, yardstick.kind, units).text());
      cells.push_back(cell);
    }
    add(qt(yardstick.label), cells);
  }
  // every limit that any of them has, in the order of the first one's ladder
  std::vector<std::string_view> ids;
  for (const SharedResult& result : results)
    if (result->evaluation)
      for (const Limit& limit : result->evaluation->limits)
        if (std::find(ids.begin(), ids.end(), limit.id) == ids.end()) ids.push_back(limit.id);
  for (const std::string_view id : ids) {
    std::vector<Cell> cells;
    for (const SharedResult& result : results) {
      const Limit* found = nullptr;
      if (result->evaluation)
        for (const Limit& limit : result->evaluation->limits)
          if (limit.id == id) found = &limit;
      cells.push_back(cell_of(found));
    }
    add(qt(label_of_limit(id)), cells);
  }
}

} // namespace fulmox::app
