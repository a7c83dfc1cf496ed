#pragma once
#include "core/library/catalogue.hpp"
#include "core/sheets/part_checks.hpp"

#include <QAbstractTableModel>

#include <map>
#include <optional>
#include <vector>

namespace fulmox::app {

/// The parts of a slot in all libraries, hidden ones too: where each stands, which one counts, what is to be
/// remarked on its sheet.
class StoredModel : public QAbstractTableModel {
  Q_OBJECT

public:
  enum Column { number, maker, kind, price, from, remarks, columns };

  using QAbstractTableModel::QAbstractTableModel;

  /// The parts of a slot; they are copied.
  void show(const Catalogue& catalogue, const std::string& slot);
  using Checked = std::vector<std::pair<std::size_t, std::vector<PartRemark>>>; ///< by place
  void take(const Checked& checked);
  /// Only parts whose texts hold all these words.
  void search(const QString& words);

  [[nodiscard]] std::size_t place(int row) const { return shown_[static_cast<std::size_t>(row)]; }
  [[nodiscard]] const StoredPart& part(std::size_t place) const { return parts_[place]; }
  [[nodiscard]] std::size_t size() const { return parts_.size(); }
  /// The row of a part that counts; -1 when it is not listed.
  [[nodiscard]] int row_of(const PartName& name) const;

  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

private:
  [[nodiscard]] QString text(std::size_t place, int column) const;
  [[nodiscard]] QString told(std::size_t place) const;
  void arrange();

  std::vector<StoredPart> parts_;
  std::map<const SectionSpec*, QString> kinds_; ///< what they are called, by form
  std::vector<std::string> sources_;
  std::vector<std::optional<std::vector<PartRemark>>> remarks_;
  std::vector<std::size_t> shown_;
  QStringList words_;
};

} // namespace fulmox::app
