#include "core/gearhead/gearhead.hpp"

#include <array>
#include <cmath>

namespace fulmox {

namespace {
std::vector<FieldSpec> own_fields() {
  return {
      part_number_field(),
      maker_field(),
      needed("ratio", "Ratio", "i", Kind::number, range::positive, "1", "Motor turns per output turn."),
      optional("frame", "Frame size", "", Kind::length, range::positive, ""),
      optional("efficiency", "Efficiency", "η", Kind::share, range::efficiency,
               "Driving. Planetary heads 95–97 % a stage."),
      optional("back_efficiency", "Back-driving efficiency", "η_b", Kind::share, {-range::infinity, 1.0},
               "When the load drives. Blank means the same as driving."),
      optional("inertia", "Inertia at input", "J", Kind::inertia, range::not_negative, ""),
      optional("no_load", "No-load torque", "T_0", Kind::torque, range::not_negative,
               "At the input, without load; always opposes rotation."),
      optional(
          "no_load_rise", "No-load torque, growth", "b_0", Kind::iron_viscous, range::not_negative,
          "By which it grows with the speed of the input, like 5 mN.m/krpm. In the cold grease stiffens: "
          "give the no-load torque a spread."),
      optional("nominal_torque", "Nominal torque", "T_2N", Kind::torque, range::positive,
               "At the output, for life."),
      optional("continuous_torque", "Continuous torque", "T_2C", Kind::torque, range::positive,
               "At the output, where it turns most of the time or for more than 20 min on end."),
      optional("peak_torque", "Acceleration torque", "T_2B", Kind::torque, range::positive,
               "At the output, in every cycle."),
      optional("emergency_torque", "Emergency torque", "T_2Not", Kind::torque, range::positive,
               "At the output, a few times in its life."),
      optional("emergency_stops", "Emergency stops", "n_2Not", Kind::number, {1.0, 1e9},
               "How many its maker allows in its life at that torque."),
      optional("mean_speed", "Mean input speed", "n_1N", Kind::angular_speed, range::positive, ""),
      optional("max_speed", "Maximum input speed", "n_1max", Kind::angular_speed, range::positive, ""),
      optional("backlash", "Backlash", "", Kind::angle, range::not_negative, "At the output, like 8 arcmin."),
      optional("stiffness", "Torsional stiffness", "k", Kind::torsional_stiffness, range::positive,
               "At the output, like 3 N.m/arcmin."),
      optional("radial_load", "Load across the shaft", "F_2r", Kind::force, range::positive,
               "At the middle of the output shaft, at its mean speed."),
      optional("axial_load", "Load along the shaft", "F_2a", Kind::force, range::positive,
               "Along the output shaft, at its mean speed."),
      optional("shaft", "Output shaft", "d", Kind::length, range::positive, ""),
  };
}

std::vector<FieldSpec> all_fields() {
  std::vector<FieldSpec> all = with_trade_fields(own_fields());
  for (FieldSpec& field : gearhead_mounting_fields()) all.push_back(std::move(field));
  return all;
}
} // namespace

const SectionSpec& gearhead_section() {
  static const SectionSpec spec{"gearhead", "Gearhead", all_fields()};
  return spec;
}

double equivalent_torque(double weighted, double turns, double exponent) {
  return turns > 0.0 ? std::pow(weighted / turns, 1.0 / exponent) : 0.0;
}

double shock_factor(double starts_per_hour) {
  if (starts_per_hour <= 1000.0) return 1.0;
  if (starts_per_hour <= 2000.0) return 1.2;
  if (starts_per_hour <= 3000.0) return 1.6;
  return 2.0;
}

bool runs_on(double share_turning, double longest_run) {
  constexpr double most_of_the_time = 0.6, long_run = 20.0 * 60.0;
  return share_turning > most_of_the_time || longest_run > long_run;
}

namespace {
double shocked_torque(double torque, double factor) { return std::abs(torque) * factor; }
} // namespace

namespace book {
const Formula equivalent_torque{
    "gear.equivalent",
    "Equivalent output torque",
    "T_eq",
    "(∫|T|^{k}·n·dt / ∫n·dt)^(1/{k}); {Q} / {q}",
    Kind::torque,
    {{"Q", "∫|T|^k·n·dt", Kind::number, "torque weighted by turns, in SI", range::not_negative},
     {"q", "∫n·dt", Kind::angle, "turns", range::not_negative},
     {"k", "k", Kind::number, "fatigue exponent, 3 by default", {1.0, 20.0}}},
    "cubic-mean fatigue rule for gears",
    calling<&fulmox::equivalent_torque>};
const Formula shock_factor{"gear.shock_factor",
                           "Factor for starts per hour",
                           "f_b",
                           "step table of {z} starts per hour",
                           Kind::number,
                           {{"z", "z", Kind::number, "starts per hour", range::not_negative}},
                           "from memory; editable rule of the trade",
                           calling<&fulmox::shock_factor>};
const Formula starts_per_hour{"gear.starts",
                              "Starts per hour",
                              "z",
                              "{n}·3600 s/{t}",
                              Kind::number,
                              {{"n", "n", Kind::number, "starts from standstill in a cycle"},
                               {"t", "t_c", Kind::time, "cycle time, dwells included", range::positive}},
                              "every start loads the teeth once",
                              calling<+[](double starts, double time) { return starts * 3600.0 / time; }>};
const Formula inertia_behind{"gear.inertia_behind",
                             "Load inertia at the head's output",
                             "J_L",
                             "({J} − {J_g})·{i}²",
                             Kind::inertia,
                             {{"J", "J", Kind::inertia, "load at the motor, head included"},
                              {"J_g", "J_g", Kind::inertia, "head at its input"},
                              {"i", "i", Kind::number, "ratio of the head", range::positive}},
                             "equal kinetic energy",
                             calling<+[](double all, double own, double i) { return (all - own) * i * i; }>};
const Formula shocked_torque{"gear.peak",
                             "Acceleration peak with starts counted",
                             "T_2b",
                             "|{T}|·{f}",
                             Kind::torque,
                             {{"T", "T_2", Kind::torque, "greatest torque at the output"},
                              {"f", "f_b", Kind::number, "factor for starts per hour", range::positive}},
                             "common practice",
                             calling<&fulmox::shocked_torque>};
} // namespace book

std::span<const Formula* const> gearhead_formulas() {
  static const std::array list{&book::equivalent_torque, &book::shock_factor, &book::shocked_torque,
                               &book::starts_per_hour, &book::inertia_behind};
  return list;
}

const SlotSpec& gearhead_slot() {
  static const SlotSpec slot{
      "gearhead", "Gearhead", [] {
        return std::vector<SlotKind>{
            {.form = &gearhead_section(),
             .summary =
                 [](const Section& gearhead) {
                   if (gearhead.text("ratio") == "1" && gearhead.blank("part_number"))
                     return std::string("none");
                   const std::string part = summary_of_fields(gearhead, {"part_number"});
                   return gearhead.text("ratio") + " : 1" + (part.empty() ? "" : " · " + part);
                 },
             .prominent = {"ratio", "efficiency"},
             .library = "gearheads.csv",
             .columns = {"frame", "ratio", "nominal_torque", "peak_torque", "max_speed", "backlash"}}};
      }};
  return slot;
}

Gearhead Gearhead::from(const Section& section) {
  Gearhead gear;
  gear.ratio = section.term("ratio");
  gear.efficiency = section.term_or("efficiency", 1.0);
  gear.back_efficiency = section.blank("back_efficiency") ? gear.efficiency : section.term("back_efficiency");
  gear.input_inertia = section.term_or("inertia", 0.0);
  gear.no_load = section.term_or("no_load", 0.0);
  gear.no_load_rise = section.term_or("no_load_rise", 0.0);
  gear.nominal_torque = section.term("nominal_torque");
  gear.continuous_torque = section.term("continuous_torque");
  gear.emergency_stops = section.term("emergency_stops");
  gear.peak_torque = section.term("peak_torque");
  gear.emergency_torque = section.term("emergency_torque");
  gear.mean_speed = section.term("mean_speed");
  gear.max_speed = section.term("max_speed");
  gear.shaft = section.term("shaft");
  gear.takes = Flange::from(section, "input_");
  gear.bore_min = section.term("input_bore_min");
  gear.bore_max = section.term("input_bore_max");
  gear.depth = section.term("input_depth");
  gear.backlash = section.term("backlash");
  gear.stiffness = section.term("stiffness");
  gear.chosen = !section.blank("part_number") || !section.blank("nominal_torque");
  gear.set_ratio(gear.ratio);
  return gear;
}

void Gearhead::set_ratio(double value) {
  ratio.value = value;
  fitted = chosen || value != 1.0;
}

} // namespace fulmox
