#include "core/evaluation/forgotten.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// What is asked of an axis: whether an item concerns it and is still open.
struct Asked {
  const Axis& axis;
  const Evaluation& e;

  [[nodiscard]] bool blank(std::string_view slot, std::string_view field) const {
    const Section& section = axis[slot];
    return section.has(field) && section.blank(field);
  }
  [[nodiscard]] bool told(std::string_view slot, std::string_view field) const {
    const Section& section = axis[slot];
    return section.has(field) && !section.blank(field);
  }
  /// A guess, as what a form proposes is until somebody types it.
  [[nodiscard]] bool as_proposed(std::string_view slot, std::string_view field) const {
    const Section& section = axis[slot];
    const auto index = section.spec().index_of(field);
    return index && section.entry(*index).origin == Origin::guess;
  }
  [[nodiscard]] bool spread(std::string_view slot, std::string_view field) const {
    const Section& section = axis[slot];
    const auto index = section.spec().index_of(field);
    return index && section.entry(*index).tolerance.half_width > 0.0;
  }
  [[nodiscard]] bool turning() const { return e.model->load->mechanism->travel() == Kind::angle; }
  [[nodiscard]] bool pulled() const { return e.demand.holding.torque != 0.0; }
  [[nodiscard]] bool braked() const { return e.model->brake.fitted; }
  /// The wheel of a belt, a rack, a drum sits on the shaft of gearhead or motor itself.
  [[nodiscard]] bool wheel_on_shaft() const {
    const LoadSide& load = *e.model->load;
    return !turning() && !axis["mechanism"].has("lead") && load.stages.empty() && !load.coupling.fitted;
  }
  [[nodiscard]] bool leaning_teeth() const {
    const Section& mechanism = axis["mechanism"];
    return wheel_on_shaft() && mechanism.has("helix") && mechanism.term_or("helix", 0.0) > 0.0;
  }
  [[nodiscard]] bool at_load() const { return axis["requirements"].text("feedback") == "load"; }
  [[nodiscard]] bool stepper() const { return e.model->motor->keeps_current(); }
};

struct Item {
  Forgotten told;
  bool (*open)(const Asked&);
};

