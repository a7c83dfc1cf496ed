#include "app/sheet/sketch.hpp"

#include "app/session/session.hpp"
#include "app/sheet/drawing_painter.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/field_row.hpp"
#include "core/quantity/format.hpp"

#include <QApplication>
#include <QPainter>

#include <algorithm>

namespace fulmox::app {

Sketch::Sketch(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("sketch");
  setAccessibleName("Sketch of the axis, to scale");
  setToolTip("To one scale. A travelling load is drawn as an aluminium cube of its weight.");
  setMinimumSize(200, 130);
  connect(&session, &Session::changed, this, [this] { update(); });
  connect(&session, &Session::cursor_moved, this, [this] { update(); });
  connect(qApp, &QApplication::focusChanged, this, [this](QWidget*, QWidget* now) { watch_focus(now); });
}

void Sketch::watch_focus(QWidget* now) {
  std::string edited;
  for (QWidget* widget = now; widget != nullptr; widget = widget->parentWidget())
    if (auto* row = qobject_cast<FieldRow*>(widget))
      edited = row->section() + "." + std::string(row->field());
  if (edited == edited_) return;
  edited_ = edited;
  update();
}

/// Where a data sheet gives no length, the usual proportions stand in: drawings only, no number is made from
/// them.
Pose Sketch::pose() const {
  const Axis& axis = session_.axis();
  const Evaluation& e = *session_.evaluation();
  Pose pose;
  pose.lowest = e.model->cycle.lowest;
  pose.highest = e.model->cycle.highest;
  pose.position = session_.at_cursor().load.position;
  pose.motor_side = axis[Given::motor].term_or("frame", 0.06);
  pose.motor_length = 1.9 * pose.motor_side;
  if (e.model->gear.fitted) {
    pose.gear_side = axis[Given::gearhead].term_or("frame", 0.9 * pose.motor_side);
    pose.gear_length = 1.1 * pose.gear_side;
  }
  return pose;
}

void Sketch::paintEvent(QPaintEvent*) {
  if (session_.evaluation() == nullptr || !session_.has_axis()) return;
  QPainter painter(this);
  const Theme& t = theme();
  const Evaluation& e = *session_.evaluation();
  const Mechanism& mechanism = *e.model->mechanism;
  Pose now = pose();
  // the scale holds both ends of the travel, so it stays while the cursor moves
  auto extent = mechanism.draw(now).bounds();
  for (const double end : {now.lowest, now.highest}) {
    Pose there = now;
    there.position = end;
    const auto other = mechanism.draw(there).bounds();
    extent.first = {std::min(extent.first.x, other.first.x), std::min(extent.first.y, other.first.y)};
    extent.second = {std::max(extent.second.x, other.second.x), std::max(extent.second.y, other.second.y)};
  }
  const UnitSet units = session_.document().units;
  constexpr int notes_height = 26;
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  const auto small =
      paint_drawing(painter, mechanism.draw(now), extent,
                    QRectF(8, notes_height, width() - 16, height() - notes_height - 6), units, edited_);
  painter.restore();

  const Kind distance = e.model->cycle.kinds.distance;
  const auto show = [&](double value) { return qt(format(value, distance, units).text()); };
  QList<std::pair<QString, QString>> notes{{"at", show(now.position)},
                                           {"stroke", show(now.highest - now.lowest)}};
  const Section& load = session_.axis()[Given::load];
  if (load.spec().index_of("angle") && load.term("angle") != 0.0)
    notes.append({"angle", qt(format(load.term("angle"), Kind::angle, units).text())});
  const double payload = session_.at_cursor().load.payload;
  if (payload > 0.0) notes.append({"carries", "+ " + qt(format(payload, Kind::mass, units).text())});
  for (const Measure& measure : small) {
    const std::string field(measure.field.substr(measure.field.find('.') + 1));
    const bool radius = field == "pulley_teeth" || field == "teeth" || field == "radius";
    notes.append({radius                ? "r"
                  : field == "diameter" ? "⌀"
                                        : qt(field),
                  qt(format(measure.value, measure.kind, units).text())});
  }
  painter.setFont(face(-1));
  int x = 12;
  for (const auto& [name, value] : notes) {
    const QFontMetrics metrics = painter.fontMetrics();
    painter.setPen(t.soft);
    painter.drawText(x, 19, name);
    x += metrics.horizontalAdvance(name) + 5;
    painter.setPen(t.ink);
    painter.drawText(x, 19, value);
    x += metrics.horizontalAdvance(value) + 14;
  }
  for (const Warning& warning : e.warnings)
    if (warning.id == "vertical_without_brake") {
      painter.setPen(t.alarm);
      painter.drawText(QRect(12, 28, 104, 52), Qt::AlignLeft | Qt::TextWordWrap,
                       "Falls when power goes: no brake");
    }
}

} // namespace fulmox::app
