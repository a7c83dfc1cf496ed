#include "app/givens/segment_menu.hpp"

#include "app/session/session.hpp"
#include "core/motion/segment_edits.hpp"
#include "core/quantity/format.hpp"

#include <algorithm>

namespace fulmox::app {
namespace {

using Sections = std::vector<Section>;

void edit_cycle(Session& session, const QString& name, const std::function<void(Sections&)>& how) {
  session.edit(name, "", [&](Document& document) { how(document.axes[session.axis_index()].cycle); });
}

void replace(Sections& all, std::size_t index, const Sections& by) {
  const auto at = all.erase(all.begin() + static_cast<std::ptrdiff_t>(index));
  all.insert(at, by.begin(), by.end());
}

void disable(QAction* action, const QString& why) {
  action->setEnabled(false);
  action->setToolTip(why);
}

/// Time of the cursor within the segment; nothing when it stands elsewhere.
std::optional<double> cursor_in(const Session& session, std::size_t index) {
  for (const Passage& passage : session.evaluation()->model->load->cycle.passages)
    if (const double tau = session.cursor() - passage.start;
        passage.segment == index && tau > 0.0 && tau < passage.duration)
      return tau;
  return std::nullopt;
}

void add_cut(QMenu& menu, Session& session, std::size_t index) {
  const Evaluation* e = session.evaluation();
  const bool marker = !session.axis().cycle[index].spec().index_of("process");
  if (marker || e == nullptr || session.stale())
    return disable(menu.addAction("Cut in two"),
                   marker ? "A mark of a group has no duration to cut."
                          : "First mend what keeps the axis from being worked out.");
  const Cycle& cycle = e->model->load->cycle;
  const auto cursor = cursor_in(session, index);
  const double tau = handy_cut(cycle, index, cursor.value_or(0.5 * cycle.facts[index].time));
  QAction* action =
      menu.addAction(QString(cursor ? "Cut at the cursor, after %1" : "Cut in the middle, after %1")
                         .arg(qt(format(tau, Kind::time).text())));
  action->setToolTip("The motion stays what it is; each part can then carry its own force or payload.");
  action->setObjectName("cut_segment");
  const auto parts = cut(cycle, session.axis().cycle, index, tau);
  if (!parts) return disable(action, qt(parts.problem().what + " " + parts.problem().remedy));
  QObject::connect(action, &QAction::triggered, &session, [&session, index, parts = *parts] {
    edit_cycle(session, "Cut segment", [&](Sections& all) { replace(all, index, parts); });
  });
}

} // namespace

void fill_segment_menu(QMenu& menu, Session& session, std::size_t index) {
  menu.setToolTipsVisible(true);
  const Sections& cycle = session.axis().cycle;
  const auto add = [&](const QString& text, const QString& name, const std::function<void(Sections&)>& how) {
    QAction* action = menu.addAction(text);
    action->setObjectName(name);
    QObject::connect(action, &QAction::triggered, &session,
                     [&session, text, how] { edit_cycle(session, text + " segment", how); });
    return action;
  };
  QAction* mirror =
      add("Mirror", "mirror_segment", [index](Sections& all) { all[index] = mirrored(all[index]); });
  if (!can_mirror(cycle[index])) disable(mirror, "What stands still has no direction.");
  add_cut(menu, session, index);
  QAction* split = add("Split into two moves", "split_segment",
                       [index](Sections& all) { replace(all, index, halved(all[index])); });
  split->setToolTip("Half the way in half the time each, with a stop between.");
  if (!cycle[index].is("move")) disable(split, "Only a move can be split into two.");
  menu.addSeparator();
  add("Copy", "copy_segment", [index](Sections& all) {
    Section copy = all[index];
    all.insert(all.begin() + static_cast<std::ptrdiff_t>(index) + 1, std::move(copy));
  });
  QAction* earlier = add("Move earlier", "earlier_segment",
                         [index](Sections& all) { std::swap(all[index], all[index - 1]); });
  if (index == 0) disable(earlier, "It is the first.");
  QAction* later =
      add("Move later", "later_segment", [index](Sections& all) { std::swap(all[index], all[index + 1]); });
  if (index + 1 >= cycle.size()) disable(later, "It is the last.");
  add("Remove", "remove_segment",
      [index](Sections& all) { all.erase(all.begin() + static_cast<std::ptrdiff_t>(index)); });
}

} // namespace fulmox::app
