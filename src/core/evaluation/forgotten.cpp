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
    Item{{"end_speed", "Meeting the end stop", "The rotor's energy goes through the whole train.",
          "requirements.end_speed"},
         [](const Asked& a) { return !a.turning() && a.blank("requirements", "end_speed"); }},
    Item{{"friction_spread", "Spread of friction", "Cold grease, ageing and load change it by half.",
          "load.friction"},
         [](const Asked& a) { return a.axis["load"].has("friction") && !a.spread("load", "friction"); }},
    Item{{"static_friction", "Friction at rest", "It starts harder than it runs.", "load.static_friction"},
         [](const Asked& a) { return a.blank("load", "static_friction"); }},
    Item{{"kt_spread", "Spread of the torque constant", "Data sheets allow ±10 %.", "motor.kt"},
         [](const Asked& a) { return !a.blank("motor", "kt") && !a.spread("motor", "kt"); }},
    Item{{"peak_current", "Saturation of the torque constant",
          "Above the rated current it gives less for each ampere.", "motor.rated_current"},
         [](const Asked& a) { return a.blank("motor", "rated_current"); }},
    Item{{"demagnetising", "Current that demagnetises", "A short circuit or a wrong setting may pass it.",
          "motor.demag_current"},
         [](const Asked& a) { return a.blank("motor", "demag_current"); }},
    Item{{"no_load", "No-load torque of the gearhead", "It grows with speed and in the cold.",
          "gearhead.no_load"},
         [](const Asked& a) { return a.e.model->gear.fitted && a.blank("gearhead", "no_load"); }},
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
         [](const Asked& a) { return a.blank("motor", "encoder") && !a.stepper(); }},
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
