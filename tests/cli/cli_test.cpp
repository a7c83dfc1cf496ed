// Runs the real program, reads what it prints and how it ends.

#include "cli/program.hpp"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <fstream>
#include <sstream>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;
using Json = nlohmann::json;

TEST_CASE("size tells what the window tells") {
  const Outcome json = run("size " + demo_file() + " --json");
  REQUIRE(json.code == 0);
  const Json told = Json::parse(json.out);
  const Evaluation e = evaluated(demo().axes[0]);
  const Json& axis = told["axes"][0];
  CHECK(axis["name"] == "Picker");
  REQUIRE(axis["results"].size() == e.results.size());
  for (std::size_t i = 0; i < e.results.size(); ++i) {
    CHECK(axis["results"][i]["id"] == e.results[i].id);
    CHECK(axis["results"][i]["value"].get<double>() == Approx(e.results[i].value).epsilon(1e-12));
    CHECK_FALSE(axis["results"][i]["unit"].get<std::string>().empty());
  }
  CHECK(axis["limits"].size() == e.limits.size());
  CHECK(axis["energy_by_part"]["friction"].get<double>() ==
        Approx(e.demand.integrals.energy[TorquePart::friction]));
  const Json cart = Json::parse(run("size " + demo_file() + " --axis Cart --json").out);
  REQUIRE(cart["axes"].size() == 1);
  CHECK(cart["axes"][0] == Json::parse(json.out)["axes"][4]);
  CHECK(run("size " + demo_file() + " --axis Nobody").code == 1);
  const Outcome text = run("size " + demo_file());
  CHECK(text.code == 0);
  CHECK_THAT(text.out, Contains("Peak torque") && Contains("326 mN·m") && Contains("drive.voltage"));
}

TEST_CASE("explain, validate, book, schema") {
  CHECK_THAT(run("explain " + demo_file() + " demand.peak_torque").out,
             Contains("F·p/(2π·η)") && Contains("load.moved_mass"));
  const Json chain = Json::parse(run("explain " + demo_file() + " demand.rms_torque --json").out);
  CHECK(chain["axes"][0]["steps"][0]["id"] == "demand.rms_torque");
  CHECK(run("explain " + demo_file() + " nonsense").code == 1);
  CHECK(run("validate " + demo_file()).code == 0);
  const Outcome book = run("book --json");
  CHECK(book.code == 0);
  CHECK(Json::parse(book.out).size() > 50);
  CHECK_THAT(run("book").out, Contains("inertia.screw"));
  CHECK(Json::parse(run("schema").out)["properties"]["format"]["const"] == "fulmox-machine");
}

TEST_CASE("report prints the worksheet with givens, limits and working") {
  const Outcome report = run("report " + demo_file());
  CHECK(report.code == 0);
  CHECK_THAT(report.out, Contains("# Seedling transplanter") &&
                             Contains("| Load, Moved mass | 6 kg | measured") && Contains("T = F·p/(2π·η)") &&
                             Contains("virtual work"));
  CHECK(run("report /no/such/file").code == 1);
  CHECK(Json::parse(run("report " + demo_file() + " --json").out)["worksheet"] == report.out);
}

TEST_CASE("eval works one formula alone, with units") {
  const Outcome outcome = run("eval inertia.screw rho=7850 'L=420 mm' 'd=0.016'");
  REQUIRE(outcome.code == 0);
  const Json told = Json::parse(outcome.out);
  CHECK(told["value"].get<double>() == Approx(2.1213e-5).epsilon(1e-4));
  CHECK(told["unit"] == "kg·m²");
  // a sum takes its parameter as often as wanted
  CHECK(Json::parse(run("eval torque.sum T=1 T=2 'T=500 mN.m'").out)["value"].get<double>() == Approx(3.5));
  CHECK(Json::parse(run("eval stage.driving T=10 i=5 eta=0.8").out)["value"].get<double>() == Approx(2.5));
}

