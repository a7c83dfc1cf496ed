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

  /// The combinations of the list; they must live as long as they are shown.
  void show(std::shared_ptr<const MatchAnswer> answer, std::vector<std::size_t> places, UnitSet units);
  /// Marks the current one, if it is among them.
  void mark(const std::optional<Combination>& parts);
  void restyle();
  bool eventFilter(QObject* watched, QEvent* event) override;

signals:
  void picked(const fulmox::Combination& parts);

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  struct Dot {
    double x, y;
    std::size_t place;
  };
  void draw();
  [[nodiscard]] const Yardstick& across() const;
  [[nodiscard]] const Yardstick& up() const;
  /// The dot next to a place of the widget; nothing where none is near.
  [[nodiscard]] std::optional<std::size_t> near(const QPoint& at) const;
  void walk(int step);

  Plot* plot_;
  QComboBox *across_, *up_;
  QCPGraph *dots_, *front_, *marked_;
  QCPItemText* note_;
  std::shared_ptr<const MatchAnswer> answer_;
  std::vector<std::size_t> places_;
  std::vector<Dot> shown_;            ///< in the plot's units
  std::vector<std::size_t> on_front_; ///< places among the fits, by rising x
  std::optional<Combination> current_;
  UnitSet units_ = UnitSet::si;
};

} // namespace fulmox::app
