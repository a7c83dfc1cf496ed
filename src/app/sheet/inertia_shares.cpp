#include "app/sheet/inertia_shares.hpp"

#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"
#include "core/quantity/format.hpp"

#include <QPainter>

#include <algorithm>

namespace fulmox::app {

constexpr static int first_row = 28;
constexpr static int least_pitch = 15;
constexpr static int label_width = 118;

InertiaShares::InertiaShares(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("inertia_shares");
  setAccessibleName("Inertia shares at the motor");
  setToolTip("Each inertia as the motor sees it. Half the lead, or a reduction of 2, quarters the moved "
             "mass' share;\n"
             "top speed halves, and a gearhead brings backlash.");
  new Refresher(session, this, results_changed | Change::theme, [this](Changes what) { refresh(what); });
}

static double total_of(const Evaluation& e) {
  double total = 0.0;
  for (const InertiaShare& share : e.demand.inertia) total += share.at_motor;
  return total;
}

/// No row may run into what stands below.
void InertiaShares::refresh(Changes what) {
  const Evaluation* e = session_.evaluation();
  const int rows = e != nullptr ? static_cast<int>(e->demand.inertia.size()) : 0;
  setMinimumHeight(first_row + least_pitch * std::max(rows, 5) + 4);
  QStringList labels;
  if (e != nullptr && total_of(*e) > 0.0)
    for (const InertiaShare& share : e->demand.inertia) labels << qt(share.label);
  // an edit moves what stands right of the names
  if (labels == labels_ && !what.testFlag(Change::theme))
    update(label_width, 0, width() - label_width, height());
  else
    update();
  labels_ = labels;
}

void InertiaShares::paintEvent(QPaintEvent*) {
  const Evaluation* e = session_.evaluation();
  if (e == nullptr) return;
  QPainter painter(this);
  const Theme& t = theme();
  painter.setPen(t.ink);
  draw_line(painter, QRect(8, 6, width() - 16, 18), Qt::AlignLeft, "Inertia at the motor", face(0, true));
  const double total = total_of(*e);
  if (total <= 0.0) return;
  double largest = 0.0;
  for (const InertiaShare& share : e->demand.inertia) largest = std::max(largest, share.at_motor.value);
  const UnitSet units = session_.document().units;
  // one unit for all rows, so that the figures compare at a glance
  const DisplayUnit& unit = display_unit(largest, Kind::inertia, units);
  constexpr int value_width = 104;
  constexpr int share_width = 42;
  const int count = static_cast<int>(e->demand.inertia.size());
  const int pitch = std::clamp((height() - first_row - 4) / std::max(count, 1), least_pitch, 24);
  int y = first_row;
  for (const InertiaShare& share : e->demand.inertia) {
    painter.setPen(t.soft);
    draw_line(painter, QRect(8, y, label_width - 2, pitch), Qt::AlignLeft | Qt::AlignVCenter, qt(share.label),
              face(-1));
    const double room = width() - label_width - value_width - 24;
    const QRectF bar(label_width + 8, y + pitch / 2.0 - 4, std::max(1.0, room * share.at_motor / largest), 8);
    painter.fillRect(bar, share.id == "rotor" || share.id == "brake" ? t.faint
                          : session_.stale()                         ? t.faint
                                                                     : t.accent);
    painter.setPen(t.ink);
    draw_line(painter, QRect(width() - value_width - 8, y, value_width - share_width, pitch),
              Qt::AlignRight | Qt::AlignVCenter, qt(significant(share.at_motor / unit.factor)), face(-1));
    painter.setPen(t.soft);
    draw_line(painter, QRect(width() - 8 - share_width, y, share_width, pitch),
              Qt::AlignRight | Qt::AlignVCenter,
              QString::number(100.0 * share.at_motor / total, 'f', 0) + " %", face(-1));
    y += pitch;
  }
  painter.setPen(t.soft);
  draw_line(painter, QRect(8, 6, width() - 16, 18), Qt::AlignRight | Qt::AlignVCenter, qt(unit.symbol),
            face(-1));
}

} // namespace fulmox::app
