#include "app/sheet/sketch.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/constants.hpp"
#include "core/quantity/format.hpp"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace fulmox::app {

/// Sizes in metres along and across the axis; drawn to one scale.
struct SketchGeometry {
  double angle = 0.0;
  double screw_length = 0.0, screw_diameter = 0.0, lead = 0.0;
  double motor_side = 0.04, motor_length = 0.08;
  double gear_side = 0.0, gear_length = 0.0;
  double coupling = 0.02;
  double block = 0.1;
  double low = 0.0, high = 0.0, position = 0.0;
  QString stroke_text;
};

namespace {

using Geometry = SketchGeometry;

/// Where a data sheet gives no length, the usual proportions stand in: drawings only, no number is made from
/// them.
Geometry geometry_of(const Session& session) {
  const Axis& axis = session.axis();
  const Evaluation& e = *session.evaluation();
  Geometry g;
  g.angle = axis[Given::load].term("angle");
  const Section& screw = axis[Given::mechanism];
  g.screw_length = screw.term("length");
  g.screw_diameter = screw.term("diameter");
  g.lead = screw.term("lead");
  g.motor_side = axis[Given::motor].term_or("frame", 0.06);
  g.motor_length = 1.9 * g.motor_side;
  if (e.model->gear.fitted) {
    g.gear_side = axis[Given::gearhead].term_or("frame", 0.9 * g.motor_side);
    g.gear_length = 1.1 * g.gear_side;
  }
  g.coupling = std::max(0.6 * g.motor_side, 1.5 * g.screw_diameter);
  // a cube of aluminium of the moved mass, 2700 kg/m³
  g.block = std::cbrt(axis[Given::load].term("moved_mass") / 2700.0);
  g.low = e.model->cycle.lowest;
  g.high = e.model->cycle.highest;
  g.position = session.at_cursor().load.position;
  g.stroke_text = qt(format(g.high - g.low, Kind::length, session.document().units).text());
  return g;
}

class Artist {
public:
  Artist(QPainter& painter, const Geometry& g, QRectF area) : p_(painter), g_(g) {
    length_ = g.motor_length + g.gear_length + g.coupling + g.screw_length;
    width_ = std::max({g.block * 1.25, g.motor_side, 0.25 * length_});
    const double c = std::abs(std::cos(g.angle));
    const double s = std::abs(std::sin(g.angle));
    scale_ = std::min(area.width() / (length_ * c + width_ * s), area.height() / (length_ * s + width_ * c));
    p_.translate(area.center());
    p_.rotate(-g.angle * 180.0 / constants::pi);
    p_.translate(-length_ * scale_ / 2, 0);
  }

  void draw() {
    const Theme& t = theme();
    const QPen outline(t.ink, 1.3);
    // from the motor to the free end, along +x; the motor sits below an upright axis
    double x = 0.0;
    box(x, g_.motor_length, g_.motor_side, t.panel, outline);
    for (int i = 1; i < 6; ++i)
      line(x + g_.motor_length * i / 6, -g_.motor_side * 0.5, x + g_.motor_length * i / 6,
           -g_.motor_side * 0.38, t.soft);
    x += g_.motor_length;
    if (g_.gear_length > 0.0) {
      box(x, g_.gear_length, g_.gear_side, t.panel, outline);
      line(x + g_.gear_length * 0.5, -g_.gear_side / 2, x + g_.gear_length * 0.5, g_.gear_side / 2, t.soft);
      x += g_.gear_length;
    }
    box(x + 0.15 * g_.coupling, 0.7 * g_.coupling, 1.3 * g_.screw_diameter, t.rule, outline);
    x += g_.coupling;
    screw(x);
    load(x);
  }

private:
  void box(double x, double length, double side, const QColor& fill, const QPen& pen) {
    p_.setPen(pen);
    p_.setBrush(fill);
    p_.drawRect(QRectF(x * scale_, -side / 2 * scale_, length * scale_, side * scale_));
  }
  void line(double x0, double y0, double x1, double y1, const QColor& color, double width = 1.0) {
    p_.setPen(QPen(color, width));
    p_.drawLine(QPointF(x0 * scale_, y0 * scale_), QPointF(x1 * scale_, y1 * scale_));
  }

  /// Upright text beside a point of the turned drawing.
  void label(double x, double y, const QString& text) {
    const QPointF at = p_.transform().map(QPointF(x * scale_, y * scale_));
    const double sine = std::sin(g_.angle);
    const double cosine = std::cos(g_.angle);
    const QFontMetrics metrics(face(-1));
    // far enough along the normal that the text clears the line at any angle
    const double away =
        5.0 + 0.5 * (metrics.horizontalAdvance(text) * std::abs(sine) + metrics.height() * std::abs(cosine));
    p_.save();
    p_.resetTransform();
    p_.setFont(face(-1));
    p_.setPen(theme().ink);
    const QPointF centre = at + away * QPointF(sine, cosine);
    p_.drawText(QRectF(centre.x() - 60, centre.y() - 10, 120, 20), Qt::AlignCenter, text);
    p_.restore();
  }

