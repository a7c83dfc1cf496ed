#include "app/parts/part_model.hpp"

#include "app/session/session.hpp"
#include "app/session/words.hpp"
#include "app/theme/theme.hpp"

#include "core/quantity/format.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

/// The number a part is compared by; of a curve, its first point; NaN where it has none.
double figure(const Section& part, std::string_view field) {
  if (!part.has(field)) return std::nan("");
  const Entry& entry = part.entry(field);
  return entry.curve.empty() ? entry.value : entry.curve.front()[1];
}

QString used_told(const PartFit& fit) {
  if (std::isnan(fit.used)) return "–";
  if (std::isinf(fit.used)) return "✕"; // beyond any measure: the next column says why
  return (fit.fits() ? "" : "✕ ") + percent_used(fit.used);
}

QString why(const PartFit& fit) {
  if (!fit.problem.what.empty()) return qt(fit.problem.what);
  if (std::isnan(fit.used)) return "no limit can be judged";
  const QString more = fit.missed.size() > 1 ? QString(" +%1").arg(fit.missed.size() - 1) : "";
  return qt(fit.worst) + more;
}

/// Broken at its middle: narrow columns let more of them be seen.
QString in_two_lines(QString label) {
  const qsizetype space = label.indexOf(' ', label.size() / 3);
  return space < 0 ? label : label.replace(space, 1, '\n');
}

QString told(const PartFit& fit) {
  if (!fit.problem.what.empty()) return qt(fit.problem.text());
  if (std::isnan(fit.used)) return "No limit can be judged.";
  if (fit.missed.empty())
    return "Fits. Its worst limit: " + qt(fit.worst) + ", " + percent_used(fit.used) + ".";
  QString all = "Does not fit:";
  for (const PartFit::Missed& missed : fit.missed)
    all += "\n" + qt(missed.label) + " " + percent_used(missed.used);
  return all;
}

} // namespace

void PartModel::show(const Parts& parts, const SlotKind& kind, UnitSet units) {
  beginResetModel();
  rows_.clear();
  figures_.clear();
  for (std::size_t i = 0; i < parts.size(); ++i)
    rows_.push_back({i,
                     QString::fromStdString(parts[i].text("part_number")),
                     QString::fromStdString(parts[i].text("maker")),
                     {},
                     {}});
  for (const std::string_view field : kind.columns) {
    double largest = 0.0;
    for (std::size_t i = 0; i < parts.size(); ++i) {
      rows_[i].figures.push_back(figure(parts[i], field));
      if (rows_[i].figures.back() > largest) largest = rows_[i].figures.back();
    }
    const FieldSpec& spec = kind.form->fields[*kind.form->index_of(field)];
    // one unit a column, so that its figures compare at a glance
    const DisplayUnit& unit = display_unit(largest, spec.kind, units);
    figures_.push_back(
        {in_two_lines(qt(spec.label)) + (unit.symbol.empty() ? QString() : "\n" + qt(unit.symbol)),
         unit.factor, unit.offset});
  }
  sorted_by_ = used_column;
  falling_ = false;
  arrange();
  endResetModel();
}

void PartModel::forget_fits() {
  for (Row& row : rows_) row.fit.reset();
  if (!rows_.empty()) emit dataChanged(index(0, used_column), index(rowCount() - 1, why_column));
}

void PartModel::take(const Tried& fits) {
  for (const auto& [place, fit] : fits) rows_[place].fit = fit;
  sort(sorted_by_, falling_ ? Qt::DescendingOrder : Qt::AscendingOrder);
}

void PartModel::search(const QString& words) {
  words_ = words.split(' ', Qt::SkipEmptyParts);
  sort(sorted_by_, falling_ ? Qt::DescendingOrder : Qt::AscendingOrder);
}

int PartModel::row_of(std::size_t place) const {
  for (std::size_t i = 0; i < shown_.size(); ++i)
    if (rows_[shown_[i]].place == place) return static_cast<int>(i);
  return -1;
}

int PartModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(shown_.size());
}

int PartModel::columnCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : first_figure + static_cast<int>(figures_.size());
}

QString PartModel::text(const Row& row, int column) const {
  if (column == name_column) return row.name;
  if (column == used_column) return row.fit ? used_told(*row.fit) : "…";
  if (column == why_column) return row.fit ? why(*row.fit) : QString();
  const auto i = static_cast<std::size_t>(column - first_figure);
  const double value = row.figures[i];
  return std::isnan(value) ? "–" : qt(significant(value / figures_[i].factor - figures_[i].offset));
}

double PartModel::rank(const Row& row, int column) const {
  constexpr double last = 1e12;
  if (column == used_column || column == why_column) return row.fit ? row.fit->rank() : last;
  const double value = row.figures[static_cast<std::size_t>(column - first_figure)];
  return std::isnan(value) ? last : value;
}

void PartModel::arrange() {
  shown_.clear();
  for (std::size_t i = 0; i < rows_.size(); ++i) {
    const bool match = std::all_of(words_.begin(), words_.end(), [&](const QString& word) {
      if (rows_[i].maker.contains(word, Qt::CaseInsensitive)) return true;
      for (int column = 0; column < columnCount(); ++column)
        if (text(rows_[i], column).contains(word, Qt::CaseInsensitive)) return true;
      return false;
    });
    if (match) shown_.push_back(i);
  }
  const auto before = [&](std::size_t a, std::size_t b) {
    if (sorted_by_ == name_column) return rows_[a].name < rows_[b].name;
    return rank(rows_[a], sorted_by_) < rank(rows_[b], sorted_by_);
  };
  std::stable_sort(shown_.begin(), shown_.end(),
                   [&](std::size_t a, std::size_t b) { return falling_ ? before(b, a) : before(a, b); });
}

void PartModel::sort(int column, Qt::SortOrder order) {
  sorted_by_ = column;
  falling_ = order == Qt::DescendingOrder;
  emit layoutAboutToBeChanged();
  const QModelIndexList old = persistentIndexList();
  std::vector<std::size_t> places;
  for (const QModelIndex& index : old) places.push_back(place(index.row()));
  arrange();
  QModelIndexList now;
  for (int i = 0; i < static_cast<int>(old.size()); ++i) {
    const int row = row_of(places[static_cast<std::size_t>(i)]);
    now << (row < 0 ? QModelIndex() : index(row, old[i].column()));
  }
  changePersistentIndexList(old, now);
  emit layoutChanged();
}

QVariant PartModel::data(const QModelIndex& index, int role) const {
  const Row& row = rows_[shown_[static_cast<std::size_t>(index.row())]];
  if (role == Qt::DisplayRole) return text(row, index.column());
  if (role == Qt::TextAlignmentRole)
    return QVariant(
        Qt::AlignVCenter |
        (index.column() == used_column || index.column() >= first_figure ? Qt::AlignRight : Qt::AlignLeft));
  if (role == Qt::ToolTipRole)
    return index.column() == name_column ? row.maker : row.fit ? told(*row.fit) : "Not tried yet.";
  if (role == Qt::ForegroundRole && row.fit && !row.fit->fits() && index.column() < first_figure)
    return index.column() == used_column ? theme().alarm : theme().soft;
  return {};
}

QVariant PartModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal) return {};
  if (role == Qt::TextAlignmentRole)
    return QVariant(Qt::AlignBottom |
                    (section == used_column || section >= first_figure ? Qt::AlignRight : Qt::AlignLeft));
  if (role != Qt::DisplayRole) return {};
  if (section == name_column) return "Part";
  if (section == used_column) return "used";
  if (section == why_column) return "decided by";
  return figures_[static_cast<std::size_t>(section - first_figure)].title;
}

} // namespace fulmox::app
