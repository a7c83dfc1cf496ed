#pragma once
#include "core/support/expected.hpp"

#include <CLI/CLI.hpp>

#include <string>
#include <vector>

namespace fulmox::cli {

/// What was typed of a motor on the bench.
struct BenchReadings {
  std::string frequency, volts, read_as = "rms", shape = "sine", pole_pairs;
  std::vector<std::string> pairs, heating;
  std::string temperature = "20 degC";
  bool json = false;
};

/// Adds the commands "spin" and "winding".
struct BenchCommands {
  CLI::App *spin = nullptr, *winding = nullptr;
};
BenchCommands bench_readings_options(CLI::App& app, BenchReadings& readings);

/// The constant of a spun motor.
Expected<std::string> spin_report(const BenchReadings& readings);
/// Resistance at 20 °C and the kind of a winding.
Expected<std::string> winding_report(const BenchReadings& readings);

} // namespace fulmox::cli
