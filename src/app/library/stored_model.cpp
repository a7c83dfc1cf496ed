#include "app/library/stored_model.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"

#include <algorithm>
#include <array>

namespace fulmox::app {

void StoredModel::show(const Catalogue& catalogue, const std::string& slot) {
  beginResetModel();
  parts_ = catalogue.of(slot);
  kinds_.clear();
  for (const SlotKind& one : find_part_slot(slot)->kinds()) kinds_[one.form] = qt(one.called());
  sources_.clear();
  for (const PartSource& source : catalogue.sources()) sources_.push_back(source.name);
  remarks_.assign(parts_.size(), std::nullopt);
  arrange();
  endResetModel();
}

void StoredModel::take(const Checked& checked) {
  for (const auto& [at, of] : checked)
    if (at < remarks_.size()) remarks_[at] = of;
  if (!shown_.empty()) emit dataChanged(index(0, remarks), index(rowCount() - 1, remarks));
}

void StoredModel::search(const QString& words) {
  beginResetModel();
  words_ = words.toLower().split(' ', Qt::SkipEmptyParts);
  arrange();
  endResetModel();
}

void StoredModel::arrange() {
  shown_.clear();
  for (std::size_t i = 0; i < parts_.size(); ++i) {
    QString all;
    for (int column = 0; column < remarks; ++column) all += text(i, column).toLower() + " ";
    if (std::all_of(words_.begin(), words_.end(), [&](const QString& word) { return all.contains(word); }))
      shown_.push_back(i);
  }
  std::stable_sort(shown_.begin(), shown_.end(), [&](std::size_t a, std::size_t b) {
    return std::pair(parts_[a].part.text("maker"), parts_[a].part.text("part_number")) <
           std::pair(parts_[b].part.text("maker"), parts_[b].part.text("part_number"));
  });
}

int StoredModel::row_of(const PartName& name) const {
  for (std::size_t i = 0; i < shown_.size(); ++i)
    if (!parts_[shown_[i]].hidden_by && name_of(parts_[shown_[i]].part) == name) return static_cast<int>(i);
  return -1;
}

QString StoredModel::text(std::size_t at, int column) const {
  const StoredPart& stored = parts_[at];
  switch (column) {
  case number:
    return QString::fromStdString(stored.part.text("part_number"));
  case maker:
    return QString::fromStdString(stored.part.text("maker"));
  case kind:
    return kinds_.at(&stored.part.spec());
  case price:
    return QString::fromStdString(stored.part.text("price"));
  case from:
    return QString::fromStdString(sources_[stored.source]) + (stored.hidden_by ? ", hidden" : "");
  default:
    break;
  }
  if (!remarks_[at]) return "…";
  const auto count = [&](PartRemark::Grade grade) {
    return std::count_if(remarks_[at]->begin(), remarks_[at]->end(),
                         [&](const PartRemark& remark) { return remark.grade == grade; });
  };
  QStringList all;
  for (const auto grade :
       {PartRemark::Grade::contradiction, PartRemark::Grade::implausible, PartRemark::Grade::missing})
    if (const auto of = count(grade); of > 0) all << QString("%1 %2").arg(of).arg(qt(word(grade)));
  return all.isEmpty() ? "sound" : all.join(", ");
}

/// What stands behind the row.
QString StoredModel::told(std::size_t at) const {
  const StoredPart& stored = parts_[at];
  QString text = QString::fromStdString(sources_[stored.source] + ", " + stored.file + ", line " +
                                        std::to_string(stored.line));
  if (stored.hidden_by) {
    const StoredPart& counts = parts_[*stored.hidden_by];
    text += "\nHidden: the same part in " +
            QString::fromStdString(sources_[counts.source] + ", line " + std::to_string(counts.line)) +
            " counts" + (counts.part == stored.part ? ", which tells the same." : ", which tells otherwise.");
  }
  if (remarks_[at])
    for (const PartRemark& remark : *remarks_[at])
      text += "\n" + qt(word(remark.grade)) + ": " + QString::fromStdString(remark.text);
  return text;
}

int StoredModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(shown_.size());
}
int StoredModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : columns; }

/// Of a column and its title.
static int alignment_of(int column) {
  return int((column == StoredModel::price ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
}

QVariant StoredModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid()) return {};
  const std::size_t at = place(index.row());
  if (role == Qt::DisplayRole) return text(at, index.column());
  if (role == Qt::ToolTipRole) return told(at);
  if (role == Qt::TextAlignmentRole) return alignment_of(index.column());
  if (role == Qt::ForegroundRole && parts_[at].hidden_by) return theme().soft;
  return {};
}

QVariant StoredModel::headerData(int section, Qt::Orientation orientation, int role) const {
  constexpr std::array<const char*, columns> titles{"Part number", "Maker", "Kind", "Price", "From", "Sheet"};
  if (orientation != Qt::Horizontal) return {};
  if (role == Qt::TextAlignmentRole) return alignment_of(section);
  if (role != Qt::DisplayRole) return {};
  return titles[static_cast<std::size_t>(section)];
}

} // namespace fulmox::app
