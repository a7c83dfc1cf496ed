// The search, the ways out and the room of an axis from the command line.

#include "cli/program.hpp"
#include "core/match/ranking.hpp"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <filesystem>
#include <fstream>
#include <sstream>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;
using Json = nlohmann::json;

TEST_CASE("match lists what the search finds, by the weights and within the filter") {
  const Json told = Json::parse(run("match " + demo_file() + " --axis Picker --top 5 --misses 3 --json").out);
  const MatchSpace space = match_space(demo().axes[0], library());
  MatchRun two;
  two.threads = 2;
  two.misses = 3;
  const MatchResult found = search(demo().axes[0], house_rules(), space, two);
  CHECK(told["tried"] == found.tried);
  CHECK(told["fit"] == found.fits.size());
  const auto order = ranked(space, found.fits.each_by_itself(), usual_weights(), {});
  REQUIRE(told["top"].size() == std::min<std::size_t>(5, order.size()));
  for (std::size_t i = 0; i < told["top"].size(); ++i) {
    const Trial trial = found.fits[order[i]];
    CHECK(told["top"][i]["parts"]["motor"]["part_number"] == space.motors[trial.parts.motor].number);
    CHECK(told["top"][i]["parts"]["drive"]["part_number"] == space.drives[trial.parts.drive].number);
    CHECK(told["top"][i]["used"].get<double>() == Approx(trial.used).epsilon(1e-12));
    CHECK(told["top"][i]["worst"] == trial.worst);
  }
  REQUIRE(told["near_misses"].size() == 3);
  CHECK(told["near_misses"][0]["used"].get<double>() > 1.0);
  CHECK_FALSE(told["near_misses"][0]["broken"].empty());
  const Json cheap =
      Json::parse(run("match " + demo_file() +
                      " --axis Picker --weight price=1 --only price=400 --misses 0 --json --threads 1")
                      .out);
  double before = 0.0;
  for (const Json& one : cheap["top"]) {
    CHECK(one["price"].get<double>() <= 400.0);
    if (one.contains("not_judged")) break; // those whose sheets lack something stand behind all others
    CHECK(one["price"].get<double>() >= before);
    before = one["price"];
  }
  CHECK(cheap["listed"].get<std::size_t>() < cheap["fit"].get<std::size_t>());
  CHECK_THAT(run("match " + demo_file() + " --axis Picker --misses 2").out,
             Contains("combinations") && Contains("Nearest misses") && Contains("Ruled out by"));
  // each combination fits or is counted under what rules it out
  std::istringstream lines(run("match " + demo_file() + " --axis Gantry --misses 0").out);
  double tried = 0.0, fit = 0.0, out = 0.0;
  bool ruled_out = false;
  for (std::string line, word; std::getline(lines, line);) {
    if (tried == 0.0) std::istringstream(line) >> tried >> word >> fit;
    if (ruled_out) out += std::stod(line.substr(line.rfind(' ')));
    ruled_out = ruled_out || line == "Ruled out by";
  }
  CHECK(tried > 0.0);
  CHECK(fit + out == tried);
}

