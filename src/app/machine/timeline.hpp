#pragma once
#include "core/machine/machine_run.hpp"

#include <QWidget>

#include <memory>
#include <optional>

namespace fulmox::app {

class Session;

/// The machine's cycle: a row for every axis with its sketch, its cycles as bars divided into segments. A bar
/// is dragged, or moved with the arrow keys, to another start; a click sets the cursor.
class Timeline : public QWidget {
  Q_OBJECT

public:
  explicit Timeline(Session& session, QWidget* parent = nullptr);

  void show_machine(std::shared_ptr<const MachineRun> run, const MachineResult& results);
  void set_cursor(double time);
  [[nodiscard]] double cursor() const { return cursor_; }
  /// Where the bars begin and end, px: plots below stand on the same scale.
  [[nodiscard]] int left() const;
  [[nodiscard]] int right() const { return width() - right_margin; }
  /// Where a block is drawn, its first part; for tests.
  [[nodiscard]] QRectF bar_of(std::size_t block) const;
  [[nodiscard]] QSize sizeHint() const override;
  [[nodiscard]] QSize minimumSizeHint() const override;

signals:
  /// s of the machine's cycle.
  void cursor_set(double time);
  /// An axis is to be looked at.
  void axis_wanted(std::size_t axis);
  void block_chosen(std::size_t block);

protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  bool event(QEvent* event) override;

private:
  static constexpr int right_margin = 14, axis_height = 16, name_width = 118, sketch_width = 64; // px

  [[nodiscard]] bool ready() const { return run_ != nullptr && run_->power.problem.what.empty(); }
  [[nodiscard]] double rows() const;
  [[nodiscard]] QRect row_area(std::size_t axis) const;
  [[nodiscard]] double row_height() const;
  [[nodiscard]] double x_of(double time) const;
  [[nodiscard]] double time_at(double x) const;
  [[nodiscard]] std::optional<std::size_t> block_at(QPointF place) const;
  void paint_row(QPainter& painter, std::size_t axis) const;
  void paint_sketch(QPainter& painter, std::size_t axis, QRectF area) const;
  void paint_block(QPainter& painter, std::size_t block) const;
  void paint_waits(QPainter& painter) const;
  void paint_axis(QPainter& painter) const;
  [[nodiscard]] QString tip_of(std::size_t block) const;
  /// Moves a block by a time; what it takes from the start of the drag.
  void move_block(std::size_t block, double offset, const QString& key);

  Session& session_;
  std::shared_ptr<const MachineRun> run_;
  MachineResult results_;
  std::size_t axis_ = 0; ///< shown as the one in view
  double cursor_ = 0.0;
  std::optional<std::size_t> chosen_, dragged_;
  double grabbed_at_ = 0.0, offset_before_ = 0.0;
  bool moved_ = false;
};

} // namespace fulmox::app
