#pragma once
#include <string>
#include <vector>

namespace CLI {
class App;
}

namespace fulmox::cli {

/// What the kinds command is told.
struct KindsOptions {
  std::string file, axis;
  std::vector<std::string> libraries, weights;
  bool brakes = false, couplings = false, json = false;
};

/// Declares the command and its options.
CLI::App* kinds_options(CLI::App& app, KindsOptions& options);
/// The kinds of motor side by side on an axis; what the shell gets back.
int kinds_command(const KindsOptions& options);

} // namespace fulmox::cli
