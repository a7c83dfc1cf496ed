#pragma once
#include "app/match/match_search.hpp"

#include <QAbstractTableModel>

namespace fulmox::app {

/// Combinations as a table: those that fit, in the order of the weights, or the nearest misses.
class MatchModel : public QAbstractTableModel {
  Q_OBJECT

public:
  /// After the worst limit in words the figures follow, one for each other yardstick.
  enum Column { motor_column, head_column, drive_column, used_column, worst_column, first_figure };

  using QAbstractTableModel::QAbstractTableModel;

  /// `rows` are places among the answer's fits, or among its misses. Kept as long as it is shown.
  void show(std::shared_ptr<const MatchAnswer> answer, std::vector<std::size_t> rows, bool misses,
            UnitSet units);
  /// Settled.
  [[nodiscard]] Trial trial(int row) const;
  [[nodiscard]] bool misses() const { return misses_; }
  /// The row of a combination; -1 when it is not shown.
  [[nodiscard]] int row_of(const Combination& parts) const;

  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

private:
  [[nodiscard]] Trial known(int row) const; ///< settled or not
  [[nodiscard]] QString text(const Trial& trial, int column) const;

  struct Figure {
    QString title;
    double factor = 1.0, offset = 0.0; ///< of its unit
  };
  std::shared_ptr<const MatchAnswer> answer_;
  std::vector<std::size_t> rows_;
  std::vector<Figure> figures_;
  bool misses_ = false;
};

/// "KD52-220-24 · TP40-10 · SD48-100".
QString combination_name(const MatchSpace& space, const Combination& parts);
/// A number of combinations: "250 173".
QString grouped(double number);
/// What it does, in a line or several: worst limit, what it breaks, what is not judged.
QString told_of(const MatchAnswer& answer, const Trial& trial, bool miss);

} // namespace fulmox::app