TEST_CASE("match takes several libraries, and names what it cannot use") {
  TemporaryFolder folder;
  const auto shipped = source_folder() / "data" / "library";
  std::filesystem::create_directories(folder.file("one"));
  for (const auto& file : std::filesystem::directory_iterator(shipped))
    std::filesystem::copy(file.path(), folder.file("one") / file.path().filename());
  const std::string one = folder.file("one").string();
  const auto answer = [&](const std::string& more) {
    return run("match " + demo_file() + " --axis Picker --top 3 --misses 1 " + more);
  };
  CHECK(answer("--library " + one).out == answer("").out);
  CHECK(answer("--weight beauty=1").code == 1);
  CHECK_THAT(answer("--weight beauty=1").out, Contains("--weight") && Contains("price"));
  CHECK_THAT(answer("--weight price=-1").out, Contains("from 0 up"));
  CHECK_THAT(answer("--only colour=red").out, Contains("motor.kind"));
  CHECK_THAT(answer("--only price=much").out, Contains("no price"));
  // a value that no part has is most likely written otherwise
  const Outcome foreign = answer("--only motor.kind=Motor");
  CHECK(foreign.code == 1);
  CHECK_THAT(foreign.out,
             Contains("no part has motor.kind 'Motor'") && Contains("Servo motor, sine currents"));
  CHECK(answer("--only motor.kind='Servo motor, sine currents'").code == 0);
  const Outcome nowhere = answer("--library /no/such/folder");
  CHECK(nowhere.code == 1);
  CHECK(nowhere.out.find("it is not there") == nowhere.out.rfind("it is not there")); // told once
  std::ofstream(folder.file("one") / "motors.csv", std::ios::app) << "X1,Nobody,60,not a number\n";
  CHECK_THAT(answer("--library " + one).out, Contains("fulmox-cli: motors.csv, line"));
  // each of several has its motors.csv
  CHECK_THAT(answer("--library " + shipped.string() + " --library " + one).out,
             Contains(one + ", motors.csv, line"));
}

TEST_CASE("match tells why a part is not in the list") {
  const std::string match = "match " + demo_file() + " --axis Gantry ";
  const Outcome near = run(match + "--why TP60-5");
  CHECK(near.code == 0);
  CHECK_THAT(near.out, Contains("TP60-5: fits nowhere") && Contains("VK60-0400-325H · TP60-5") &&
                           Contains("105 %  Inertia ratio"));
  const Json json = Json::parse(run(match + "--why TP60-5 --json").out);
  REQUIRE(json.size() == 1);
  CHECK(json[0]["slot"] == "gearhead");
  CHECK(json[0]["fits"] == 0);
  CHECK(json[0]["nearest_miss"]["parts"]["motor"]["part_number"] == "VK60-0400-325H");
  CHECK(json[0]["nearest_miss"]["broken"][0]["limit"] == "Inertia ratio");
  const Json whole = Json::parse(run(match + "--json --top 1 --misses 1").out);
  const std::string best = whole["top"][0]["parts"]["motor"]["part_number"];
  CHECK_THAT(run(match + "--why " + best).out, Contains("fits in " + whole["fit"].dump() + " combinations"));
  CHECK(run(match + "--why no-such").code == 1);
  CHECK_THAT(run(match + "--why no-such").out, Contains("no part that is tried has the number 'no-such'"));
}

TEST_CASE("what a way out types does what it says, however many inputs a change stands for") {
  Document document = demo();
  document.axes[0].cycle[0].type("time", "0.2 s");
  document.axes[0].cycle[2].type("time", "0.2 s");
  const TemporaryFolder folder;
  REQUIRE_FALSE(save_document(document, folder.file("fast.fulmox")));
  const Json all =
      Json::parse(run("ways-out --axis Picker --json " + folder.file("fast.fulmox").string()).out);
  std::size_t tried = 0, of_several = 0;
  for (const Json& out : all)
    for (const Json& way : out["ways"]) {
      Axis axis = document.axes[0];
      bool all_known = true;
      for (const auto& [path, text] : way["typed"].items()) {
        Section* section = find_section(axis, path.substr(0, path.rfind('.')));
        const std::string field = path.substr(path.rfind('.') + 1);
        REQUIRE(section != nullptr);
        all_known = all_known && section->has(field);
        if (section->has(field)) section->type(field, text.get<std::string>());
      }
      if (!all_known || way["typed"].empty()) continue; // another kind of part
      INFO(way.dump(2));
      const Evaluation e = evaluated(axis);
      const std::string id = out["limit"];
      const auto limit =
          std::find_if(e.limits.begin(), e.limits.end(), [&](const Limit& l) { return l.id == id; });
      REQUIRE(limit != e.limits.end());
      CHECK(limit->used == Approx(way["used"].get<double>()).epsilon(1e-9));
      ++tried;
      of_several += way["typed"].size() > way["changes"].size() && way["typed"].size() < 4 ? 1U : 0U;
    }
  CHECK(tried > 5);
  CHECK(of_several > 0);
}

