#pragma once
#include "core/drawing/drawing.hpp"
#include "core/mechanism/mechanism.hpp"

#include <QWidget>

#include <string>

namespace fulmox::app {

class Session;

/// The mechanism to scale, moved by the cursor; the measure whose input is being edited is set off.
class Sketch : public QWidget {
  Q_OBJECT

public:
  explicit Sketch(Session& session, QWidget* parent = nullptr);

protected:
  void paintEvent(QPaintEvent* event) override;

private:
  [[nodiscard]] Pose pose() const;
  void watch_focus(QWidget* now);
  void paint_notes(QPainter& painter, const std::vector<Measure>& small) const;

  Session& session_;
  std::string edited_; ///< path of the input with the keyboard focus
};

} // namespace fulmox::app