TEST_CASE("bad input ends with 1 and says why and wrong usage ends with 2") {
  const Outcome unit = run("eval inertia.screw rho=7850 'L=5 kg' d=0.016");
  CHECK(unit.code == 1);
  CHECK_THAT(unit.out, Contains("L") && Contains("a length"));
  CHECK(run("eval inertia.screw rho=7850 L=1").code == 1);
  CHECK(run("eval inertia.screw rho=7850 L=1 d=-1").code == 1);
  CHECK(run("eval inertia.screw rho=7850 L=1 d=1 x=1").code == 1);
  CHECK(run("eval inertia.screw rho=7850 L=1 d=1 d=1").code == 1);
  CHECK(run("eval no.such.formula").code == 1);
  CHECK(run("size /no/such/file.fulmox").code == 1);
  CHECK(run("").code == 2);
  CHECK(run("size").code == 2);
  CHECK(run("frobnicate").code == 2);
  CHECK(run("size " + demo_file() + " --frobnicate").code == 2);
  // every command takes --json
  std::istringstream help(run("--help").out);
  std::string line, command;
  while (std::getline(help, line) && line.find("Subcommands") == std::string::npos) {
  }
  int commands = 0;
  while (std::getline(help, line) && std::istringstream(line) >> command) {
    INFO(command);
    CHECK_THAT(run(command + " --help").out, Contains("--json"));
    ++commands;
  }
  CHECK(commands > 25);
  CHECK(run("--help").code == 0);
}

TEST_CASE("values in the file mean what they mean in the window, whatever their unit") {
  const TemporaryFolder folder;
  Document document = demo();
  document.axes[0]["load"].type("moved_mass", "6 kg");
  REQUIRE_FALSE(save_document(document, folder.file("a.fulmox")));
  document.axes[0]["load"].type("moved_mass", "6000 g");
  document.axes[0]["mechanism"].type("lead", "0.01 m/rev");
  document.axes[0]["surroundings"].type("ambient", "113 degF");
  REQUIRE_FALSE(save_document(document, folder.file("b.fulmox")));
  const Json a =
      Json::parse(run("size --json " + folder.file("a.fulmox").string()).out)["axes"][0]["results"];
  const Json b =
      Json::parse(run("size --json " + folder.file("b.fulmox").string()).out)["axes"][0]["results"];
  REQUIRE(a.size() == b.size());
  for (std::size_t i = 0; i < a.size(); ++i)
    CHECK(a[i]["value"].get<double>() == Approx(b[i]["value"].get<double>()).epsilon(1e-9));
}

TEST_CASE("several axes are all told, and one that fails names itself") {
  const TemporaryFolder folder;
  Document document = demo();
  document.axes.push_back(plain_axis());
  REQUIRE_FALSE(save_document(document, folder.file("two.fulmox")));
  const std::string file = folder.file("two.fulmox").string();
  CHECK(Json::parse(run("size --json " + file).out)["axes"].size() == document.axes.size());
  CHECK_THAT(run("explain " + file + " demand.peak_torque").out, Contains("Picker") && Contains("Plain"));
  document.axes[1]["load"].type("moved_mass", "");
  REQUIRE_FALSE(save_document(document, folder.file("two.fulmox")));
  const Outcome outcome = run("size " + file);
  CHECK(outcome.code == 1);
  CHECK_THAT(outcome.out, Contains("axes[1].load.moved_mass") && Contains("missing"));
}

TEST_CASE("an empty machine is told to be empty") {
  const TemporaryFolder folder;
  REQUIRE_FALSE(save_document(Document(), folder.file("empty.fulmox")));
  const Outcome outcome = run("size " + folder.file("empty.fulmox").string());
  CHECK(outcome.code == 1);
  CHECK_THAT(outcome.out, Contains("no axis"));
}

TEST_CASE("every formula of the book can be asked for by the command line") {
  const Json book = Json::parse(run("book --json").out);
  for (const Json& formula : book) {
    // without values each names the first one it misses, never crashes
    const Outcome outcome = run("eval " + formula["id"].get<std::string>());
    INFO(formula["id"]);
    CHECK(outcome.code == 1);
    CHECK_THAT(outcome.out,
               Contains(formula["parameters"][0]["name"].get<std::string>()) && Contains("missing"));
  }
}

TEST_CASE("studies of one axis: laws, ratio, sensitivity, trace") {
  const Json laws = Json::parse(run("laws " + demo_file() + " --axis Gantry --segment 1 --json").out);
  CHECK(laws[0]["present"] == true);
  CHECK(laws.size() > 9);
  CHECK_THAT(run("laws " + demo_file() + " --axis Gantry").out, Contains("Modified sine") && Contains("∞"));
  const Outcome dwell = run("laws " + demo_file() + " --axis Gantry --segment 2");
  CHECK(dwell.code == 1);
  const Json ratio = Json::parse(run("ratio " + demo_file() + " --axis Gantry --json").out);
  CHECK(ratio["present"] == 5.0);
  CHECK(ratio["points"].size() == 41);
  CHECK(ratio["least_rms"].get<double>() > 5.0);
  const Json all = Json::parse(run("sensitivity " + demo_file() + " --json").out);
  CHECK(all[0]["swing"].get<double>() >= all[1]["swing"].get<double>());
  CHECK_THAT(run("sensitivity " + demo_file()).out, Contains("load.moved_mass"));
  CHECK_THAT(run("trace " + demo_file() + " --step 0.05").out, Contains("time [s]") && Contains("\n1.55,"));
  const Outcome nobody = run("ratio " + demo_file() + " --axis Nobody");
  CHECK(nobody.code == 1);
  CHECK_THAT(nobody.out, Contains("Picker, Tray, Gantry, Table, Cart"));
  CHECK(run("trace " + demo_file() + " --step 0").code == 2);
  same_table("trace " + demo_file() + " --step 0.001"); // in several portions
}

