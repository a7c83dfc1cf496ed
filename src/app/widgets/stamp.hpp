#pragma once
#include <QPainter>
#include <QPixmap>

#include <cmath>

namespace fulmox::app {

/// A small smooth drawing that stands in many places: drawn once, then set down on whole pixels. Drawing each
/// takes four times as long.
class Stamp {
public:
  /// As it looks on the device of `on`: `draw` draws it around the origin, no further than `reach` from
  /// there.
  template <class Draw>
  Stamp(const QPainter& on, double reach, const Draw& draw) : scale_(on.deviceTransform().m11()) {
    // an even number of pixels wide, so that its middle lies between two
    const int half = static_cast<int>(std::ceil(scale_ * (reach + 0.5)));
    picture_ = QPixmap(2 * half, 2 * half);
    picture_.fill(Qt::transparent);
    half_ = half / scale_;
    QPainter painter(&picture_);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(half, half);
    painter.scale(scale_, scale_);
    draw(painter);
    painter.end();
    picture_.setDevicePixelRatio(scale_);
  }

  void set(QPainter& painter, QPointF at) const { painter.drawPixmap(at - QPointF(half_, half_), picture_); }

private:
  double scale_, half_ = 0.0;
  QPixmap picture_;
};

} // namespace fulmox::app
