#include "app/session/examples.hpp"

#include "core/mechanism/mechanism.hpp"
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

using Values = std::initializer_list<std::pair<std::string_view, std::string_view>>;

void type_all(Section& section, Values values) {
  for (const auto& [field, text] : values) section.type(field, text, Origin::guess);
}

void add_segment(Axis& axis, std::string_view kind, Values values) {
  Section segment(*find_segment_spec(kind, motion_of(axis)));
  for (const auto& [field, text] : values) segment.type(field, text);
  axis.cycle.push_back(std::move(segment));
}

/// A bus from single-phase mains, with room for one axis.
void put_on_mains(Axis& axis) {
  type_all(axis["surroundings"], {{"bus", "325 V"}, {"supply_current", "4 A"}, {"supply_peak", "12 A"}});
}

/// An axis on another mechanism than a screw.
Axis on_mechanism(const std::string& name, std::string_view mechanism) {
  Axis axis = new_axis(name);
  choose_mechanism(axis, *find_mechanism(mechanism));
  put_on_mains(axis);
  return axis;
}

Axis arm_example(const Library& library) {
  Axis axis = on_mechanism("Arm", "arm");
  type_all(axis["mechanism"], {{"length", "400 mm"}, {"mass", "4 kg"}, {"centre", "350 mm"}});
  type_all(axis["load"], {{"inertia", "0.05 kg.m2"}, {"friction_torque", "0.3 N.m"}});
  add_segment(axis, "move", {{"distance", "90 deg"}, {"time", "0.8 s"}, {"law", "345"}});
  add_segment(axis, "dwell", {{"time", "0.5 s"}});
  add_segment(axis, "move", {{"distance", "-90 deg"}, {"time", "0.8 s"}, {"law", "345"}});
  add_segment(axis, "dwell", {{"time", "0.5 s"}});
  axis["brake"].type("fitted", "yes");
  choose(axis, library, "motor", "VK130-1000-325H");
  choose(axis, library, "gearhead", "TP115-10");
  choose(axis, library, "drive", "EM325-028");
  return axis;
}

Axis drum_example(const Library& library) {
  Axis axis = on_mechanism("Hoist", "drum");
  type_all(axis["load"], {{"moved_mass", "40 kg"}, {"angle", "90 deg"}});
  type_all(axis["mechanism"], {{"radius", "30 mm"}});
  add_segment(axis, "move", {{"distance", "1.2 m"}, {"time", "4 s"}});
  add_segment(axis, "dwell", {{"time", "2 s"}, {"held_by", "brake"}});
  add_segment(axis, "move", {{"distance", "-1.2 m"}, {"time", "4 s"}});
  add_segment(axis, "dwell", {{"time", "4 s"}, {"held_by", "brake"}});
  axis["brake"].type("fitted", "yes");
  choose(axis, library, "motor", "VK80-1000-325H");
  choose(axis, library, "gearhead", "TP80-10");
  choose(axis, library, "drive", "EM325-028");
  return axis;
}

Axis crank_example(const Library& library) {
  Axis axis = on_mechanism("Pusher", "crank");
  type_all(axis["load"], {{"moved_mass", "3 kg"}});
  type_all(axis["mechanism"], {{"radius", "40 mm"}, {"rod", "140 mm"}});
  add_segment(axis, "run", {{"speed", "60 rpm"}, {"time", "1 s"}, {"process", "120 N"}});
  choose(axis, library, "motor", "CR60-0400-325L");
  choose(axis, library, "gearhead", "TP60-10");
  choose(axis, library, "drive", "EM325-017");
  return axis;
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
  static constexpr std::array all{Example{"level", "Level slide, ball screw: 12 kg"},
                                  Example{"vertical", "Vertical lift with brake: 6 kg"},
                                  Example{"incline", "Loader at 30°, counterweight"},
                                  Example{"belt", "Gantry on a timing belt: 18 kg"},
                                  Example{"conveyor", "Belt conveyor in three steps"},
                                  Example{"rack", "Cart on rack and pinion"},
                                  Example{"table", "Rotary table: six stations"},
                                  Example{"arm", "Swinging arm: 90° and back"},
                                  Example{"drum", "Hoist on a drum: 40 kg, brake"},
                                  Example{"crank", "Slider-crank: 60 strokes/min"}};
  return all;
}

Axis example_axis(const QString& name, const Library& library) {
  if (auto axis = demo_axis(name)) return *axis;
  Axis axis = new_axis("Slide");
  put_on_mains(axis);
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
    choose(axis, library, "motor", "VK60-0200-325H");
    choose(axis, library, "drive", "EM325-017");
    choose(axis, library, "coupling", "DS19-0100");
  } else if (name == "arm") {
    axis = arm_example(library);
  } else if (name == "drum") {
    axis = drum_example(library);
  } else if (name == "crank") {
    axis = crank_example(library);
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
