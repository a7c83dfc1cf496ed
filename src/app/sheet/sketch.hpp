#pragma once
#include <QWidget>

#include <memory>

namespace fulmox::app {

struct SketchGeometry;

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
  std::shared_ptr<SketchGeometry> geometry_; ///< of the last good results
};

} // namespace fulmox::app
