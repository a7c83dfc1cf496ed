// The machine as a whole from the command line.

#include "cli/program.hpp"
#include "core/machine/machine_run.hpp"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <filesystem>
#include <fstream>
#include <sstream>

#include <unistd.h>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;
using Json = nlohmann::json;

namespace {

/// A machine written for one test, removed after it.
class Written {
public:
  explicit Written(const Document& machine)
      : path_((std::filesystem::temp_directory_path() /
               ("fulmox-machine-" + std::to_string(getpid()) + "-" + std::to_string(count_++) + ".fulmox"))
                  .string()) {
    REQUIRE_FALSE(save_document(machine, path_));
  }
  ~Written() { std::filesystem::remove(path_); }
  Written(const Written&) = delete;
  Written& operator=(const Written&) = delete;
  [[nodiscard]] const std::string& path() const { return path_; }

private:
  static inline int count_ = 0;
  std::string path_;
};

} // namespace

TEST_CASE("machine tells schedule, power, buses and limits as the core has them") {
  const Json told = Json::parse(run("machine " + demo_file() + " --json").out);
  const Document d = demo();
  const MachineRun machine = run_machine(d, evaluate(d));
  CHECK(told["schedule"]["cycle"].get<double>() == Approx(machine.power.schedule.cycle));
  REQUIRE(told["schedule"]["blocks"].size() == machine.power.blocks.size());
  CHECK(told["schedule"]["blocks"][3]["start"].get<double>() ==
        Approx(machine.power.schedule.blocks[3].start));
  REQUIRE(told["buses"].size() == 3);
  for (std::size_t i = 0; i < 3; ++i) {
    const Json& bus = told["buses"][i];
    CHECK(bus["peak"]["power"].get<double>() == Approx(machine.power.buses[i].peak.watts));
    CHECK(bus["lowest"]["volts"].get<double>() == Approx(machine.buses[i].low->lowest));
    CHECK(bus["limits"].size() == machine.buses[i].limits.size());
    CHECK(bus["stop"]["ramps"].get<double>() == Approx(machine.buses[i].stop->slowing));
    CHECK(bus["stop"]["ramp"].get<double>() == Approx(0.1));
    CHECK(std::abs(bus["balance"].get<double>()) < 1e-6 * bus["supplied"].get<double>());
  }
  CHECK_THAT(run("machine " + demo_file()).out, Contains("Machine cycle") && Contains("Bus Mains") &&
                                                    Contains("Hold-up") && Contains("parts an hour"));
}

TEST_CASE("machine tries supplies and starts on request") {
  const Json told = Json::parse(run("machine " + demo_file() + " --supplies --stagger --json").out);
  const Json& bus = told["buses"][0];
  CHECK(bus["supplies"].size() > 6);
  CHECK(bus["supplies"][0]["fits"] == true);
  REQUIRE_FALSE(bus["stagger"].empty());
  CHECK(bus["stagger"][0]["peak"] <= bus["stagger"][0]["before"]);
  CHECK(bus["stagger"][0]["bound"] <= bus["stagger"][0]["peak"]);
  CHECK_FALSE(bus["installer"].empty());
}

TEST_CASE("machine tells how each limit of a bus came about on request") {
  const Outcome plain = run("machine " + demo_file()), worked = run("machine " + demo_file() + " --working");
  REQUIRE(worked.code == 0);
  CHECK_THAT(plain.out, !Contains("source: "));
  CHECK_THAT(worked.out,
             Contains("Where the chopper is off for sure") && Contains("52.00 V·0.9900 = 51.48 V"));
  const Json json = Json::parse(run("machine " + demo_file() + " --working --json").out);
  std::size_t told = 0;
  for (const Json& bus : json["buses"])
    for (const Json& limit : bus["limits"]) told += limit.contains("working") ? 1 : 0;
  CHECK(told > 20);
}

TEST_CASE("bus writes power and voltage as CSV") {
  const Outcome csv = run("bus " + demo_file() + " --bus '48 V' --step 0.01");
  REQUIRE(csv.code == 0);
  std::istringstream lines(csv.out);
  std::string line;
  std::getline(lines, line);
  CHECK(line == "time [s],power [W],low [V],nominal [V],high [V]");
  int count = 0;
  double least = 1e9;
  while (std::getline(lines, line)) {
    double time = 0.0, watts = 0.0, low = 0.0;
    REQUIRE(std::sscanf(line.c_str(), "%lf,%lf,%lf", &time, &watts, &low) == 3);
    least = std::min(least, low);
    ++count;
  }
  CHECK(count == 970); // 9.69 s
  CHECK(least > 47.0);
  CHECK(least < 48.0);
  CHECK_THAT(run("bus " + demo_file() + " --bus nowhere").out,
             Contains("there is no bus") && Contains("48 V, Mains"));
  same_table("bus " + demo_file() + " --bus '48 V' --step 0.01");
  CHECK(run("bus " + demo_file()).code == 1); // which of three?
  CHECK(run("bus " + demo_file() + " --bus '48 V' --step 1e-6").code == 1);
  CHECK(run("bus " + demo_file() + " --step -1").code == 2);
  CHECK(run("bus " + demo_file() + " --bus '48 V' --step nan").code == 2);
}

TEST_CASE("a machine that cannot be worked out says where and what to do, without a crash") {
  Document d = demo();
  d.lists.find("blocks")->second[2].type("after", "Pots away");
  const Written circle(d);
  const Outcome told = run("machine " + circle.path());
  CHECK(told.code == 1);
  CHECK_THAT(told.out, Contains("circle") && Contains("split a cycle"));
  Document empty;
  const Written none(empty);
  CHECK(run("machine " + none.path()).code == 1);
  Document faulty = demo();
  faulty.pace.type("cycle", "-3 s");
  const Written wrong(faulty);
  CHECK_THAT(run("machine " + wrong.path()).out, Contains("pace.cycle"));
}
