#include "core/mechanism/mechanism.hpp"

#include "core/mechanism/mechanisms.hpp"
#include "core/support/registry.hpp"

namespace fulmox {

std::vector<double> Mechanism::places(const TravelExtremes& reach, double) const {
  return {reach.lowest, reach.highest};
}

double Mechanism::lever(double position) const {
  Recorder silent(false);
  LoadState moving;
  moving.position = position;
  moving.speed = {1.0, ""};
  moving.direction = 1.0;
  return 1.0 / at(moving, silent).speed;
}

static Registry<MechanismSpec>& registry() {
  static Registry<MechanismSpec> mechanisms([](const MechanismSpec& spec) { return spec.section.id; },
                                            {&screw_mechanism(), &power_screw_mechanism(), &belt_mechanism(),
                                             &rack_mechanism(), &conveyor_mechanism(), &table_mechanism(),
                                             &arm_mechanism(), &drum_mechanism(), &crank_mechanism(),
                                             &general_mechanism()});
  return mechanisms;
}

std::span<const MechanismSpec* const> mechanism_specs() { return registry().all(); }
const MechanismSpec* find_mechanism(std::string_view id) { return registry().find(id); }
void register_mechanism(const MechanismSpec& spec) { registry().add(spec); }

} // namespace fulmox