  void screw(double x) {
    const Theme& t = theme();
    const double d = std::max(g_.screw_diameter, 3.0 / scale_);
    box(x, g_.screw_length, d, t.field, QPen(t.ink, 1.2));
    // thread at its true lead, thinned out where the lines would merge
    double pitch = g_.lead;
    while (pitch * scale_ < 3.5) pitch *= 2.0;
    for (double at = pitch; at < g_.screw_length; at += pitch)
      line(x + at, d / 2, x + at - 0.5 * std::min(pitch, d), -d / 2, t.soft);
    // guide rail beside it
    const double rail = -0.5 * g_.block - 0.06 * g_.block;
    line(x, rail, x + g_.screw_length, rail, t.ink, 2.5);
  }

  void load(double x) {
    const Theme& t = theme();
    const double travel = g_.high - g_.low;
    const double start = x + 0.5 * (g_.screw_length - travel);
    const double at = start + (g_.position - g_.low);
    // reach of the load
    p_.setPen(QPen(t.faint, 1, Qt::DashLine));
    p_.setBrush(Qt::NoBrush);
    for (const double end : {start, start + travel})
      p_.drawRect(QRectF((end - g_.block / 2) * scale_, -g_.block / 2 * scale_, g_.block * scale_,
                         g_.block * scale_));
    QColor fill = t.accent;
    fill.setAlpha(60);
    box(at - g_.block / 2, g_.block, g_.block, fill, QPen(t.accent, 1.6));
    // stroke dimension
    const double y = 0.5 * g_.block + 9.0 / scale_;
    line(start, y, start + travel, y, t.soft);
    for (const double end : {start, start + travel})
      line(end, y - 4.0 / scale_, end, y + 4.0 / scale_, t.soft);
    label(start + 0.5 * travel, y, g_.stroke_text);
  }

  QPainter& p_;
  const Geometry& g_;
  double length_ = 1.0, width_ = 1.0, scale_ = 1.0;
};

} // namespace

Sketch::Sketch(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("sketch");
  setAccessibleName("Sketch of the axis, to scale");
  setToolTip("To one scale. The moved mass is drawn as an aluminium cube of its weight.");
  setMinimumSize(200, 130);
  connect(&session, &Session::changed, this, [this] { update(); });
  connect(&session, &Session::cursor_moved, this, [this] { update(); });
}

void Sketch::paintEvent(QPaintEvent*) {
  if (session_.evaluation() == nullptr) return;
  QPainter painter(this);
  const Theme& t = theme();
  if (!session_.stale() || !geometry_) geometry_ = std::make_shared<SketchGeometry>(geometry_of(session_));
  Geometry g = *geometry_;
  g.position = session_.at_cursor().load.position;
  constexpr int notes_width = 150;
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing);
  Artist(painter, g, QRectF(10, 10, width() - notes_width - 20, height() - 20)).draw();
  painter.restore();

  const UnitSet units = session_.document().units;
  const auto show = [&](double value, Kind kind) { return qt(format(value, kind, units).text()); };
  const QList<std::pair<QString, QString>> notes{{"at", show(g.position, Kind::length)},
                                                 {"stroke", show(g.high - g.low, Kind::length)},
                                                 {"screw", "⌀ " + show(g.screw_diameter, Kind::length)},
                                                 {"length", show(g.screw_length, Kind::length)},
                                                 {"lead", show(g.lead, Kind::lead)},
                                                 {"angle", show(g.angle, Kind::angle)}};
  painter.setFont(face(-1));
  int y = 12;
  for (const auto& [name, value] : notes) {
    const QRect row(width() - notes_width, y, notes_width - 12, 18);
    painter.setPen(t.soft);
    painter.drawText(row, Qt::AlignLeft | Qt::AlignVCenter, name);
    painter.setPen(t.ink);
    painter.drawText(row, Qt::AlignRight | Qt::AlignVCenter, value);
    y += 18;
  }
  if (g.angle != 0.0 && session_.axis()[Given::brake].text("fitted") != "yes") {
    painter.setPen(t.alarm);
    painter.drawText(QRect(width() - notes_width, y + 4, notes_width - 12, 34),
                     Qt::AlignLeft | Qt::TextWordWrap, "Falls when power goes: no brake");
  }
}

} // namespace fulmox::app
