#include "app/study/ratio_page.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>

#include <cmath>

namespace fulmox::app {
namespace {

constexpr double lowest = 0.5, highest = 100.0;
constexpr int steps = 48;
constexpr double left = 44.0, right = 10.0, top = 26.0, bottom = 100.0, title_height = 16.0;

} // namespace

/// One of the stacked pictures: a number of the sweep against the ratio.
struct RatioPage::Strip {
  const char* title;
  Kind kind;
  double (*motor)(const RatioPoint&);
  double (*bare)(const RatioPoint&); ///< nullptr: none
  double limit;                      ///< NaN: none
};

RatioPage::RatioPage(Session& session, QWidget* parent) : StudyPage(session, parent) {
  setObjectName("ratio_page");
  setAccessibleName("Best ratio");
  setMouseTracking(true);
}

double RatioPage::x_of(double ratio) const {
  return left + (width() - left - right) * std::log(ratio / lowest) / std::log(highest / lowest);
}

double RatioPage::nearest_standard(double x) const {
  double best = 1.0;
  for (const double ratio : standard_ratios)
    if (std::abs(x_of(ratio) - x) < std::abs(x_of(best) - x)) best = ratio;
  return best;
}

StudyPage::Work RatioPage::question() {
  if (!session().has_axis()) {
    sweep_.reset();
    update();
    return {};
  }
  return [this, axis = session().axis()](const JobLink& link) -> Show {
    auto swept = sweep_ratio(axis, lowest, highest, steps, [&] { return link.wanted(); });
    return [this, swept = std::move(swept)] {
      sweep_.reset();
      if (swept && swept->points.size() > 2) sweep_ = *swept;
      update();
    };
  };
}

void RatioPage::paint_strip(QPainter& painter, const Strip& strip, QRectF area) const {
  const Theme& t = theme();
  const UnitSet units = session().document().units;
  // the interesting part lies near the best: values far above it are cut off
  double least = std::numeric_limits<double>::infinity(), present = 0.0;
  for (const RatioPoint& point : sweep_->points) {
    least = std::min(least, strip.motor(point));
    if (point.ratio <= sweep_->present * 1.03) present = strip.motor(point);
  }
  double most = std::max(4.0 * least, 1.3 * present);
  if (!std::isnan(strip.limit)) most = std::max(most, 1.3 * strip.limit);
  const DisplayUnit& unit = display_unit(most, strip.kind, units);
  const auto y_of = [&](double value) { return area.bottom() - area.height() * value / most; };
  painter.setPen(QPen(t.rule, 1));
  painter.drawLine(area.bottomLeft(), area.bottomRight());
  painter.setFont(face(-2));
  painter.setPen(t.soft);
  painter.drawText(QRectF(0, area.top() - 2, left - 5, 14), Qt::AlignRight,
                   qt(significant(most / unit.factor, 2)));
  painter.drawText(QRectF(0, area.bottom() - 12, left - 5, 14), Qt::AlignRight, "0");
  painter.setPen(t.ink);
  painter.drawText(QRectF(left, area.top() - 15, area.width(), 14), Qt::AlignLeft,
                   QString(strip.title) + (unit.symbol.empty() ? QString() : "  " + qt(unit.symbol)));
  painter.save();
  painter.setClipRect(area.adjusted(0, -1, 0, 1));
  painter.setRenderHint(QPainter::Antialiasing);
  const auto draw = [&](double (*value)(const RatioPoint&), const QPen& pen) {
    QPolygonF line;
    for (const RatioPoint& point : sweep_->points)
      if (std::isfinite(value(point))) line << QPointF(x_of(point.ratio), y_of(value(point)));
    painter.setPen(pen);
    painter.drawPolyline(line);
  };
  if (strip.bare != nullptr) draw(strip.bare, QPen(t.soft, 1, Qt::DashLine));
  draw(strip.motor, QPen(t.accent, 1.8));
  if (!std::isnan(strip.limit)) {
    painter.setPen(QPen(t.alarm, 1));
    painter.drawLine(QPointF(area.left(), y_of(strip.limit)), QPointF(area.right(), y_of(strip.limit)));
  }
  painter.restore();
}

void RatioPage::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  const Theme& t = theme();
  painter.setFont(face(0, true));
  painter.setPen(t.ink);
  painter.drawText(QRect(8, 6, width() - 16, 18), Qt::AlignLeft, "Gear ratio");
  painter.setFont(face(-1));
  if (!sweep_) {
    painter.setPen(t.soft);
    painter.drawText(rect(), Qt::AlignCenter, "Appears once the axis can be worked out.");
    return;
  }
  const std::array strips{
      Strip{"peak torque", Kind::torque, [](const RatioPoint& p) { return p.with_motor.peak_torque; },
            [](const RatioPoint& p) { return p.bare.peak_torque; }, std::nan("")},
      Strip{"rms torque", Kind::torque, [](const RatioPoint& p) { return p.with_motor.rms_torque; },
            [](const RatioPoint& p) { return p.bare.rms_torque; }, std::nan("")},
      Strip{"motor speed", Kind::angular_speed, [](const RatioPoint& p) { return p.with_motor.max_speed; },
            nullptr, sweep_->top_speed},
      Strip{"inertia ratio", Kind::number, [](const RatioPoint& p) { return p.with_motor.inertia_ratio; },
            nullptr, session().document().house_rules.term("inertia_max")}};
  const bool rotor = std::isfinite(sweep_->points.front().with_motor.inertia_ratio);
  const int count = rotor ? 4 : 3;
  const double pitch = (height() - top - bottom) / count;
  // standard ratios as ticks through all strips
  for (const double ratio : standard_ratios) {
    painter.setPen(QPen(t.rule, 1));
    painter.drawLine(QPointF(x_of(ratio), top), QPointF(x_of(ratio), height() - bottom));
  }
  for (int i = 0; i < count; ++i)
    paint_strip(
        painter, strips[static_cast<std::size_t>(i)],
        QRectF(left, top + i * pitch + title_height, width() - left - right, pitch - title_height - 6));
  painter.setFont(face(-2));
  painter.setPen(t.soft);
  for (const double ratio : {1.0, 3.0, 5.0, 10.0, 20.0, 50.0, 100.0})
    painter.drawText(QRectF(x_of(ratio) - 20, height() - bottom + 1, 40, 14), Qt::AlignCenter,
                     QString::number(ratio));
  painter.setPen(QPen(t.ink, 1));
  painter.drawLine(QPointF(x_of(sweep_->present), top), QPointF(x_of(sweep_->present), height() - bottom));
  painter.setFont(face(-1));
  QString text = "now " + qt(significant(sweep_->present)) + " : 1";
  if (std::isfinite(sweep_->least_rms))
    text += "   least rms at " + qt(significant(sweep_->least_rms, 2)) + ", least peak at " +
            qt(significant(sweep_->least_peak, 2)) + "\nEqual inertias, √(J_L/J_m), at " +
            qt(significant(sweep_->inertia_match, 2));
  painter.drawText(QRectF(8, height() - bottom + 16, width() - 16, 34), Qt::AlignLeft, text);
  painter.setPen(t.soft);
  painter.drawText(
      QRectF(8, height() - bottom + 50, width() - 16, 50), Qt::AlignLeft | Qt::TextWordWrap,
      "Line: the motor in hand. Dashed: the load alone, for any motor. Vertical lines: standard ratios; "
      "click takes one over. The best is flat: speed usually decides.");
}

