#include "app/ladder/bus_note.hpp"

#include "app/session/machine_watch.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/machine/bus_on_axis.hpp"
#include "core/project/names.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

QString share_of(const Limit& limit) {
  return std::isinf(limit.used) ? QString("nothing left")
                                : QString::number(100.0 * limit.used, 'f', 0) + " %";
}

QString alarming(const QString& text) {
  return "<span style='color:" + theme().alarm.name() + "'>" + text + "</span>";
}

/// "✕ Supply current, peak 124 %", in the colour of its state.
QString told(const Limit& limit) {
  const QString text =
      glyph(static_cast<int>(limit.state)) + " " + qt(limit.label).toHtmlEscaped() + " " + share_of(limit);
  return limit.state == LimitState::over ? alarming(text) : text;
}

bool any_called(const std::vector<BusPower>& buses, const std::string& name) {
  return std::any_of(buses.begin(), buses.end(), [&](const BusPower& bus) { return bus.name == name; });
}

} // namespace

QString bus_note(Session& session) {
  if (!session.has_axis()) return {};
  const std::string& called = session.axis()["surroundings"].text("shared_bus");
  const QString name = qt(called).toHtmlEscaped();
  if (name.isEmpty()) return {};
  const QString link = ", see <a href='machine'>Machine</a>.";
  if (!bus_exists(session.document(), called))
    return alarming("Supply not judged: no bus is called “" + name + "”") +
           ". Put the axis on another under Surroundings or in <a href='machine'>Machine</a>.";
  const MachineWatch& watch = session.machine_watch();
  if (watch.run() != nullptr && !watch.old() && !any_called(watch.run()->power.buses, called))
    return alarming("Supply not judged: bus " + name + " cannot be worked out") + link;
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
