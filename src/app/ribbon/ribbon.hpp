#pragma once
#include <QPolygonF>
#include <QWidget>

#include <vector>

namespace fulmox::app {

class Session;

/// The move over one cycle: chosen traces, segments whose ends, ramps and distances can be dragged, and the
/// cursor every view obeys.
class Ribbon : public QWidget {
  Q_OBJECT

public:
  explicit Ribbon(Session& session, QWidget* parent = nullptr);
  QSize sizeHint() const override { return {900, 158}; }

  /// What a press at a place takes hold of.
  enum class Grip { none, cursor, duration, ramp_up, ramp_down, distance };
  struct Handle {
    Grip grip = Grip::none;
    std::size_t segment = 0;
    QPointF place;
  };
  /// All handles as drawn now; the tests drag these.
  [[nodiscard]] std::vector<Handle> handles() const;

  enum class TraceKind { position, speed, acceleration, torque, power, count_ };
  void set_shown(TraceKind kind, bool shown);
  [[nodiscard]] bool shown(TraceKind kind) const { return shown_[static_cast<std::size_t>(kind)]; }

protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  bool event(QEvent* event) override;

private:
  [[nodiscard]] QRectF plot() const;
  [[nodiscard]] double duration() const;
  [[nodiscard]] double x_of(double time) const;
  [[nodiscard]] double time_at(double x) const;
  [[nodiscard]] Handle handle_at(QPointF point) const;
  void drag_to(QPointF point);
  void paint_segments(QPainter& painter);
  void paint_traces(QPainter& painter);
  void paint_readings(QPainter& painter);
  void paint_handles(QPainter& painter);
  [[nodiscard]] QRectF toggle_box(int kind) const;

  Session& session_;
  bool shown_[static_cast<std::size_t>(TraceKind::count_)] = {false, true, false, true, false};
  Handle held_;
  Handle hovered_;
  QPointF pressed_;
  double held_scale_ =
      0.0; ///< s per pixel while dragging, so that the picture does not run away under the hand
  double held_value_ = 0.0; ///< what the dragged quantity was at the press
  double held_duration_ = 0.0;
};

} // namespace fulmox::app
