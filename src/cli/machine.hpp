#pragma once
#include <string>

namespace CLI {
class App;
}

namespace fulmox::cli {

/// What the machine command is told.
struct MachineOptions {
  std::string file;
  bool json = false;
  bool supplies = false;         ///< also the kinds of supply and those of the library
  bool stagger = false;          ///< also the starts with the least peak
  bool count_on_returns = false; ///< in that search
  bool working = false;          ///< every limit with how it came about
};
CLI::App* machine_options(CLI::App& app, MachineOptions& options);
/// The machine as a whole: schedule, power, buses, limits; what the shell gets back.
int machine_command(const MachineOptions& options);

/// What the bus command is told.
struct BusOptions {
  std::string file, bus;
  double step = 1e-3; ///< s
  bool json = false;
};
CLI::App* bus_options(CLI::App& app, BusOptions& options);
/// Power and voltage of a bus over the machine's cycle, as CSV or JSON; what the shell gets back.
int bus_command(const BusOptions& options);

} // namespace fulmox::cli
