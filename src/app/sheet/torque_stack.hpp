#pragma once
#include "core/rotation/torque_parts.hpp"

#include <QWidget>

#include <array>
#include <vector>

class QCPGraph;

namespace fulmox::app {

class Plot;
class Session;

/// The torque at the motor shaft over the cycle, stacked by cause.
class TorqueStack : public QWidget {
  Q_OBJECT

public:
  explicit TorqueStack(Session& session, QWidget* parent = nullptr);

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void refresh();
  void restyle();
  void tell_energies(const TorqueParts& energy, const std::array<bool, torque_part_count>& occurs);
  void place_cursor();

  Session& session_;
  Plot* plot_;
  std::vector<QCPGraph*> up_, down_; ///< upper edges of positive and lower edges of negative stacks, by part
  QCPGraph *sum_, *zero_;
  QCPGraph* sum_low_; ///< the least of each column when the cycle is crowded
  bool named_ = true; ///< there is room for the names of the parts
  bool dark_ = false;
};

} // namespace fulmox::app