TEST_CASE("a motor constant in every reading") {
  const Json all = Json::parse(run("constants kt_rms=0.1654 --pole-pairs 4 --json").out);
  const auto of = [&](const std::string& id) {
    for (const Json& one : all)
      if (one["id"] == id) return one;
    return Json();
  };
  CHECK(of("ke_line_rms")["value"].get<double>() == Approx(0.1654 / std::sqrt(3.0)));
  CHECK(of("kt_peak")["mistaken"].get<double>() == Approx(std::sqrt(2.0)));
  CHECK(of("psi_amplitude")["value"].get<double>() == Approx(0.1654 * std::sqrt(2.0) / 3.0 / 4.0));
  CHECK_THAT(run("constants 'kv_dc=190 rpm/V'").out, Contains("Kt per rms ampere"));
  const Json spun = Json::parse(run("spin --frequency '200 Hz' --volts '12 V' --pole-pairs 4 --json").out);
  // √2·12 V at 2π·200/4 rad/s
  CHECK(spun["ke_line_peak"].get<double>() == Approx(std::sqrt(2.0) * 12.0 / (100.0 * 3.14159265)));
  CHECK(spun["kt_rms"].get<double>() == Approx(std::sqrt(3.0) * 12.0 / (100.0 * 3.14159265)));
  CHECK_THAT(run("spin --frequency 200 --volts 24 --as peak-to-peak --shape flat --pole-pairs 4").out,
             Contains("per DC ampere"));
  const Json wound = Json::parse(
      run("winding --pairs 0.82 0.82 0.82 --temperature '45 degC' --heating 4 1.1 0.9 --json").out);
  CHECK(wound["kind"] == "delta");
  CHECK(wound["resistance_20"].get<double>() == Approx(0.82 / (1.0 + 25.0 * 0.00393)));
  CHECK_THAT(run("winding --pairs 2 1 1").out, Contains("open"));
  for (const char* wrong :
       {"spin --frequency 0 --volts 12 --pole-pairs 4", "spin --frequency 200 --volts 12 --pole-pairs 2.5",
        "spin --frequency 200 --volts '3 kg' --pole-pairs 2", "winding --pairs 0.8 0.8 0",
        "winding --pairs 0.8 0.8 0.8 --temperature '300 degC'", "winding --pairs 0.8 0.8 x",
        "winding --pairs 0.8 0.8 0.8 --heating 0 0 0", "winding --pairs 0.8 0.8 0.8 --heating 4 -1 1"}) {
    INFO(wrong);
    CHECK(run(wrong).code == 1);
  }
  for (const char* wrong : {"constants kt=1", "constants kt_rms", "constants kt_rms=x", "constants kt_rms=0",
                            "constants psi_rms=0.01", "constants kt_rms=1 --pole-pairs 2.5"}) {
    const Outcome refused = run(wrong);
    INFO(wrong);
    CHECK(refused.code != 0);
    CHECK_FALSE(refused.out.empty());
  }
}

TEST_CASE("parts tried in an axis: those that fit first, of the others the limits they break") {
  const Json all = Json::parse(run("parts " + demo_file() + " --axis Picker --slot motor --json").out);
  REQUIRE(all.size() > 10);
  bool fitting = true;
  for (std::size_t i = 0; i < all.size(); ++i) {
    CHECK((fitting || !all[i]["fits"].get<bool>()));
    fitting = all[i]["fits"].get<bool>();
    CHECK(all[i]["broken"].empty() == fitting);
    if (!fitting && !all[i]["broken"].empty()) CHECK(all[i]["broken"][0]["limit"] == all[i]["worst"]);
  }
  CHECK(all[0]["fits"] == true);
  CHECK(all[all.size() - 1]["fits"] == false);
  CHECK_THAT(run("parts " + demo_file() + " --slot drive").out, Contains("decided by") && Contains("✕"));
  const Outcome unknown = run("parts " + demo_file() + " --slot wheel");
  CHECK(unknown.code == 1);
  CHECK_THAT(unknown.out, Contains("gearhead, motor, coupling, brake, drive"));
}

