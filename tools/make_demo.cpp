// Writes data/demo/transplanter.fulmox: the vertical picker axis of an invented greenhouse machine that lifts
// seedlings from trays with vacuum cups. Parts come from the invented libraries.

#include "core/library/house_rule_sets.hpp"
#include "core/library/part_library.hpp"
#include "core/motion/cycle.hpp"
#include "core/project/document.hpp"

#include <cstdio>

namespace {

using namespace fulmox;

void add_segment(Axis& axis, std::string_view kind,
                 std::initializer_list<std::pair<std::string_view, std::string_view>> values) {
  Section segment(*find_segment_spec(kind));
  for (const auto& [field, text] : values) segment.type(field, text);
  axis.cycle.push_back(std::move(segment));
}

Axis picker(const Library& library) {
  Axis axis = new_axis("Picker");
  Section& load = axis[Given::load];
  load.type("moved_mass", "6 kg", Origin::measured);
  Entry mass = load.entry("moved_mass");
  mass.note = "Head with 24 vacuum cups, weighed with a spring scale";
  load.put("moved_mass", mass);
  load.type("angle", "90 deg");
  load.type("friction", "0.01 ±50%", Origin::guess);
  load.type("seal_drag", "8 N", Origin::data_sheet);
  Section& screw = axis[Given::mechanism];
  screw.type("lead", "10 mm");
  screw.type("diameter", "16 mm", Origin::data_sheet);
  screw.type("length", "420 mm");
  screw.type("efficiency", "0.9 ±3%", Origin::guess);
  screw.type("drag", "25 mN.m", Origin::data_sheet);
  screw.type("journal", "10 mm");
  Section& room = axis[Given::surroundings];
  room.type("ambient", "45 degC", Origin::measured);
  room.type("altitude", "120 m");
  room.type("bus", "48 V");
  room.type("bus_low", "46 V");
  room.type("bus_high", "50 V");
  room.type("supply_current", "5 A", Origin::data_sheet);
  room.type("supply_peak", "10 A", Origin::data_sheet);
  choose_part(axis, PartKind::motor, *library.find(PartKind::motor, "VK40-0100-048H"));
  choose_part(axis, PartKind::coupling, *library.find(PartKind::coupling, "DS14-0040"));
  choose_part(axis, PartKind::drive, *library.find(PartKind::drive, "EL48-080"));
  axis[Given::brake].type("fitted", "yes");
  const auto move = [&](std::string_view distance) {
    add_segment(axis, "move",
                {{"distance", distance},
                 {"time", "0.35 s"},
                 {"acceleration_share", "1/3"},
                 {"deceleration_share", "1/3"}});
  };
  move("-150 mm");
  add_segment(axis, "dwell", {{"time", "0.25 s"}});
  move("150 mm");
  add_segment(axis, "dwell", {{"time", "0.6 s"}});
  number_segments(axis);
  return axis;
}

} // namespace

int main(int argc, char** argv) {
  if (argc != 2) {
    std::fputs("usage: make_demo DATA_FOLDER\n", stderr);
    return 2;
  }
  const std::filesystem::path data = argv[1];
  const auto library = load_library(data / "library");
  const auto rules = load_house_rules(data / "house-rules");
  if (!library || !rules) {
    std::fprintf(stderr, "%s\n", (library ? rules.problem() : library.problem()).text().c_str());
    return 1;
  }
  Document document;
  document.name = "Seedling transplanter";
  document.house_rules = rules->front();
  document.axes.push_back(picker(*library));
  if (const auto problem = save_document(document, data / "demo" / "transplanter.fulmox")) {
    std::fprintf(stderr, "%s\n", problem->text().c_str());
    return 1;
  }
  return 0;
}
