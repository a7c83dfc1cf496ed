#include "app/session/examples.hpp"

#include "core/motion/segments.hpp"
#include "core/support/data_folder.hpp"

#include <array>

namespace fulmox::app {
namespace {

void choose(Axis& axis, const Library& library, std::string_view slot, std::string_view number) {
  if (const Section* part = library.find(slot, number)) choose_part(axis, slot, *part);
}

void add_there_and_back(Axis& axis, const std::string& distance, std::string_view time,
                        std::string_view dwell) {
  for (const std::string& d : {distance, "-" + distance}) {
    Section move(*find_segment_spec("move"));
    move.type("distance", d);
    move.type("time", time);
    axis.cycle.push_back(std::move(move));
    Section rest(*find_segment_spec("dwell"));
    rest.type("time", dwell);
    axis.cycle.push_back(std::move(rest));
  }
}

void type_all(Section& section, std::initializer_list<std::pair<std::string_view, std::string_view>> values) {
  for (const auto& [field, text] : values) section.type(field, text, Origin::guess);
}

/// Names of the demo machine's axes that serve as examples.
constexpr std::array<std::pair<std::string_view, std::string_view>, 4> from_demo{
    {{"belt", "Gantry"}, {"conveyor", "Tray"}, {"rack", "Cart"}, {"table", "Table"}}};

/// An axis of the demo machine; nothing when the demo is missing.
std::optional<Axis> demo_axis(const QString& example) {
  const auto demo = load_document(data_folder() / "demo" / "transplanter.fulmox");
  if (!demo) return std::nullopt;
  for (const auto& [name, axis_name] : from_demo)
    for (const Axis& axis : demo->axes)
      if (example.toStdString() == name && axis.name == axis_name) return axis;
  return std::nullopt;
}

} // namespace

std::span<const Example> examples() {
  static constexpr std::array all{Example{"level", "Level slide, ball screw: 12 kg, 500 mm in 0.8 s"},
                                  Example{"vertical", "Vertical lift with brake: 6 kg, 150 mm in 0.35 s"},
                                  Example{"incline", "Loader at 30°, lead screw, counterweight: 20 kg"},
                                  Example{"belt", "Gantry on a timing belt: 18 kg, 920 mm"},
                                  Example{"conveyor", "Belt conveyor: trays in three steps"},
                                  Example{"rack", "Cart on rack and pinion"},
                                  Example{"table", "Rotary table: six stations, modified sine"}};
  return all;
}

Axis example_axis(const QString& name, const Library& library) {
  if (auto axis = demo_axis(name)) return *axis;
  Axis axis = new_axis("Slide");
  axis["surroundings"].type("bus", "325 V");
  if (name == "vertical") {
    axis.name = "Lift";
    type_all(axis["load"], {{"moved_mass", "6 kg"}, {"angle", "90 deg"}, {"seal_drag", "8 N"}});
    axis["brake"].type("fitted", "yes");
    add_there_and_back(axis, "150 mm", "0.35 s", "0.4 s");
    choose(axis, library, "motor", "VK40-0100-325H");
    choose(axis, library, "drive", "EM325-017");
    choose(axis, library, "coupling", "DS14-0040");
  } else if (name == "incline") {
    axis.name = "Loader";
    type_all(axis["load"],
             {{"moved_mass", "20 kg"}, {"angle", "30 deg"}, {"friction", "0.08"}, {"counterweight", "8 kg"}});
    type_all(axis["mechanism"],
             {{"lead", "12 mm"}, {"diameter", "20 mm"}, {"length", "700 mm"}, {"efficiency", "0.55"}});
    axis["brake"].type("fitted", "yes");
    add_there_and_back(axis, "400 mm", "1.2 s", "0.5 s");
    choose(axis, library, "motor", "VK60-0400-325H");
    choose(axis, library, "drive", "EM325-028");
    choose(axis, library, "coupling", "DS19-0100");
  } else {
    type_all(axis["load"], {{"moved_mass", "12 kg"}});
    type_all(axis["mechanism"], {{"length", "800 mm"}});
    add_there_and_back(axis, "500 mm", "0.8 s", "0.4 s");
    choose(axis, library, "motor", "CR60-0200-325L");
    choose(axis, library, "drive", "EM325-017");
    choose(axis, library, "coupling", "DS16-0060");
  }
  number_sections(axis);
  return axis;
}

} // namespace fulmox::app
