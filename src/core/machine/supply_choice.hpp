#pragma once
#include "core/library/part_library.hpp"
#include "core/machine/machine_run.hpp"

namespace fulmox {

/// A way to feed a bus, tried on the machine's own numbers.
struct SupplyTrial {
  std::string title; ///< "Regulated, 600 W" or a part of the library
  std::string part;  ///< its number; empty where it is worked out
  bool fits = false;
  double used = 0.0;                ///< worst share of what was judged; ∞ where the bus collapses
  std::string worst;                ///< label of the limit that decides
  std::optional<double> moment;     ///< s of the machine's cycle, where it binds
  std::vector<std::string> reasons; ///< for and against, with this machine's numbers; one a line
  std::optional<Section> bus;       ///< the bus's form with it in place
};

/// The kinds of supply side by side, each sized by calculation for this bus, then the supplies and
/// transformers of the library at about its voltage, the smallest that is enough first.
/// `known` is told of the kinds by calculation before the library is tried, which takes longer.
std::vector<SupplyTrial> supply_trials(
    const MachineRun& run, std::size_t bus, const Document& document, const Library& library,
    const std::function<bool()>& wanted = [] { return true; },
    const std::function<void(const std::vector<SupplyTrial>&)>& known = {});

/// A, all phases added: twice the phase current of every two-phase motor, × 0.707 with microstepping (common
/// practice).
double adding_school(std::span<const double> phase_currents, bool microstepping);

/// Rules of thumb and the schools of sizing beside the calculation, one a line.
std::vector<std::string> supply_schools(const MachineRun& run, std::size_t bus, const Document& document);

/// What speaks for a resistor, a capacitor, a shared bus on this machine's numbers, with the saving a year.
std::vector<std::string> brake_ways(const MachineRun& run, std::size_t bus, const Document& document);

/// What the installer must be told, in words; defers to local codes and licensed people.
std::vector<std::string> installer_words(const MachineRun& run, std::size_t bus);

} // namespace fulmox
