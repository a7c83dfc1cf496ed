#pragma once
#include "app/study/study_page.hpp"
#include "core/study/ratio_study.hpp"

#include <optional>

namespace fulmox::app {

/// Torque, speed and inertia ratio against the gearhead's ratio: the motor in hand and the bare load. A click
/// takes a standard ratio over.
class RatioPage : public StudyPage {
  Q_OBJECT

public:
  explicit RatioPage(Session& session, QWidget* parent = nullptr);
  [[nodiscard]] const std::optional<RatioSweep>& sweep() const { return sweep_; }
  /// Where a ratio stands on the page, px.
  [[nodiscard]] double x_of(double ratio) const;

protected:
  Work question() override;
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  bool event(QEvent* event) override;

private:
  struct Strip;
  void paint_strip(QPainter& painter, const Strip& strip, QRectF area) const;
  [[nodiscard]] double nearest_standard(double x) const;

  std::optional<RatioSweep> sweep_;
};

} // namespace fulmox::app
