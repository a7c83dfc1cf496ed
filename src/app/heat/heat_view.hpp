#pragma once
#include "core/evaluation/heat_picture.hpp"

#include <QLabel>
#include <QTableWidget>
#include <QWidget>

#include <array>

class QCPGraph;

namespace fulmox::app {

class Plot;
class Session;

/// How warm winding and case get: over the cycle once it is steady, over the first hours from cold, and what
/// intermittent duty allows.
class HeatView : public QWidget {
  Q_OBJECT

public:
  explicit HeatView(Session& session, QWidget* parent = nullptr);

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void refresh();
  void restyle();
  void clear(const QString& why);
  void draw(const HeatPicture& picture, double ambient);
  void tell(const Evaluation& evaluation, const HeatPicture& picture);

  Session& session_;
  QLabel *told_, *caution_;
  Plot *cycle_, *hours_;
  /// winding, case, limit
  std::array<QCPGraph*, 3> in_cycle_{}, in_hours_{};
  QTableWidget* duty_;
};

} // namespace fulmox::app
