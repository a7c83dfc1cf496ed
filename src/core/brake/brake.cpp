#include "core/brake/brake.hpp"

namespace fulmox {

const SectionSpec& brake_section() {
  static const SectionSpec spec{
      "brake", "Brake",
      with_trade_fields({
          part_number_field(),
          maker_field(),
          one_of(
              "fitted", "Holding brake", {{"no", "none"}, {"yes", "fitted"}},
              "A holding brake keeps a load from falling when power goes. It is not personnel protection."),
          optional("torque", "Holding torque", "T_b", Kind::torque, range::positive,
                   "At the motor shaft. Blank: the motor maker's own option."),
          optional("inertia", "Inertia", "J_b", Kind::inertia, range::not_negative,
                   "Blank: the motor maker's own option."),
          optional("power", "Coil", "P_b", Kind::power, range::not_negative,
                   "Keeps it open while the axis moves, and heats the motor's case."),
          usually(
              "delay", "Delay", "t_d", Kind::time, range::not_negative, "50 ms",
              "From the loss of power until it bites: relay and coil. A diode across the coil makes it two "
              "to five "
              "times slower than a varistor (from memory)."),
          usually("in_motion", "Torque in motion", "", Kind::share, {0.0, 1.0, true}, "60 %",
                  "Of the holding torque: 50 to 90 % (from memory)."),
          optional("stop_energy", "Energy of a stop", "E_max", Kind::energy, range::positive,
                   "What it takes in one emergency stop. Holding brakes bear few of them."),
          optional("stops", "Stops allowed", "n_b", Kind::number, {1.0, 1e9},
                   "How many such stops its maker allows in its life."),
          optional("max_speed", "Speed to bite at", "n_max", Kind::angular_speed, range::positive,
                   "Greatest speed at which it may close."),
          optional("coil_volts", "Coil voltage", "V_b", Kind::voltage, range::positive, "Usually 24 V."),
      })};
  return spec;
}

const SlotSpec& brake_slot() {
  static const SlotSpec slot{"brake", "Brake", [] {
                               return std::vector<SlotKind>{
                                   {.form = &brake_section(),
                                    .summary =
                                        [](const Section& brake) {
                                          if (brake.text("fitted") != "yes") return std::string("none");
                                          return brake.blank("part_number") ? std::string("fitted")
                                                                            : brake.text("part_number");
                                        },
                                    .prominent = {"fitted", "torque", "inertia"},
                                    .library = "brakes.csv",
                                    .columns = {"torque", "inertia", "delay", "stop_energy", "max_speed"}}};
                             }};
  return slot;
}

Brake Brake::from(const Section& brake, const Section& motor) {
  Brake out;
  out.fitted = brake.text("fitted") == "yes";
  if (!out.fitted) return out;
  out.torque = brake.blank("torque") ? motor.term_if("brake_torque") : brake.term("torque");
  out.inertia = !brake.blank("inertia")      ? brake.term("inertia")
                : motor.has("brake_inertia") ? motor.term_or("brake_inertia", 0.0)
                                             : Term{0.0, ""};
  out.power = brake.term_or("power", 0.0);
  constexpr double usual_delay = 0.05, usual_share = 0.6; // s; both from memory
  out.delay = brake.term_or("delay", usual_delay);
  out.in_motion = brake.term_or("in_motion", usual_share);
  out.stop_energy = brake.term("stop_energy");
  out.stops = brake.term("stops");
  out.max_speed = brake.term("max_speed");
  out.coil_volts = brake.term("coil_volts");
  return out;
}

double own_brake_price(const Section& brake, const Section& motor) {
  const bool own = brake.text("fitted") == "yes" && brake.blank("part_number") && brake.blank("torque") &&
                   brake.blank("price");
  return own ? motor.term_if("brake_price").value : 0.0;
}

} // namespace fulmox