TEST_CASE("ways-out and headroom tell changes, what gets worse, and the first limit that is reached") {
  const Json ways = Json::parse(run("ways-out " + demo_file() + " --axis Gantry --json").out);
  REQUIRE(ways.size() == 1);
  CHECK(ways[0]["limit"] == "inertia.ratio");
  bool mass = false, part = false;
  for (const Json& way : ways[0]["ways"]) {
    CHECK(way["used"].get<double>() <= 1.0);
    mass = mass || way["changes"][0]["input"] == "load.moved_mass";
    part = part || way["changes"][0]["input"] == "gearhead";
  }
  CHECK(mass);
  CHECK(part);
  CHECK_THAT(run("ways-out " + demo_file() + " --axis Gantry --limit inertia.ratio").out,
             Contains("Load, moved mass 18 kg →") && Contains("worse: Motor speed"));
  CHECK(run("ways-out " + demo_file() + " --axis Gantry --limit no.such").code == 1);
  CHECK_THAT(run("ways-out " + demo_file() + " --axis Tray").out +
                 run("ways-out " + demo_file() + " --axis 'Tray conveyor'").out,
             Contains("clear") || Contains("axis"));
  const Json room = Json::parse(run("headroom " + demo_file() + " --axis Picker --json").out);
  bool named = false;
  for (const Json& one : room) {
    if (one["input"] != "load.moved_mass") continue;
    named = !one["limit"].get<std::string>().empty();
    CHECK(one["share"].get<double>() > 0.5);
  }
  CHECK(named);
  const Outcome over = run("headroom " + demo_file() + " --axis Gantry");
  CHECK(over.code == 1);
  CHECK_THAT(over.out, Contains("no room left"));
}

TEST_CASE("a search shared out with GNU parallel gives the answer of the whole") {
  TemporaryFolder folder;
  const std::string match = std::string(FULMOX_CLI) + " match " + demo_file() +
                            " --axis Picker --top 8 --misses 5 --weight used=1 --weight mass=2 --threads 1";
  const std::string shards = folder.file("shard").string();
  const std::string parallel = "env HOME=" + folder.file("").string() + " parallel --will-cite -j2 '" +
                               match + " --shard {}/5 > " + shards + "{}' ::: 0 1 2 3 4";
  REQUIRE(std::system(parallel.c_str()) == 0);
  const auto erase_remarks = [](Json answer) {
    for (const char* list : {"top", "near_misses"})
      for (Json& row : answer[list]) row.erase("smaller_does_better");
    return answer;
  };
  const Outcome whole = run(match.substr(std::string(FULMOX_CLI).size() + 1) + " --json");
  const auto merge = [&](const std::string& order, const std::string& more = "") {
    std::string files;
    for (const char part : order) files += " " + shards + part;
    return run("merge" + files + more);
  };
  const Outcome merged = merge("01234");
  REQUIRE(merged.code == 0);
  CHECK(Json::parse(merged.out) == erase_remarks(Json::parse(whole.out)));
  CHECK(merge("42013").out == merged.out); // whatever order they come in
  CHECK_THAT(merge("0134").out, Contains("shard 2 of 5 is missing"));
  CHECK_THAT(merge("00123").out, Contains("shard 0 was given already"));
  const Json some = Json::parse(merge("0134", " --partial").out);
  CHECK(some["missing_shards"] == Json::array({2}));
  CHECK(some["fit"].get<std::size_t>() < Json::parse(whole.out)["fit"].get<std::size_t>());
  // another question, or half a file
  run(match.substr(std::string(FULMOX_CLI).size() + 1) + " --only price=300 --shard 2/5",
      "> " + shards + "2");
  CHECK_THAT(merge("01234").out, Contains("another search"));
  std::ofstream(shards + "3") << "{\"format\":\"fulmox-match-shard\"}\n";
  CHECK_THAT(merge("0134").out, Contains("no whole shard"));
  for (const char* wrong : {"5/5", "-1/5", "1", "1/0", "1.5/2", "a/b"})
    CHECK_THAT(run("match " + demo_file() + " --shard " + wrong).out, Contains("--shard"));
}