void RatioPage::mousePressEvent(QMouseEvent* event) {
  if (!sweep_ || event->position().y() > height() - bottom) return;
  const double ratio = nearest_standard(event->position().x());
  session().type("gearhead", "ratio", QString::number(ratio));
  session().seal();
}

bool RatioPage::event(QEvent* event) {
  if (event->type() != QEvent::ToolTip || !sweep_) return StudyPage::event(event);
  const auto* help = static_cast<QHelpEvent*>(event);
  const double ratio = nearest_standard(help->pos().x());
  const RatioPoint* near = &sweep_->points.front();
  for (const RatioPoint& point : sweep_->points)
    if (std::abs(std::log(point.ratio / ratio)) < std::abs(std::log(near->ratio / ratio))) near = &point;
  const UnitSet units = session().document().units;
  const auto show = [&](double value, Kind kind) { return qt(format(value, kind, units).text()); };
  QToolTip::showText(help->globalPos(),
                     "about " + qt(significant(ratio)) + " : 1\npeak " +
                         show(near->with_motor.peak_torque, Kind::torque) + ", rms " +
                         show(near->with_motor.rms_torque, Kind::torque) + "\nspeed " +
                         show(near->with_motor.max_speed, Kind::angular_speed),
                     this);
  return true;
}

} // namespace fulmox::app
