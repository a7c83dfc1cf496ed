#include "app/sheet/sketch.hpp"

#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/sheet/drawing_painter.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/field_row.hpp"
#include "app/widgets/kept_text.hpp"
#include "core/quantity/format.hpp"

#include <QApplication>
#include <QPainter>

#include <algorithm>

namespace fulmox::app {

Sketch::Sketch(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("sketch");
  setAccessibleName("Sketch of the axis, to scale");
  setToolTip("To one scale. A travelling load is drawn as an aluminium cube of its weight,\n"
             "on a crank no larger than the crank.");
  setMinimumSize(200, 130);
  new Refresher(session, this, results_changed | Change::theme | Change::cursor,
                [this](Changes) { update(); });
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
  pose.lowest = e.model->load->cycle.lowest;
  pose.highest = e.model->load->cycle.highest;
  pose.position = session_.at_cursor().load.position;
  if (const Term frame = axis["motor"].term_if("frame"); !std::isnan(frame)) pose.motor_side = frame;
  pose.motor_length = 1.9 * pose.motor_side;
  if (e.model->gear.fitted) {
    pose.gear_side = axis["gearhead"].term_or("frame", 0.9 * pose.motor_side);
    pose.gear_length = 1.1 * pose.gear_side;
  }
  return pose;
}

/// What stands above the picture: its stroke, what it carries, and the dimensions too small to be written
/// into it.
void Sketch::paint_notes(QPainter& painter, const std::vector<Measure>& small) const {
  struct Note {
    QString name, value;
    bool edited = false;
  };
  const Theme& t = theme();
  const Cycle& cycle = session_.evaluation()->model->load->cycle;
  const UnitSet units = session_.document().units;
  const auto show = [&](double value, Kind kind) { return qt(format(value, kind, units).text()); };
  const Instant now = session_.at_cursor();
  std::vector<Note> notes{{"stroke", show(cycle.highest - cycle.lowest, cycle.kinds.distance)}};
  const Section& load = session_.axis()["load"];
  if (load.spec().index_of("angle") && load.term("angle") != 0.0)
    notes.push_back({"angle", show(load.term("angle"), Kind::angle), edited_ == "load.angle"});
  if (now.load.payload > 0.0) notes.push_back({"carries", "+ " + show(now.load.payload, Kind::mass)});
  for (const Measure& measure : small) {
    if (measure.field.empty()) continue; // the stroke, which stands there already
    const std::string field(measure.field.substr(measure.field.find('.') + 1));
    const bool radius = field == "pulley_teeth" || field == "teeth" || field == "radius";
    notes.push_back({radius                ? "r"
                     : field == "diameter" ? "⌀"
                                           : qt(field),
                     show(measure.value, measure.kind), !measure.field.empty() && measure.field == edited_});
  }
  constexpr int gap = 14, inner_gap = 5, margin = 12;
  const auto place = [&](int x) { return QRect(x, 5, width() - x, 18); };
  int length = margin;
  for (const Note& note : notes)
    length += line_width(note.name, face(-1)) + line_width(note.value, face(-1)) + inner_gap + gap;
  const int size = length > width() ? -2 : -1;
  int x = margin;
  for (const Note& note : notes) {
    const QFont font = face(size, note.edited);
    // half a number misleads; what has no room is told in the givens
    if (x + line_width(note.name, font) + line_width(note.value, font) + inner_gap > width()) break;
    painter.setPen(note.edited ? t.accent : t.soft);
    x += draw_line(painter, place(x), Qt::AlignLeft | Qt::AlignVCenter, note.name, font) + inner_gap;
    painter.setPen(note.edited ? t.accent : t.ink);
    x += draw_line(painter, place(x), Qt::AlignLeft | Qt::AlignVCenter, note.value, font) + gap;
  }
}

void Sketch::paintEvent(QPaintEvent*) {
  if (session_.evaluation() == nullptr || !session_.has_axis()) return;
  QPainter painter(this);
  const Theme& t = theme();
  const Evaluation& e = *session_.evaluation();
  const Mechanism& mechanism = *e.model->load->mechanism;
  Pose now = pose();
  // the scale holds both ends of the travel, so it stays while the cursor moves
  const auto extent = travel_extent(mechanism, now);
  const UnitSet units = session_.document().units;
  constexpr int notes_height = 26;
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  const auto small =
      paint_drawing(painter, mechanism.draw(now), extent,
                    QRectF(8, notes_height, width() - 16, height() - notes_height - 6), units, edited_);
  painter.restore();

  paint_notes(painter, small);
  for (const Warning& warning : e.warnings)
    if (warning.id == "vertical_without_brake") {
      painter.setPen(t.alarm);
      painter.drawText(QRect(12, 28, 104, 52), Qt::AlignLeft | Qt::TextWordWrap,
                       "Falls when power goes: no brake");
    }
}

} // namespace fulmox::app
