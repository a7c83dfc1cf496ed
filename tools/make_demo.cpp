// Writes data/demo/transplanter.fulmox: an invented greenhouse machine that moves seedlings from trays into
// pots with vacuum cups. Seven axes on five mechanisms, with three kinds of motor; parts come from the
// invented libraries.

#include "confirm.hpp"
#include "core/library/catalogue.hpp"
#include "core/library/house_rule_sets.hpp"
#include "core/load/piece.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/motion/segments.hpp"
#include "core/plan/blocks.hpp"
#include "core/plan/buses.hpp"
#include "core/project/document.hpp"

#include <cstdio>

namespace {

using namespace fulmox;

using Values = std::initializer_list<std::pair<std::string_view, std::string_view>>;

void type_all(Section& section, Values values, Origin origin = Origin::given) {
  for (const auto& [field, text] : values) section.type(field, text, origin);
}

void add_to(Axis& axis, std::string_view list, std::string_view kind, Values values) {
  const ListInfo& info = *find_list(list);
  Section section(*find_kind(axis, info, kind));
  type_all(section, values);
  (axis.*info.member).push_back(std::move(section));
}

void add_segment(Axis& axis, std::string_view kind, Values values) { add_to(axis, "cycle", kind, values); }

Axis axis_on(const char* name, std::string_view mechanism, std::string_view bus) {
  Axis axis = new_axis(name);
  choose_mechanism(axis, *find_mechanism(mechanism));
  Section& room = axis["surroundings"];
  room.type("ambient", "45 degC", Origin::measured);
  room.type("altitude", "120 m");
  if (bus == "48 V")
    type_all(room, {{"bus", "48 V"},
                    {"bus_low", "46 V"},
                    {"bus_high", "50 V"},
                    {"supply_current", "10 A"},
                    {"supply_peak", "20 A"}});
  else if (bus == "24 V")
    type_all(room, {{"bus", "24 V"},
                    {"bus_low", "22.8 V"},
                    {"bus_high", "25.2 V"},
                    {"supply_current", "10 A"},
                    {"supply_peak", "12 A"}});
  else
    type_all(room, {{"bus", "325 V"},
                    {"bus_low", "290 V"},
                    {"bus_high", "357 V"},
                    {"supply_current", "4 A"},
                    {"supply_peak", "12 A"}});
  return axis;
}

void choose(Axis& axis, const Library& library, std::string_view slot, std::string_view number) {
  choose_part(axis, slot, *library.find(slot, number));
}

/// Trays come in three steps, then wait while they are emptied.
Axis tray(const Library& library) {
  Axis axis = axis_on("Tray", "conveyor", "48 V");
  type_all(axis["load"], {{"moved_mass", "7.5 kg"}, {"friction", "0.25"}});
  type_all(axis["mechanism"], {{"diameter", "60 mm"},
                               {"length", "1.8 m"},
                               {"efficiency", "0.88"},
                               {"grip", "0.6"},
                               {"belt_mass", "2.4 kg"},
                               {"drum_inertia", "4.5 kg.cm2"},
                               {"rollers", "9"},
                               {"roller_inertia", "0.9 kg.cm2"},
                               {"roller_radius", "20 mm"},
                               {"drag", "0.15 N.m"},
                               {"journal", "12 mm"}});
  choose(axis, library, "gearhead", "TP60-10");
  choose(axis, library, "motor", "VK60-0200-048H");
  choose(axis, library, "coupling", "DS19-0100");
  choose(axis, library, "drive", "EL48-080");
  add_segment(axis, "repeat", {{"count", "3"}, {"name", "one tray row"}});
  add_segment(axis, "move", {{"distance", "310 mm"}, {"law", "s_curve"}, {"time", "0.7 s"}});
  add_segment(axis, "dwell", {{"time", "0.5 s"}});
  add_segment(axis, "end", {});
  add_segment(axis, "dwell", {{"time", "1.2 s"}});
  return axis;
}

/// The gantry carries the picker from trays to pots, with seedlings one way and empty on the way back.
Axis gantry(const Library& library) {
  Axis axis = axis_on("Gantry", "belt", "325 V");
  type_all(axis["load"], {{"moved_mass", "18 kg"}, {"friction", "0.008"}, {"seal_drag", "12 N"}});
  type_all(axis["mechanism"], {{"pulley_teeth", "30"},
                               {"pitch", "5 mm"},
                               {"centres", "1.6 m"},
                               {"efficiency", "0.95"},
                               {"pulley_inertia", "1.6 kg.cm2"},
                               {"belt_mass", "0.45 kg"},
                               {"idler_inertia", "1.6 kg.cm2"},
                               {"drag", "0.1 N.m"},
                               {"journal", "12 mm"}});
  choose(axis, library, "gearhead", "TP60-5");
  choose(axis, library, "motor", "VK60-0400-325H");
  choose(axis, library, "coupling", "DS19-0100");
  choose(axis, library, "drive", "EM325-028");
  add_segment(axis, "move",
              {{"distance", "920 mm"},
               {"time", ""},
               {"peak_speed", "1.5 m/s"},
               {"acceleration", "5 m/s2"},
               {"payload", "1.2 kg"}});
  add_segment(axis, "dwell", {{"time", "0.9 s"}, {"payload", "1.2 kg"}});
  add_segment(axis, "move", {{"distance", "-920 mm"}, {"law", "345"}, {"time", "0.85 s"}});
  add_segment(axis, "dwell", {{"time", "0.7 s"}});
  return axis;
}

/// A table with six nests turns pots under the picker.
Axis table(const Library& library) {
  Axis axis = axis_on("Table", "table", "48 V");
  type_all(axis["load"], {{"friction_torque", "0.6 N.m"}, {"payload_radius", "150 mm"}}, Origin::guess);
  type_all(axis["mechanism"], {{"diameter", "420 mm"}, {"stations", "6"}, {"journal", "14 mm"}});
  add_to(axis, "pieces", "cylinder",
         {{"name", "Plate"}, {"diameter", "420 mm"}, {"length", "10 mm"}, {"material", "aluminium"}});
  add_to(axis, "pieces", "ring",
         {{"name", "Nests"},
          {"count", "6"},
          {"mass", "0.32 kg"},
          {"radius", "150 mm"},
          {"inertia", "3 kg.cm2"}});
  add_to(axis, "pieces", "cylinder",
         {{"name", "Bore for the hub"},
          {"diameter", "90 mm"},
          {"length", "10 mm"},
          {"material", "aluminium"},
          {"counts", "hole"}});
  add_to(axis, "stages", "belt_stage",
         {{"driving", "20"},
          {"driven", "60"},
          {"efficiency", "0.96"},
          {"input_inertia", "0.4 kg.cm2"},
          {"output_inertia", "11 kg.cm2"}});
  choose(axis, library, "gearhead", "TP60-10");
  choose(axis, library, "motor", "VK60-0200-048H");
  choose(axis, library, "coupling", "DS19-0100");
  choose(axis, library, "drive", "EL48-120");
  add_segment(axis, "move", {{"distance", "60 deg"}, {"law", "modified_sine"}, {"time", "0.35 s"}});
  add_segment(axis, "dwell", {{"time", "0.65 s"}});
  return axis;
}

/// The cart takes filled trays away along a rack, its motor riding on it.
Axis cart(const Library& library) {
  Axis axis = axis_on("Cart", "rack", "325 V");
  type_all(axis["load"], {{"moved_mass", "42 kg"}, {"friction", "0.015"}, {"seal_drag", "10 N"}});
  type_all(axis["mechanism"], {{"module", "2 mm"},
                               {"teeth", "20"},
                               {"helix", "19.53 deg"},
                               {"length", "3 m"},
                               {"efficiency", "0.96"},
                               {"motor_mass", "3.2 kg"},
                               {"pinion_inertia", "1.1 kg.cm2"},
                               {"drag", "0.2 N.m"},
                               {"journal", "16 mm"}});
  choose(axis, library, "gearhead", "TP60-10");
  choose(axis, library, "motor", "VK60-0200-325H");
  choose(axis, library, "coupling", "DS19-0100");
  choose(axis, library, "drive", "EM325-017");
  add_segment(axis, "move",
              {{"distance", "0.3 m"},
               {"time", "0.9 s"},
               {"acceleration_share", "0.5"},
               {"deceleration_share", "0.2"},
               {"payload", "6 kg"}});
  add_segment(axis, "run", {{"speed", "0.45 m/s"}, {"time", "2 s"}, {"payload", "6 kg"}});
  add_segment(axis, "move",
              {{"distance", "0.3 m"},
               {"time", "0.9 s"},
               {"acceleration_share", "0.2"},
               {"deceleration_share", "0.5"},
               {"payload", "6 kg"}});
  add_segment(axis, "dwell", {{"time", "1.5 s"}, {"held_by", "motor"}});
  add_segment(axis, "move",
              {{"distance", "-1.5 m"},
               {"law", "s_curve"},
               {"time", ""},
               {"peak_speed", "0.9 m/s"},
               {"acceleration", "1.5 m/s2"},
               {"jerk", "12 m/s3"}});
  add_segment(axis, "dwell", {{"time", "2 s"}});
  return axis;
}

/// Sets the cups from the tray's pitch to that of the pots: light, stands most of the time, so a stepper.
Axis spreader(const Library& library) {
  Axis axis = axis_on("Spreader", "screw", "24 V");
  type_all(axis["load"], {{"moved_mass", "2.4 kg"}, {"friction", "0.08 ±30%"}, {"seal_drag", "3 N"}},
           Origin::guess);
  type_all(axis["mechanism"], {{"lead", "6 mm"},
                               {"diameter", "10 mm"},
                               {"length", "160 mm"},
                               {"efficiency", "0.6"},
                               {"journal", "6 mm"}});
  choose(axis, library, "motor", "HS11-51-07");
  choose(axis, library, "coupling", "DS10-0010");
  choose(axis, library, "drive", "SS36-015");
  type_all(axis["drive"], {{"current_setting", "0.67 A"},
                           {"current_as", "phase"},
                           {"microsteps", "16"},
                           {"standing_current", "50 %"},
                           {"start_speed", "20 rpm"},
                           {"controller_rate", "100 kHz"}});
  add_segment(axis, "move", {{"distance", "18 mm"}, {"time", "0.35 s"}, {"law", "345"}});
  add_segment(axis, "dwell", {{"time", "0.55 s"}});
  add_segment(axis, "move", {{"distance", "-18 mm"}, {"time", "0.35 s"}, {"law", "345"}});
  add_segment(axis, "dwell", {{"time", "0.3 s"}});
  return axis;
}

/// Sweeps soil off the tray's edge: turns for ever, speed need not be exact, so a brushed motor.
Axis brush(const Library& library) {
  Axis axis = axis_on("Brush", "table", "24 V");
  type_all(axis["load"], {{"friction_torque", "0.12 N.m ±30%"}}, Origin::guess);
  type_all(axis["mechanism"], {{"diameter", "90 mm"}, {"journal", "8 mm"}});
  add_to(axis, "pieces", "cylinder",
         {{"name", "Roller"}, {"diameter", "60 mm"}, {"length", "300 mm"}, {"density", "350 kg/m3"}});
  choose(axis, library, "motor", "KD52-220-24");
  choose(axis, library, "coupling", "DS14-0040");
  choose(axis, library, "drive", "SD24-100");
  add_segment(axis, "move", {{"distance", "12 rev"}, {"time", "1.5 s"}});
  add_segment(axis, "dwell", {{"time", "0.5 s"}});
  add_segment(axis, "move", {{"distance", "-12 rev"}, {"time", "1.5 s"}});
  add_segment(axis, "dwell", {{"time", "0.5 s"}});
  return axis;
}

Axis picker(const Library& library) {
  Axis axis = new_axis("Picker");
  Section& load = axis["load"];
  load.type("moved_mass", "6 kg", Origin::measured);
  Entry mass = load.entry("moved_mass");
  mass.note = "Head with 24 vacuum cups, weighed with a spring scale";
  load.put("moved_mass", mass);
  load.type("angle", "90 deg");
  load.type("friction", "0.01 ±50%", Origin::guess);
  load.type("seal_drag", "8 N", Origin::data_sheet);
  Section& screw = axis["mechanism"];
  screw.type("lead", "10 mm");
  screw.type("diameter", "16 mm", Origin::data_sheet);
  screw.type("length", "420 mm");
  screw.type("efficiency", "0.9 ±3%", Origin::guess);
  screw.type("drag", "25 mN.m", Origin::data_sheet);
  screw.type("journal", "10 mm");
  Section& room = axis["surroundings"];
  room.type("ambient", "45 degC", Origin::measured);
  room.type("altitude", "120 m");
  room.type("bus", "48 V");
  room.type("bus_low", "46 V");
  room.type("bus_high", "50 V");
  room.type("supply_current", "5 A", Origin::data_sheet);
  room.type("supply_peak", "10 A", Origin::data_sheet);
  choose_part(axis, "motor", *library.find("motor", "VK40-0100-048H"));
  choose_part(axis, "coupling", *library.find("coupling", "DS14-0040"));
  choose_part(axis, "drive", *library.find("drive", "EL48-080"));
  axis["brake"].type("fitted", "yes");
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
  number_sections(axis);
  return axis;
}

void add_to(Document& document, std::string_view list, const SectionSpec& form, Values values) {
  Section section(form);
  type_all(section, values);
  document.lists.find(list)->second.push_back(std::move(section));
}

/// Which bus every axis is on, what feeds it, and when each runs in the machine's cycle.
void put_together(Document& machine) {
  for (Axis& axis : machine.axes) {
    Section& room = axis["surroundings"];
    const double bus = room.term("bus");
    room.type("shared_bus", bus > 100.0 ? "Mains" : bus > 30.0 ? "48 V" : "24 V");
    if (axis["brake"].text("fitted") == "yes") room.type("brake_bus", "24 V");
  }
  add_to(machine, "buses", regulated_bus_section(),
         {{"name", "48 V"},           {"part_number", "PW48-100"}, {"volts", "48 V"},
          {"droop", "20 mohm"},       {"limit", "15 A"},           {"power", "480 W"},
          {"peak", "720 W"},          {"peak_time", "0.5 s"},      {"backfed_trip", "60 V"},
          {"capacitance", "4.7 mF"},  {"capacitor_volts", "63 V"}, {"chopper_on", "54 V"},
          {"chopper_off", "52 V"},    {"chopper_current", "10 A"}, {"resistor", "8 ohm"},
          {"resistor_power", "50 W"}, {"resistor_peak", "500 W"},  {"resistor_pulse", "400 J"},
          {"cable_length", "2 m"},    {"cable_area", "1.5 mm2"},   {"inductance", "2 uH"}});
  add_to(machine, "buses", mains_bus_section(),
         {{"name", "Mains"},
          {"volts", "230 V"},
          {"source", "0.5 ohm"},
          {"power", "1.5 kW"},
          {"precharge", "22 ohm"},
          {"capacitance", "1 mF"},
          {"capacitor_volts", "450 V"},
          {"capacitor_ripple", "6 A"},
          {"bleeder", "47 kohm"},
          {"chopper_on", "390 V"},
          {"chopper_off", "380 V"},
          {"chopper_current", "8 A"},
          {"resistor", "68 ohm"},
          {"resistor_power", "100 W"},
          {"resistor_peak", "2.5 kW"},
          {"resistor_pulse", "4 kJ"},
          {"inductance", "100 uH"}});
  add_to(machine, "buses", regulated_bus_section(),
         {{"name", "24 V"},
          {"part_number", "PW24-100"},
          {"volts", "24 V"},
          {"droop", "15 mohm"},
          {"limit", "15 A"},
          {"power", "240 W"},
          {"peak", "360 W"},
          {"capacitance", "33 mF"},
          {"inductance", "2 uH"}});
  add_to(machine, "steady_loads", steady_load_section(),
         {{"name", "Controller and sensors"}, {"bus", "24 V"}, {"power", "35 W"}});
  add_to(machine, "steady_loads", steady_load_section(),
         {{"name", "Vacuum valves"},
          {"bus", "24 V"},
          {"power", "18 W"},
          {"on_at", "2.2 s"},
          {"on_for", "4.7 s"}});
  const auto block = [&](Values values) { add_to(machine, "blocks", block_section(), values); };
  block({{"axis", "Cart"}});
  block({{"axis", "Tray"}, {"offset", "1.85 s"}});
  block({{"axis", "Gantry"}, {"offset", "0.4 s"}});
  block({{"axis", "Picker"}, {"repeats", "3"}, {"after", "Gantry"}, {"after_segment", "1"}});
  block({{"axis", "Spreader"}, {"repeats", "3"}, {"after", "Gantry"}, {"after_segment", "1"}});
  block({{"axis", "Table"}, {"name", "Pots away"}, {"after", "Picker"}, {"delay", "50 ms"}});
  block({{"axis", "Table"}, {"name", "Pots in"}, {"after", "Pots away"}, {"delay", "0.3 s"}});
  block({{"axis", "Brush"}, {"offset", "5.2 s"}});
  type_all(machine.pace,
           {{"parts", "18"}, {"rate", "6000"}, {"stop_time", "120 ms"}, {"stop_ramp", "100 ms"}});
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
  for (const auto& make : {picker, tray, gantry, table, cart, spreader, brush}) {
    document.axes.push_back(make(*library));
    number_sections(document.axes.back());
  }
  put_together(document);
  tools::confirm(document);
  number_sections(document);
  if (const auto problem = save_document(document, data / "demo" / "transplanter.fulmox")) {
    std::fprintf(stderr, "%s\n", problem->text().c_str());
    return 1;
  }
  return 0;
}
