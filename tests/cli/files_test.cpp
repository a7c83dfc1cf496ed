// Files through the command line: what is wrong in them is named, CSV files become part of an axis.

#include "cli/program.hpp"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <fstream>
#include <sstream>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;
using Json = nlohmann::json;

TEST_CASE("validate names every fault of a file") {
  const TemporaryFolder folder;
  Document document = demo();
  document.axes[0]["load"].type("moved_mass", "-6 kg");
  document.axes[0]["mechanism"].type("lead", "0 mm");
  document.house_rules.type("attention", "eighty");
  REQUIRE_FALSE(save_document(document, folder.file("bad.fulmox")));
  const Outcome text = run("validate " + folder.file("bad.fulmox").string());
  CHECK(text.code == 1);
  CHECK_THAT(text.out, Contains("axes[0].load.moved_mass") && Contains("axes[0].mechanism.lead") &&
                           Contains("house_rules.attention"));
  const Json json = Json::parse(run("validate --json " + folder.file("bad.fulmox").string()).out);
  CHECK(json["valid"] == false);
  CHECK(json["problems"].size() == 3);
  const Outcome size = run("size " + folder.file("bad.fulmox").string());
  CHECK(size.code == 1);
  std::ofstream(folder.file("cut.fulmox")) << to_json(demo()).substr(0, 500);
  CHECK_THAT(run("size " + folder.file("cut.fulmox").string()).out, Contains("truncated"));
}

TEST_CASE("validate names what nothing reads, and what is kept for other kinds") {
  const TemporaryFolder folder;
  Document document = demo();
  CHECK(run("validate " + demo_file()).code == 0);
  CHECK_THAT(run("validate " + demo_file()).out, !Contains("axes["));
  document.axes[3]["load"].unknown["seal_drag"] = R"("3 N")"; // typed on a slide, which it was before
  REQUIRE_FALSE(save_document(document, folder.file("slide.fulmox")));
  const Outcome kept = run("validate " + folder.file("slide.fulmox").string());
  CHECK(kept.code == 0);
  CHECK_THAT(kept.out, Contains("axes[3].load: seal_drag"));
  document.axes[1].cycle[1].unknown["process_force"] = R"("40 N")";
  REQUIRE_FALSE(save_document(document, folder.file("odd.fulmox")));
  const Outcome odd = run("validate " + folder.file("odd.fulmox").string());
  CHECK(odd.code == 1);
  CHECK_THAT(odd.out,
             Contains("axes[1].cycle[1].process_force: no input is called that: it counts for nothing. "
                      "Is \"process\" meant?"));
  const Json json = Json::parse(run("validate --json " + folder.file("odd.fulmox").string()).out);
  CHECK(json["problems"][0]["where"] == "axes[1].cycle[1].process_force");
  CHECK_THAT(run("size --axis Tray " + folder.file("odd.fulmox").string()).out,
             Contains("The file says what nothing reads"));
  document.axes[0].name = "Tray";
  document.axes[0]["surroundings"].type("shared_bus", "48V");
  REQUIRE_FALSE(save_document(document, folder.file("odd.fulmox")));
  CHECK_THAT(
      run("size " + folder.file("odd.fulmox").string()).out,
      Contains("axes[0].surroundings.shared_bus: no bus is called \"48V\", so nothing judges its supply."));
  for (const std::string command : {"headroom", "ways-out", "match --top 1", "kinds", "corners"}) {
    const Outcome told = run(command + " " + folder.file("odd.fulmox").string());
    INFO(command << ": " << told.out);
    CHECK(told.code == 0);
    CHECK_THAT(told.out, Contains("no bus is called \"48V\", so nothing judges its supply."));
    CHECK_THAT(run(command + " " + demo_file()).out, !Contains("no bus"));
  }
  CHECK_THAT(run("validate " + folder.file("odd.fulmox").string()).out,
             Contains("axes[1].name: another axis is called \"Tray\" too."));
  const Outcome which = run("size --axis Tray " + folder.file("odd.fulmox").string());
  CHECK(which.code == 1);
  CHECK_THAT(which.out, Contains("several axes are called 'Tray'"));
}

TEST_CASE("import reads CSV files into an axis and saves the machine") {
  const TemporaryFolder folder;
  const auto path = [&](const char* name) { return folder.file(name).string(); };
  std::ofstream(folder.file("parts.csv"))
      << "part,mass [kg],y [mm],z [mm],Ixx [kg.m2]\nClamp,0.4,60,0,1e-4\n";
  std::ofstream(folder.file("torque.csv")) << "angle [deg];torque [N.m]\n0;0\n30;0,4\n90;0\n";
  const Outcome done =
      run("import " + demo_file() + " --axis Table --pieces " + path("parts.csv") +
          " --about x --segment 1 --process " + path("torque.csv") + " --out " + path("new.fulmox"));
  INFO(done.out);
  REQUIRE(done.code == 0);
  const auto machine = load_document(folder.file("new.fulmox"));
  REQUIRE(machine);
  const Axis& table = machine->axes[3];
  CHECK(table.pieces.size() == demo().axes[3].pieces.size() + 1);
  CHECK(table.pieces.back().text("name") == "Clamp");
  CHECK(table.pieces.back().term("offset") == Approx(0.06));
  CHECK(table.cycle[0].entry("process_curve").curve.size() == 3);
  CHECK(run("size " + path("new.fulmox")).code == 0);
  const Json told = Json::parse(run("import " + demo_file() + " --axis Table --about x --pieces " +
                                    path("parts.csv") + " --json --out " + path("again.fulmox"))
                                    .out);
  CHECK(told["saved"] == path("again.fulmox"));
  CHECK(told["axis"] == "Table");
}

TEST_CASE("import tells what of a list of pieces does not count") {
  const TemporaryFolder folder;
  const auto path = [&](const char* name) { return folder.file(name).string(); };
  std::ofstream(path("odd.csv")) << "mass [kg],Xc [mm],y [mm],Izz [kg.m2]\n1,10,0,0.01\n";
  const std::string import =
      "import " + demo_file() + " --axis Table --pieces " + path("odd.csv") + " --out " + path("out.fulmox");
  CHECK_THAT(run(import).out, Contains("There is no column 'x'") && Contains("Not read: 'xc'."));
  CHECK(Json::parse(run(import + " --json").out)["remarks"].size() == 2);
}

TEST_CASE("import without a file, with a bad one or for an unknown axis says so and saves nothing") {
  const TemporaryFolder folder;
  const std::string out = folder.file("new.fulmox").string();
  CHECK(run("import " + demo_file()).code == 2);
  std::ofstream(folder.file("bad.csv")) << "part,mass [kg],Izz [kg.m2]\nA,heavy,1\n";
  const std::string bad = folder.file("bad.csv").string();
  const Outcome refused = run("import " + demo_file() + " --axis Table --pieces " + bad + " --out " + out);
  CHECK(refused.code == 1);
  CHECK_THAT(refused.out, Contains("bad.csv, line 2, column 2"));
  CHECK(run("import " + demo_file() + " --axis Nobody --pieces " + bad + " --out " + out).code == 1);
  CHECK(run("import " + demo_file() + " --pieces /nowhere.csv --out " + out).code == 1);
  CHECK(run("import " + demo_file() + " --pieces " + bad + " --about w --out " + out).code == 2);
  CHECK_FALSE(std::filesystem::exists(out));
}
