#pragma once
#include "core/support/csv.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>
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

/// What a command prints as JSON holds what it prints as CSV.
inline void same_table(const std::string& arguments) {
  const auto rows = read_csv(run(arguments).out);
  REQUIRE(rows);
  const auto table = nlohmann::json::parse(run(arguments + " --json").out);
  REQUIRE(table["rows"].size() + 1 == rows->size());
  REQUIRE(rows->size() > 2);
  for (std::size_t i = 0; i < rows->size(); ++i)
    for (std::size_t k = 0; k < rows->front().size(); ++k) {
      const std::string& cell = (*rows)[i][k].text;
      if (i == 0) {
        const auto& column = table["columns"][k];
        const std::string name = column["name"], unit = column["unit"];
        CHECK((unit.empty() ? name : name + " [" + unit + "]") == cell);
      } else {
        CHECK(table["rows"][i - 1][k].get<double>() == std::stod(cell));
      }
    }
}

} // namespace fulmox::testing
