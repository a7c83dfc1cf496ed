#include "app/capability/capability_view.hpp"
#include "app/constants/constants_view.hpp"
#include "app/heat/heat_view.hpp"
#include "app/library/library_view.hpp"
#include "app/limits/limits_view.hpp"
#include "app/limits/rules_view.hpp"
#include "app/machine/machine_view.hpp"
#include "app/match/match_view.hpp"
#include "app/parts/parts_view.hpp"
#include "app/sheet/axis_view.hpp"
#include "app/views/view.hpp"

#include <algorithm>
#include <vector>

namespace fulmox::app {
namespace {

std::vector<ViewSpec>& registry() {
  static std::vector<ViewSpec> all{
      {"axis", "Axis", "Think about one axis: sketch, speed and torque, shares, numbers",
       QKeySequence("Ctrl+1"), [](Session& session) -> QWidget* { return new AxisView(session); }},
      {"parts", "Parts", "Choose motor, gearhead, coupling and drive from the library",
       QKeySequence("Ctrl+2"), [](Session& session) -> QWidget* { return new PartsView(session); }},
      {"constants", "Constants", "A motor constant in every reading, and from a spun motor",
       QKeySequence("Ctrl+3"), [](Session& session) -> QWidget* { return new ConstantsView(session); }},
      {"capability", "Capability",
       "What motor and drive give at the shaft and at the load, and what they draw", QKeySequence("Ctrl+4"),
       [](Session& session) -> QWidget* { return new CapabilityView(session); }},
      {"heat", "Heat", "How warm the motor gets: in the steady cycle, and from cold", QKeySequence("Ctrl+5"),
       [](Session& session) -> QWidget* { return new HeatView(session); }},
      {"limits", "Limits", "Every limit at the corners of the typed spreads, and what is often forgotten",
       QKeySequence("Ctrl+6"), [](Session& session) -> QWidget* { return new LimitsView(session); }},
      {"rules", "Rules", "The house rules with their reasons, and what another set would change",
       QKeySequence("Ctrl+7"), [](Session& session) -> QWidget* { return new RulesView(session); }},
      {"match", "Match", "Every motor, gearhead and drive of the library tried at once",
       QKeySequence("Ctrl+8"), [](Session& session) -> QWidget* { return new MatchView(session); }},
      {"library", "Library", "The libraries of parts: load, search, type, check, import and export",
       QKeySequence("Ctrl+9"), [](Session& session) -> QWidget* { return new LibraryView(session); }, false,
       false, false},
      {"machine", "Machine", "All axes together: schedule, buses, supply", QKeySequence("Ctrl+0"),
       [](Session& session) -> QWidget* { return new MachineView(session); }, false, false, false}};
  return all;
}

} // namespace

std::span<const ViewSpec> view_specs() { return registry(); }

void register_view(const ViewSpec& view) {
  const auto same = [&](const ViewSpec& known) { return known.id == view.id; };
  if (std::none_of(registry().begin(), registry().end(), same)) registry().push_back(view);
}

} // namespace fulmox::app
