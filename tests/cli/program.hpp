#pragma once
#include "support/axes.hpp"

#include <catch2/catch.hpp>
#include <sys/wait.h>

#include <array>
#include <cstdio>
#include <string>

namespace fulmox::testing {

/// How a run of the real program ended, and what it printed.
struct Outcome {
  int code = -1;
  std::string out;
};

/// `after` may send the output elsewhere, `before` may limit the program.
inline Outcome run(const std::string& arguments, const std::string& after = "2>&1",
                   const std::string& before = {}) {
  FILE* pipe = popen((before + FULMOX_CLI + " " + arguments + " " + after).c_str(), "r");
  REQUIRE(pipe != nullptr);
  Outcome outcome;
  std::array<char, 65536> buffer{};
  while (const std::size_t read = fread(buffer.data(), 1, buffer.size(), pipe))
    outcome.out.append(buffer.data(), read);
  outcome.code = WEXITSTATUS(pclose(pipe));
  return outcome;
}

inline std::string demo_file() {
  return (source_folder() / "data" / "demo" / "transplanter.fulmox").string();
}

} // namespace fulmox::testing
