#pragma once
#include "app/ribbon/ribbon_ground.hpp"
#include "core/demand/statistics.hpp"

#include <QPixmap>
#include <QWidget>

#include <optional>
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
  enum class Grip { none, cursor, duration, ramp_up, ramp_down, distance, selection };
  struct Handle {
    Grip grip = Grip::none;
    std::size_t segment = 0;
    QPointF place;
  };
  /// What the dragged segment was at the press.
  struct DragStart {
    double time = 0.0, distance = 0.0; ///< s, m or rad
    double accel_share = 0.0, decel_share = 0.0;
  };
  /// All handles as drawn now; the tests drag these.
  [[nodiscard]] std::vector<Handle> handles() const;

  enum class TraceKind { position, speed, acceleration, jerk, torque, power, count_ };
  void set_shown(TraceKind kind, bool shown);
  [[nodiscard]] bool shown(TraceKind kind) const { return shown_[static_cast<std::size_t>(kind)]; }

  /// Statistics of the span selected with Shift and drag; nothing when none is.
  [[nodiscard]] const std::optional<SpanStatistics>& selection() const { return selection_; }
  /// The stretch of the cycle in view, s.
  [[nodiscard]] double view_from() const { return view_from_; }
  [[nodiscard]] double view_span() const;

protected:
  void paintEvent(QPaintEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  bool event(QEvent* event) override;

private:
  static constexpr double left_column = 214.0;
  static constexpr double strip_height = 24.0;
  static constexpr double top_margin = 10.0;
  [[nodiscard]] QRectF plot() const;
  [[nodiscard]] double duration() const;
  [[nodiscard]] double x_of(double time) const;
  [[nodiscard]] double time_at(double x) const;
  [[nodiscard]] Handle handle_at(QPointF point) const;
  [[nodiscard]] std::optional<std::size_t> segment_at(double x) const;
  void type_values(std::size_t segment);
  void drag_to(QPointF point);
  /// Draws everything anew, not only what follows the cursor.
  void redraw();
  /// Works out what does not follow the cursor.
  void prepare();
  void draw_ground();
  void move_cursor();
  void paint_nothing(QPainter& painter) const;
  void paint_cursor(QPainter& painter);
  void paint_panel(QPainter& painter) const;
  /// Torque and power.
  void paint_loads(QPainter& painter);
  [[nodiscard]] RibbonGround ground() const;
  [[nodiscard]] std::optional<RibbonTrace> trace_of(std::size_t kind) const;
  void paint_readings(QPainter& painter);
  void paint_handles(QPainter& painter);
  void paint_selection(QPainter& painter);
  void select(double from, double to);
  void show_span(double from, double span);
  [[nodiscard]] QRectF toggle_box(int kind) const;

  Session& session_;
  bool shown_[static_cast<std::size_t>(TraceKind::count_)] = {false, true, false, false, true, false};
  Handle held_;
  Handle hovered_;
  QPointF pressed_;
  double held_scale_ =
      0.0; ///< s per pixel while dragging, so that the picture does not run away under the hand
  DragStart start_;
  double view_from_ = 0.0; ///< s
  double zoom_ = 1.0;      ///< cycle over what is in view
  std::optional<SpanStatistics> selection_;
  std::optional<RibbonGround> ground_; ///< as its picture shows it; nothing where that must be drawn anew
  QPixmap ground_picture_;
  std::vector<RibbonTrace> loads_; ///< torque and power, as drawn last
  bool prepared_ = false;          ///< what does not follow the cursor is worked out
  double drawn_cursor_ = 0.0;      ///< px
  double peaks_[static_cast<std::size_t>(TraceKind::count_)] = {}; ///< of each trace, SI
};

} // namespace fulmox::app
