#pragma once
#include <QWidget>

class QCPCurve;
class QCPGraph;
class QCPItemRect;
class QCPItemText;

namespace fulmox::app {

class Plot;
class Session;

/// Speed–torque plane: what motor and drive can give, what the cycle asks, where the cursor stands.
class TorquePlane : public QWidget {
  Q_OBJECT

public:
  explicit TorquePlane(Session& session, QWidget* parent = nullptr);

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void refresh();
  void place_point();
  void show_resonance(double speed_factor);
  void restyle();

  Session& session_;
  Plot* plot_;
  QCPGraph *continuous_, *peak_, *peak_low_, *zero_, *ticks_;
  QCPCurve *loop_, *outside_; ///< the whole loop; of it, what lies beyond the peak torque
  QCPItemText *empty_, *braking_, *swing_;
  QCPItemRect* band_;
  bool dark_ = false;
  double torque_factor_ = 1.0; ///< of the unit shown
};

} // namespace fulmox::app
