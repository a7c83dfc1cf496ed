#pragma once
#include <string>
#include <vector>

namespace CLI {
class App;
}

namespace fulmox::cli {

/// What the match command is told.
struct MatchOptions {
  std::string file, axis, shard, why;
  std::vector<std::string> libraries, weights, filters;
  int top = 20, misses = 20, threads = 0;
  bool brakes = false, couplings = false, json = false;
};

/// Declares the command and its options.
CLI::App* match_options(CLI::App& app, MatchOptions& options);
/// Tries every combination of the libraries on an axis; what the shell gets back.
int match_command(const MatchOptions& options);

} // namespace fulmox::cli
