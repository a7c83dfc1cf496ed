#pragma once
#include "core/match/kinds.hpp"

#include <QLabel>
#include <QTableWidget>
#include <QToolButton>

#include <memory>
#include <optional>

class QCPGraph;

namespace fulmox::app {

class Plot;
class Session;

/// The kinds of motor side by side on the axis's own numbers: what each can do, what speaks for and against
/// it, and which one is recommended. Worked out beside the window; what was found last stays until then.
class MatchKinds : public QWidget {
  Q_OBJECT

public:
  explicit MatchKinds(Session& session, QWidget* parent = nullptr);

  /// Compares unless what is shown belongs to the axis, weights and duty as they are.
  void renew(const Weights& weights, AlsoSearched also);
  void restyle();
  [[nodiscard]] const KindsCompared* compared() const { return compared_.get(); }

signals:
  /// The combination that stands for a kind is to be shown in the list.
  void wanted(const QString& kind);

private:
  void take(std::shared_ptr<const KindsCompared> compared);
  void tell();
  void fill();
  void fill_reasons();
  void add_row(const QString& label, const QString& help, const std::vector<QString>& texts,
               const std::vector<QString>& more, const std::vector<bool>& best);
  void draw();

  Session& session_;
  QLabel* advice_;
  QTableWidget* table_;
  Plot* plot_;
  std::shared_ptr<const KindsCompared> compared_;
  std::vector<std::size_t> order_; ///< kinds as their columns stand: the recommended one first
  std::optional<Axis> asked_;
  std::optional<Section> asked_rules_, asked_duty_;
  Weights asked_weights_;
  UnitSet asked_units_ = UnitSet::si;
  bool old_ = false;
};

} // namespace fulmox::app
