#pragma once
#include <string>

namespace CLI {
class App;
}

namespace fulmox::cli {

/// What the import command is told.
struct ImportOptions {
  std::string file, axis, out;
  std::string pieces, profile, process; ///< CSV files
  std::string about = "z";
  int segment = 1;
  bool json = false;
};

/// Declares the command and its options.
CLI::App* import_options(CLI::App& app, ImportOptions& options);
/// Reads CSV files into an axis and saves the machine; what the shell gets back.
int import_command(const ImportOptions& options);

} // namespace fulmox::cli
