#include "core/rules/house_rules.hpp"

#include "core/support/intern.hpp"

#include <algorithm>

namespace fulmox {
namespace {

std::vector<HouseRule>& registry() {
  static std::vector<HouseRule> rules{
      {needed("attention", "Attention from", "", Kind::share, {0.0, 1.0, true}, "80 %",
              "Used share from which a limit is called tight."),
       "every limit"},
      {needed("inertia_max", "Largest inertia ratio", "", Kind::number, range::positive, "5",
              "Load inertia at the motor over rotor inertia."),
       "the inertia ratio"},
      {needed("inertia_max_stepper", "Largest inertia ratio, stepper", "", Kind::number, range::positive,
              "10", "Load inertia at the motor over rotor inertia of an open-loop stepper."),
       "the inertia ratio of steppers"},
      {needed("pullout_factor", "Factor below pull-out", "S", Kind::number, {1.0, 20.0}, "1.5",
              "Pull-out torque over torque asked; sharp ramps swing the rotor and want 2."),
       "the torque of steppers"},
      {needed("control_factor", "Factor for control, closed loop", "", Kind::number, {1.0, 20.0}, "1.2",
              "Greatest torque of a stepper under control of its load angle over torque asked."),
       "the torque of closed-loop steppers"},
      {needed("resonance_time", "Longest time in resonance", "", Kind::time, range::positive, "0.1 s",
              "Within a quarter of the rotor's resonance, at a stretch (from memory)."),
       "the time a stepper spends in its resonance"},
      {needed("inertia_min", "Smallest inertia ratio", "", Kind::number, range::not_negative, "0.1",
              "Below it the motor mostly moves itself."),
       "the second look at a motor that is far too big"},
      {needed("brake_factor", "Brake factor", "", Kind::number, {1.0, 20.0}, "2",
              "Brake holding torque over gravity torque."),
       "the brake's holding torque"},
      {needed("ripple_max", "Largest ripple of a bus", "", Kind::share, {0.0, 1.0, true}, "10 %",
              "Peak to peak, of the voltage: what the capacitors behind a rectifier are sized by."),
       "the ripple of a rectified bus"},
      {needed("drop_max", "Largest drop in the bus cable", "", Kind::share, {0.0, 1.0, true}, "3 %",
              "At the greatest current, of the voltage."),
       "the cable of a bus"},
      {needed("stability_share", "Share of the stable power", "", Kind::share, {0.0, 1.0, true}, "50 %",
              "A drive draws constant power: the lower the bus, the more current. Beyond some power a bus "
              "with little capacitance behind a long lead swings by itself."),
       "the stability of a bus"},
      {needed("coupling_service", "Coupling service factor", "", Kind::number, {1.0, 20.0}, "1.5",
              "On the greatest instantaneous torque."),
       "the coupling's torque"},
      {needed("gear_exponent", "Gear fatigue exponent", "k", Kind::number, {1.0, 20.0}, "3",
              "3 usual; 10/3 where roller bearings govern."),
       "the gearhead's mean torque"},
      {needed("bandwidth_share", "Antiresonance over bandwidth", "", Kind::number, {1.0, 20.0}, "3",
              "Above it the load rings under a stiff motor loop; it is no rule of stability."),
       "the bandwidth wanted"},
      {one_of("error_sum", "Errors added up", {{"worst", "all the same way"}, {"root", "root of squares"}},
              "The worst case is safe; the root of squares holds for many independent errors."),
       "the accuracy"},
      {one_of("thermal_speed", "Continuous torque read at", {{"mean", "mean speed"}, {"rms", "rms speed"}},
              ""),
       "the motor's rms torque"}};
  return rules;
}

SectionSpec form() {
  std::vector<FieldSpec> fields{written("name", "Name", "general", ""),
                                written("reason", "Reason", "", "Why these thresholds.")};
  for (const HouseRule& rule : registry()) {
    fields.push_back(rule.field);
    const std::string why(rule.field.help);
    fields.back().help =
        intern(why + (why.empty() ? "" : " ") + "Decides on " + std::string(rule.decides) + ".");
  }
  return {"house_rules", "House rules", std::move(fields), true};
}

} // namespace

std::span<const HouseRule> all_house_rules() { return registry(); }

void register_house_rule(HouseRule rule) {
  const auto same = [&](const HouseRule& known) { return known.field.id == rule.field.id; };
  if (std::none_of(registry().begin(), registry().end(), same)) registry().push_back(std::move(rule));
}

const SectionSpec& house_rules_section() {
  static const SectionSpec spec = form();
  return spec;
}

} // namespace fulmox
