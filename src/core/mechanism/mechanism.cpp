#include "core/mechanism/mechanism.hpp"

#include "core/mechanism/mechanisms.hpp"

namespace fulmox {
namespace {
std::vector<const MechanismSpec*>& registry() {
  static std::vector<const MechanismSpec*> specs{
      &screw_mechanism(),    &power_screw_mechanism(), &belt_mechanism(), &rack_mechanism(),
      &conveyor_mechanism(), &table_mechanism(),       &arm_mechanism(),  &drum_mechanism(),
      &crank_mechanism(),    &general_mechanism()};
  return specs;
}
} // namespace

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

std::span<const MechanismSpec* const> mechanism_specs() { return registry(); }

const MechanismSpec* find_mechanism(std::string_view id) {
  for (const MechanismSpec* spec : mechanism_specs())
    if (spec->section.id == id) return spec;
  return nullptr;
}

void register_mechanism(const MechanismSpec& spec) {
  if (find_mechanism(spec.section.id) == nullptr) registry().push_back(&spec);
}

} // namespace fulmox
