#pragma once
#include <QWidget>

namespace fulmox::app {

class Session;

/// The screw axis to scale, moved by the cursor.
class Sketch : public QWidget {
  Q_OBJECT

public:
  explicit Sketch(Session& session, QWidget* parent = nullptr);

protected:
  void paintEvent(QPaintEvent* event) override;

private:
  Session& session_;
};

} // namespace fulmox::app
