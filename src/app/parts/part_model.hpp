#pragma once
#include "core/evaluation/part_fit.hpp"
#include "core/library/part_library.hpp"

#include <QAbstractTableModel>

#include <optional>
#include <utility>
#include <vector>

namespace fulmox::app {

/// The parts of a slot as a table: what each would do to the axis, and the figures it is compared by, one
/// unit a column. Thousands of parts are sorted and searched at once.
class PartModel : public QAbstractTableModel {
  Q_OBJECT

public:
  enum Column { name_column, used_column, why_column, first_figure };

  using QAbstractTableModel::QAbstractTableModel;

  /// Other parts, none of them tried yet. They must outlive the model's use of them.
  void show(const Parts& parts, const SlotKind& kind, UnitSet units);
  /// Forgets what was tried: the axis has changed.
  void forget_fits();
  using Tried = std::vector<std::pair<std::size_t, PartFit>>; ///< by place among the parts
  void take(const Tried& fits);
  /// Only parts whose texts hold all these words.
  void search(const QString& words);

  [[nodiscard]] std::size_t place(int row) const {
    return rows_[shown_[static_cast<std::size_t>(row)]].place;
  }
  /// The row that shows the part of a place; -1 when none does.
  [[nodiscard]] int row_of(std::size_t place) const;

  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  void sort(int column, Qt::SortOrder order) override;

private:
  struct Row {
    std::size_t place;
    QString name, maker;
    std::vector<double> figures; ///< SI; NaN where it has none
    std::optional<PartFit> fit;
  };
  struct Figure {
    QString title;
    double factor, offset; ///< of its unit
  };
  [[nodiscard]] QString text(const Row& row, int column) const;
  [[nodiscard]] double rank(const Row& row, int column) const;
  void arrange();

  std::vector<Row> rows_;
  std::vector<Figure> figures_;
  std::vector<std::size_t> shown_; ///< rows in their order
  QStringList words_;
  int sorted_by_ = used_column;
  bool falling_ = false;
};

} // namespace fulmox::app
