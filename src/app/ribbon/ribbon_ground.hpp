#pragma once
#include "core/form/section.hpp"

#include <QColor>
#include <QPolygonF>
#include <QRectF>
#include <QSize>
#include <QString>

#include <vector>

class QPainter;

namespace fulmox::app {

/// A line as it is drawn, px.
struct RibbonTrace {
  QColor color;
  QPolygonF line;
};

/// All that decides how the ribbon draws the motion alone: its segments, the traces of position to jerk, the
/// names of all traces. Most edits change torque and power only, so it is kept as a picture.
struct RibbonGround {
  struct Segment {
    double from = 0.0, to = 0.0; ///< px
    bool rests = false;
    QString words; ///< empty where there is no room
    bool operator==(const Segment&) const = default;
  };
  struct Name {
    QRectF box;
    QString text;
    QColor color; ///< of its trace
    bool shown = false;
    bool operator==(const Name&) const = default;
  };

  QSize size;
  QRectF area;        ///< of the traces
  QRectF strip;       ///< of the segments
  bool dark = false;  ///< the look it is drawn in
  double scale = 1.0; ///< pixels of the screen a px
  std::vector<Segment> segments;
  std::vector<Name> names;
  std::vector<Section> cycle; ///< what the motion follows from

  bool operator==(const RibbonGround&) const = default;
  void paint(QPainter& painter, const std::vector<RibbonTrace>& traces) const;
};

/// Draws a trace within the present clip.
void paint_trace(QPainter& painter, const RibbonTrace& trace);

} // namespace fulmox::app
