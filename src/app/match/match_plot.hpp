#pragma once
#include "app/match/match_search.hpp"

#include <QComboBox>
#include <QWidget>

class QCPGraph;
class QCPItemText;

namespace fulmox::app {

class Plot;

/// Combinations as dots over any two yardsticks, with the front of those that no other beats in both. The
/// arrow keys walk along it.
class MatchPlot : public QWidget {
  Q_OBJECT

public:
  explicit MatchPlot(QWidget* parent = nullptr);

  /// What was listed last of the answer.
  void show(std::shared_ptr<const MatchAnswer> answer, UnitSet units);
  /// Marks the current one, if it is among them.
  void mark(const std::optional<Combination>& parts);
  void restyle();
  bool eventFilter(QObject* watched, QEvent* event) override;

  [[nodiscard]] const Yardstick& across() const;
  [[nodiscard]] const Yardstick& up() const;

signals:
  /// Other yardsticks are chosen.
  void turned();
  void picked(const fulmox::Combination& parts);

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  struct Dot {
    double x, y;
    std::size_t place;
  };
  /// Of an axis.
  struct Scale {
    double factor = 1.0, offset = 0.0;
    [[nodiscard]] double in(double value) const { return value / factor - offset; }
  };
  void draw();
  void mark();
  [[nodiscard]] Dot dot_of(std::size_t place) const; ///< in SI
  [[nodiscard]] Dot scaled(const Dot& dot) const { return {x_.in(dot.x), y_.in(dot.y), dot.place}; }
  /// The dot next to a place of the widget; nothing where none is near.
  [[nodiscard]] std::optional<std::size_t> near(const QPoint& at) const;
  void walk(int step);

  Plot* plot_;
  QComboBox *across_, *up_;
  QCPGraph *dots_, *front_, *marked_;
  QCPItemText* note_;
  std::shared_ptr<const MatchAnswer> answer_;
  std::shared_ptr<const MatchList> list_;
  Scale x_, y_;
  std::vector<Dot> shown_; ///< in the plot's units
  std::optional<Combination> current_;
  UnitSet units_ = UnitSet::si;
};

} // namespace fulmox::app