TEST_CASE("laws within limits: what goes beyond is marked, the gentlest S-curve keeps them") {
  const Outcome json =
      run("laws " + demo_file() + " --axis Gantry --max-speed '1.2 m/s' --max-acceleration 8 --json");
  REQUIRE(json.code == 0);
  bool beyond = false, gentle = false;
  for (const Json& law : Json::parse(json.out)) {
    const bool keeps = law["load_speed"].get<double>() <= 1.2 * (1.0 + 1e-4) &&
                       law["load_acceleration"].get<double>() <= 8.0 * (1.0 + 1e-4);
    CHECK(law["within_limits"].get<bool>() == keeps);
    beyond = beyond || !keeps;
    gentle = gentle || law["label"] == "S-curve, least jerk";
  }
  CHECK(beyond);
  const Outcome free = run("laws " + demo_file() + " --axis Gantry");
  CHECK_THAT(free.out, Contains("S-curve, least jerk") && !Contains("beyond the limits"));
  CHECK_THAT(run("laws " + demo_file() + " --max-speed '1 kg'").out, Contains("--max-speed"));
}

TEST_CASE("capability and bench tell what the window's view shows") {
  const Json curve = Json::parse(run("capability " + demo_file() + " --axis Picker --json").out);
  CHECK(curve["effort_unit"] == "N");
  CHECK(curve["points"].size() > 20);
  CHECK(curve["points"][0]["peak"].get<double>() > curve["points"][0]["lasting"].get<double>());
  const Json one =
      Json::parse(run("capability " + demo_file() + " --axis Picker --speed '20 mm/s' --json").out);
  REQUIRE(one["points"].size() == 1);
  CHECK(one["points"][0]["speed"].get<double>() == Approx(0.02));
  CHECK_THAT(run("capability " + demo_file() + " --axis Table").out, Contains("N·m"));
  const Json bench =
      Json::parse(run("bench " + demo_file() + " --axis Spreader --torque '20 mN.m' --json").out);
  CHECK(bench["torque"].get<double>() == Approx(0.02));
  CHECK(bench["points"][0]["speed"].get<double>() == 0.0);
  CHECK_THAT(run("bench " + demo_file() + " --axis Spreader").out, Contains("efficiency"));
  for (const char* wrong : {"capability --speed 5kg", "capability --speed '-2 mm/s'", "bench --torque 3mm",
                            "bench --torque '900 N.m'", "bench --axis Nowhere"}) {
    const std::string command(wrong), first = command.substr(0, command.find(' '));
    const Outcome told = run(first + " " + demo_file() + command.substr(first.size()));
    INFO(wrong << ": " << told.out);
    CHECK(told.code == 1);
    CHECK(told.out.rfind("fulmox-cli: ", 0) == 0);
  }
}

TEST_CASE("corners, heat and what is forgotten are told headless, for one axis, as text and JSON") {
  const Outcome corners = run("corners " + demo_file() + " --axis Picker --json");
  REQUIRE(corners.code == 0);
  const auto found = Json::parse(corners.out);
  CHECK(found["spreads"].size() == 2);
  CHECK(found["tried"] == 25);
  CHECK(found["limits"].size() > 10);
  for (const auto& one : found["limits"]) CHECK(one["worst"].get<double>() >= one["used"].get<double>());
  CHECK_THAT(run("corners " + demo_file() + " --axis Brush").out,
             Contains("as typed") || Contains("No input carries"));
  const Outcome heat = run("heat " + demo_file() + " --json");
  REQUIRE(heat.code == 0);
  const auto picture = Json::parse(heat.out);
  CHECK(picture["hottest"].get<double>() == Approx(64.3 + 273.15).margin(0.1));
  CHECK(picture["from_cold"].size() > 50);
  CHECK(picture["duty_10_min"].size() == 4);
  CHECK_THAT(run("heat " + demo_file()).out, Contains("Steady cycle: winding 64.3"));
  const auto open = Json::parse(run("forgotten " + demo_file() + " --json").out);
  CHECK(open.size() == 13);
  CHECK(open[0].contains("input"));
  CHECK_THAT(run("forgotten " + demo_file()).out, Contains("(requirements.room)"));
  CHECK(run("heat " + demo_file() + " --axis Nobody").code == 1);
}