constexpr std::array items{
    Item{
        {"lowest_bus", "Lowest and highest bus", "Mains and sag are assumed 10 % to either side.",
         "surroundings.bus_low"},
        [](const Asked& a) { return !a.blank("surroundings", "bus") && a.blank("surroundings", "bus_low"); }},
    Item{{"mounting", "What the motor is screwed to",
          "Thin steel or plastic leads away much less heat than the plate of "
          "the data sheet.",
          "surroundings.mounting"},
         [](const Asked& a) {
           const Surroundings& s = a.e.model->surroundings;
           return s.mounting == 1.0 && a.e.model->motor->chosen && s.altitude == 0.0 &&
                  !a.spread("surroundings", "ambient");
         }},
    Item{{"thermal_data", "Thermal data of the motor",
          "Long holds and slow cycles heat it more than the rms torque tells.", "motor.winding_time"},
         [](const Asked& a) { return a.e.demand.heat.gap.has_value() || a.e.demand.heat.estimated; }},
    Item{{"no_brake", "What holds when power goes", "The load pulls at rest and no brake is fitted.",
          "brake.fitted"},
         [](const Asked& a) { return a.pulled() && !a.braked(); }},
    Item{{"brake_delay", "Delay of the brake",
          "The load falls freely until it bites; the usual 50 ms is assumed.", "brake.delay"},
         [](const Asked& a) {
           return a.braked() && (a.blank("brake", "delay") || a.as_proposed("brake", "delay"));
         }},
    Item{{"brake_energy", "What one stop may put into the brake",
          "A holding brake bears few stops from speed.", "brake.stop_energy"},
         [](const Asked& a) { return a.braked() && a.blank("brake", "stop_energy"); }},
    Item{{"room", "Room to stop when power goes",
          "How far it still goes is worked out; what it may meet is not told.", "requirements.room"},
         [](const Asked& a) { return a.braked() && !a.turning() && a.blank("requirements", "room"); }},
    Item{{"room_angle", "Room to stop when power goes",
          "How far it still goes is worked out; what it may meet is not "
          "told.",
          "requirements.room_angle"},
         [](const Asked& a) { return a.braked() && a.turning() && a.blank("requirements", "room_angle"); }},
    Item{{"stops", "How many emergency stops", "Gearhead and brake bear only so many in their life.",
          "requirements.stops"},
         [](const Asked& a) {
           return (a.braked() || a.e.model->gear.fitted) && a.blank("requirements", "stops");
         }},
    Item{{"switching", "Ripple of the current",
          "With little inductance the bridge's switching heats the motor.", "drive.switching"},
         [](const Asked& a) {
           // a stepper's chopper keeps its ripple by itself
           return a.e.model->drive->chosen && a.told("motor", "inductance") && !a.stepper() &&
                  a.blank("drive", "switching");
         }},
    Item{{"drive_ambient", "Heat around the drive", "In a hot cabinet it gives less than its rating.",
          "drive.rated_ambient"},
         [](const Asked& a) { return a.e.model->drive->chosen && a.blank("drive", "rated_ambient"); }},
    Item{{"drive_altitude", "Altitude of the drive", "Thin air cools it less.", "drive.rated_altitude"},
         [](const Asked& a) {
           return a.e.model->drive->chosen && a.e.model->surroundings.altitude > 0.0 &&
                  a.blank("drive", "rated_altitude");
         }},
    Item{{"end_speed", "Meeting the end stop", "The rotor's energy goes through the whole train.",
          "requirements.end_speed"},
         [](const Asked& a) { return !a.turning() && a.blank("requirements", "end_speed"); }},
    Item{{"friction_spread", "Spread of friction", "Cold grease, ageing and load change it by half.",
          "load.friction"},
         [](const Asked& a) { return a.axis["load"].has("friction") && !a.spread("load", "friction"); }},
    Item{{"static_friction", "Friction at rest", "It starts harder than it runs.", "load.static_friction"},
         [](const Asked& a) { return a.blank("load", "static_friction"); }},
    Item{{"kt_spread", "Spread of the torque constant", "Data sheets allow ±10 %.", "motor.kt"},
         [](const Asked& a) { return a.told("motor", "kt") && !a.spread("motor", "kt"); }},
    Item{{"holding_spread", "Spread of the holding torque", "Data sheets allow ±10 %.",
          "motor.holding_torque"},
         [](const Asked& a) {
           return a.told("motor", "holding_torque") && !a.spread("motor", "holding_torque");
         }},
    Item{{"peak_current", "Saturation of the torque constant",
          "Above the rated current it gives less for each ampere.", "motor.rated_current"},
         [](const Asked& a) { return a.blank("motor", "rated_current"); }},
    Item{{"magnets", "What the magnets are made of",
          "Hot ones give up to a tenth less torque an ampere, ferrite nearly a fifth: currents and heat "
          "may be told too low.",
          "motor.magnet"},
         [](const Asked& a) {
           return a.blank("motor", "magnet") && (a.told("motor", "kt") || a.told("motor", "ke"));
         }},
    Item{{"demagnetising", "Current that demagnetises", "A short circuit or a wrong setting may pass it.",
          "motor.demag_current"},
         [](const Asked& a) { return a.blank("motor", "demag_current"); }},
    Item{{"no_load", "No-load torque of the gearhead", "It grows with speed and in the cold.",
          "gearhead.no_load"},
         [](const Asked& a) { return a.e.model->gear.fitted && a.blank("gearhead", "no_load"); }},
    Item{{"cold_grease", "Cold grease in the gearhead",
          "Its no-load torque may double at the first start of a cold morning.", "gearhead.no_load"},
         [](const Asked& a) {
           return a.e.model->gear.fitted && !a.blank("gearhead", "no_load") &&
                  !a.spread("gearhead", "no_load");
         }},
    Item{{"gear_shaft", "Load across the gearhead's shaft", "Belt or pinion bend it, and its bearings wear.",
          "gearhead.radial_load"},
         [](const Asked& a) {
           return a.wheel_on_shaft() && a.e.model->gear.fitted && a.blank("gearhead", "radial_load");
         }},
    Item{{"motor_shaft", "Load across the motor's shaft", "Belt or pinion bend it, and its bearings wear.",
          "motor.radial_load"},
         [](const Asked& a) {
           return a.wheel_on_shaft() && !a.e.model->gear.fitted && a.blank("motor", "radial_load");
         }},
    Item{{"gear_thrust", "Thrust along the gearhead's shaft", "Leaning teeth push along it.",
          "gearhead.axial_load"},
         [](const Asked& a) {
           return a.leaning_teeth() && a.e.model->gear.fitted && a.blank("gearhead", "axial_load");
         }},
    Item{{"motor_thrust", "Thrust along the motor's shaft", "Leaning teeth push along it.",
          "motor.axial_load"},
         [](const Asked& a) {
           return a.leaning_teeth() && !a.e.model->gear.fitted && a.blank("motor", "axial_load");
         }},
    Item{{"pretension", "Pretension of the belt", "Too little and teeth jump, too much bends the shaft.",
          "mechanism.tension"},
         [](const Asked& a) { return a.blank("mechanism", "tension"); }},
    Item{{"emergency_torque", "Emergency torque of the gearhead", "A stop at full current may exceed it.",
          "gearhead.emergency_torque"},
         [](const Asked& a) { return a.e.model->gear.fitted && a.blank("gearhead", "emergency_torque"); }},
    Item{{"coupling_stiffness", "Stiffness of the coupling", "It bounds how fast the loop may be.",
          "coupling.stiffness"},
         [](const Asked& a) { return a.e.model->load->coupling.fitted && a.blank("coupling", "stiffness"); }},
    Item{{"nut_stiffness", "Stiffness of nut and bearings", "Often softer than the screw itself.",
          "mechanism.nut_stiffness"},
         [](const Asked& a) { return a.blank("mechanism", "nut_stiffness"); }},
    Item{{"belt_stiffness", "Stretch of the belt", "Usually the softest spring of the axis.",
          "mechanism.strain_stiffness"},
         [](const Asked& a) { return a.blank("mechanism", "strain_stiffness"); }},
    Item{{"tolerance", "How exact the load must stand",
          "Without it nothing tells whether play and wind-up matter.", "requirements.tolerance"},
         [](const Asked& a) { return !a.turning() && a.blank("requirements", "tolerance"); }},
    Item{{"tolerance_angle", "How exact the load must stand",
          "Without it nothing tells whether play and wind-up matter.", "requirements.tolerance_angle"},
         [](const Asked& a) { return a.turning() && a.blank("requirements", "tolerance_angle"); }},
    Item{{"warming", "Growth of a warm screw or rack", "10 K lengthen a metre of steel by 0.115 mm.",
          "requirements.warming"},
         [](const Asked& a) {
           return !a.turning() && (a.axis["mechanism"].has("lead") || a.axis["mechanism"].has("module")) &&
                  a.blank("requirements", "warming");
         }},
    Item{{"encoder", "Resolution of the feedback", "Its counts at the load, through all ratios.",
          "motor.encoder"},
         [](const Asked& a) { return a.blank("motor", "encoder") && !a.stepper() && !a.at_load(); }},
    Item{{"scale", "Resolution of the scale", "It is what the load's position is known to.",
          "requirements.scale"},
         [](const Asked& a) { return !a.turning() && a.at_load() && a.blank("requirements", "scale"); }},
    Item{{"scale_angle", "Resolution of the scale", "It is what the load's position is known to.",
          "requirements.scale_angle"},
         [](const Asked& a) { return a.turning() && a.at_load() && a.blank("requirements", "scale_angle"); }},
    Item{{"settling", "Time to settle", "The next step may begin only once the load stands still.",
          "requirements.settling"},
         [](const Asked& a) { return !a.stepper() && a.blank("requirements", "settling"); }},
    Item{{"bandwidth", "How fast the loop must be", "The springs of the train leave only so much.",
          "requirements.bandwidth"},
         [](const Asked& a) { return !a.stepper() && a.blank("requirements", "bandwidth"); }},
};

} // namespace

std::vector<Forgotten> often_forgotten(const Axis& axis, const Evaluation& evaluation) {
  const Asked asked{axis, evaluation};
  std::vector<Forgotten> open;
  for (const Item& item : items)
    if (item.open(asked)) open.push_back(item.told);
  return open;
}

} // namespace fulmox
