#pragma once
#include "app/session/change.hpp"

#include <QStringList>
#include <QWidget>

namespace fulmox::app {

class Session;

/// What the motor has to accelerate, piece by piece, as seen at its shaft.
class InertiaShares : public QWidget {
  Q_OBJECT

public:
  explicit InertiaShares(Session& session, QWidget* parent = nullptr);

protected:
  void paintEvent(QPaintEvent* event) override;

private:
  void refresh(Changes what);

  Session& session_;
  QStringList labels_; ///< that stand there
};

} // namespace fulmox::app
