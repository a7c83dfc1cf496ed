// Libraries, foreign lists and kinds of motor from the command line.

#include "cli/program.hpp"
#include "core/library/catalogue.hpp"
#include "core/match/kinds.hpp"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include <filesystem>
#include <fstream>
#include <unistd.h>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;
using Json = nlohmann::json;

namespace {

struct Folder {
  std::filesystem::path path =
      std::filesystem::temp_directory_path() / ("fulmox-cli-library-" + std::to_string(getpid()));
  Folder() {
    std::filesystem::remove_all(path);
    std::filesystem::create_directories(path / "own");
  }
  ~Folder() { std::filesystem::remove_all(path); }
  Folder(const Folder&) = delete;
  Folder& operator=(const Folder&) = delete;
  std::string file(const std::string& name, const std::string& text) const {
    std::ofstream(path / name, std::ios::binary) << text;
    return (path / name).string();
  }
};

} // namespace

TEST_CASE("the library command tells what counts, what was not read and what to remark") {
  const Folder folder;
  std::filesystem::create_directories(folder.path / "a");
  std::filesystem::create_directories(folder.path / "b");
  folder.file("a/couplings.csv",
              "part_number,maker,bore_min [mm],bore_max [mm]\nC1,X,3,8\nC2,X,9,8\nC3,X,3\n");
  folder.file("b/couplings.csv", "part_number,maker,bore_min [mm],bore_max [mm]\nC1,X,4,9\n");
  const std::string both = (folder.path / "a").string() + " " + (folder.path / "b").string();
  const auto ran = run("library " + both + " --json");
  CHECK(ran.code == 1); // a line could not be read
  const Json told = Json::parse(ran.out);
  REQUIRE(told["parts"].size() == 3);
  CHECK_FALSE(told["parts"][0]["counts"].get<bool>());
  CHECK(told["parts"][0]["hidden_by"]["line"] == 2);
  CHECK(told["parts"][1]["remarks"][0]["grade"] == "contradiction");
  CHECK(told["parts"][2]["counts"].get<bool>());
  REQUIRE(told["troubles"].size() == 1);
  CHECK_THAT(told["troubles"][0]["text"].get<std::string>(), Contains("couplings.csv, line 4"));
  CHECK_THAT(run("library " + both).out,
             Contains("hidden: ") && Contains("not read: ") && Contains("contradiction"));
  CHECK(run("library").code == 0);
  CHECK_THAT(run("library " + folder.path.string() + "/none").out, Contains("not there"));
}

TEST_CASE("a foreign list goes into a library, its columns guessed or told") {
  const Folder folder;
  const std::string list = folder.file(
      "list.csv", "Model;Weight (g);Bore;Rated torque (N.m);Price\nL1;30;8;1,5;20\nL2;40;ten;2;30\n");
  const std::string into = (folder.path / "own").string();
  const auto ran = run("import-parts " + list + " --kind couplings --into " + into +
                       " --maker 'Lark (invented)' --column 'Bore=bore_max mm' --column 'Rated torque "
                       "(N.m)=rated_torque N.m'");
  CHECK(ran.code == 1);
  CHECK_THAT(ran.out, Contains("Weight (g) = mass in g") && Contains("1 parts into"));
  CHECK_THAT(ran.out, Contains("line 3") && Contains("Bore"));
  const Catalogue back = Catalogue::load({{into, "own", true}});
  REQUIRE(back.of("coupling").size() == 1);
  CHECK(back.of("coupling")[0].part.term("rated_torque") == Approx(1.5));
  CHECK(back.of("coupling")[0].part.text("maker") == "Lark (invented)");
  const Json told = Json::parse(
      run("import-parts " + list + " --kind couplings --json --into " + into + "2", "2>/dev/null").out);
  CHECK(told["columns"][0] == Json{{"title", "Model"}, {"field", "part_number"}, {"unit", ""}});
  CHECK(told["parts"] == Catalogue::load({{into + "2", "own", true}}).of("coupling").size());
  CHECK(told["troubles"].size() == 2 - told["parts"].get<std::size_t>());
  // and is tried beside the shipped one
  CHECK_THAT(run("import-parts " + list + " --kind cuplings --into " + into).out, Contains("couplings"));
  CHECK_THAT(
      run("import-parts " + list + " --kind couplings --into " + into + " --column 'Boring=bore_max'").out,
      Contains("no column 'Boring'"));
  CHECK(run("import-parts " + list + "x --kind couplings --into " + into).code == 1);
}

TEST_CASE("a library of which a line cannot be read is searched without that line, and the line is named") {
  const Folder folder;
  std::filesystem::create_directories(folder.path / "all");
  for (const auto& file : std::filesystem::directory_iterator(source_folder() / "data" / "library"))
    std::filesystem::copy_file(file.path(), folder.path / "all" / file.path().filename());
  std::ofstream(folder.path / "all" / "couplings.csv", std::ios::app) << "broken\n";
  const auto ran = run("match " + demo_file() + " --axis Picker --misses 1 --json --library " +
                           (folder.path / "all").string(),
                       "2>/dev/null");
  CHECK(ran.code == 0);
  CHECK_THAT(
      run("match " + demo_file() + " --axis Picker --misses 1 --library " + (folder.path / "all").string())
          .out,
      Contains("couplings.csv, line"));
  CHECK(Json::parse(ran.out)["fit"] ==
        Json::parse(run("match " + demo_file() + " --axis Picker --misses 1 --json").out)["fit"]);
}

TEST_CASE("kinds tells what the comparison finds") {
  const Folder folder;
  Library few;
  for (const SlotSpec* slot : part_slots())
    for (const SlotKind& kind : slot->kinds()) {
      Parts parts;
      for (const Section& part : parts_of_form(slot->id, *kind.form))
        for (const std::string_view beginning :
             {"KD52", "CR40-0050-048", "HS11-51", "TP40-5", "SD24", "SS36", "EL48-03"})
          if (part.text("part_number").starts_with(beginning)) parts.push_back(part);
      if (parts.empty()) continue;
      folder.file("own/" + std::string(kind.library), write_parts(parts, columns_for(parts), "few"));
      few.add(slot->id, std::move(parts));
    }
  const std::string ask =
      "kinds " + demo_file() + " --axis Brush --library " + (folder.path / "own").string();
  const Json told = Json::parse(run(ask + " --json").out);
  const KindsCompared found = compare_kinds(demo().axes[6], house_rules(), demo().duty, few, {});
  CHECK(told["advice"] == found.advice);
  REQUIRE(told["kinds"].size() == found.kinds.size());
  for (std::size_t i = 0; i < found.kinds.size(); ++i) {
    CHECK(told["kinds"][i]["fits"] == found.kinds[i].fits);
    if (found.kinds[i].judged) CHECK(told["kinds"][i]["figures"]["parts"]["text"] == found.kinds[i].parts());
  }
  CHECK_THAT(run(ask).out, Contains("Where practitioners differ") && Contains("excludes: "));
  CHECK_THAT(run("kinds " + demo_file() + " --axis Broom").out, Contains("no axis 'Broom'"));
}
