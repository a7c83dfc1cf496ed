#include "app/ladder/bus_note.hpp"

#include "app/session/machine_watch.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/machine/bus_on_axis.hpp"

#include <cmath>

namespace fulmox::app {
namespace {

QString share_of(const Limit& limit) {
  return std::isinf(limit.used) ? QString("nothing left")
                                : QString::number(100.0 * limit.used, 'f', 0) + " %";
}

/// "✕ Supply current, peak 124 %", in the colour of its state.
QString told(const Limit& limit) {
  const QString text =
      glyph(static_cast<int>(limit.state)) + " " + qt(limit.label).toHtmlEscaped() + " " + share_of(limit);
  if (limit.state != LimitState::over) return text;
  return "<span style='color:" + theme().alarm.name() + "'>" + text + "</span>";
}

} // namespace

QString bus_note(Session& session) {
  if (!session.has_axis()) return {};
  const QString name = qt(session.axis()["surroundings"].text("shared_bus")).toHtmlEscaped();
  if (name.isEmpty()) return {};
  const QString link = ", see <a href='machine'>Machine</a>.";
  const MachineWatch& watch = session.machine_watch();
  QString note = "Supply: judged with all axes of bus " + name;
  if (watch.run() == nullptr) return note + link;
  // what is known may be of the machine before: of another axis or bus nothing is told
  const std::size_t axis = session.axis_index();
  const MachineResult& results = watch.results();
  if (axis >= results.size() || results[axis] == nullptr || results[axis]->axis.name != session.axis().name)
    return note + link;
  const auto found = bus_on_axis(*watch.run(), results, watch.fed_results(), axis);
  if (!found || qt(watch.run()->power.buses[found->bus].name).toHtmlEscaped() != name) return note + link;
  if (watch.old() || watch.judging()) note += ", as it was before";
  note += found->of_bus == nullptr ? link : ", its worst limit " + told(*found->of_bus) + link;
  if (found->own != nullptr && !std::isnan(found->low))
    note +=
        "<br>At the " + QString::number(found->low, 'f', 1) + " V it gets there: " + told(*found->own) + ".";
  return note;
}

} // namespace fulmox::app
