// The command line under hostile input and in hostile surroundings.

#include "cli/program.hpp"
#include "core/support/text_file.hpp"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>
#include <sys/stat.h>

#include <fstream>
#include <functional>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;
using Json = nlohmann::json;

namespace {

std::string general_axis(const std::string& cycle) {
  return R"({"format":"fulmox-machine","version":1,"name":"p","axes":[{"name":"x","load":{"inertia":"1e-3 kg.m2",)"
         R"("friction_torque":"0.1 N.m"},"mechanism":{"kind":"general","efficiency":"1"},"motor":{"inertia":"1 kg.cm2"},)"
         R"("cycle":[)" +
         cycle + "]}]}";
}

} // namespace

TEST_CASE("the program tells its version") {
  const Outcome outcome = run("--version");
  CHECK(outcome.code == 0);
  CHECK_THAT(outcome.out, Contains("fulmox-cli ") && Contains("."));
}

TEST_CASE("numbers out of range are refused in words, at once") {
  for (const char* arguments :
       {"ratio FILE --from nan", "ratio FILE --from 1e-300 --to 1e300", "ratio FILE --to inf",
        "trace FILE --step nan", "trace FILE --step -1", "trace FILE --step 1e-9", "laws FILE --segment 0"}) {
    std::string line = arguments;
    line.replace(line.find("FILE"), 4, demo_file());
    INFO(arguments);
    const Outcome outcome = run(line);
    CHECK(outcome.code == 2);
    CHECK_THAT(outcome.out, Contains("must be a number from"));
  }
}

TEST_CASE("one impossible axis does not hide the others") {
  const TemporaryFolder folder;
  Document document = demo();
  document.axes[1]["load"].type("moved_mass", "");
  document.axes[3]["gearhead"].type("ratio", "0");
  const std::string file = folder.file("m.fulmox").string();
  REQUIRE_FALSE(save_document(document, file));
  const Outcome text = run("size " + file);
  CHECK(text.code == 1);
  CHECK_THAT(text.out, Contains("326 mN·m") && Contains("axes[1].load.moved_mass") &&
                           Contains("axes[3].gearhead.ratio"));
  const Outcome json = run("size --json " + file, "2>/dev/null");
  CHECK(json.code == 1);
  const Json axes = Json::parse(json.out)["axes"];
  REQUIRE(axes.size() == document.axes.size());
  CHECK(axes[0]["results"].size() > 10);
  CHECK(axes[1]["problem"]["where"] == "axes[1].load.moved_mass");
  CHECK_FALSE(axes[1].contains("results"));
  CHECK(axes[4]["results"].size() > 10);
  const Outcome explained = run("explain " + file + " demand.peak_torque");
  CHECK(explained.code == 1);
  CHECK_THAT(explained.out, Contains("Picker") && Contains("axes[1].load.moved_mass"));
  CHECK(run("explain --axis Picker " + file + " demand.peak_torque").code == 0);
}

TEST_CASE("results that cannot be written are no success") {
  CHECK(run("size " + demo_file(), ">/dev/full 2>/dev/null").code == 1);
  CHECK(run("trace " + demo_file(), ">/dev/full 2>/dev/null").code == 1);
  CHECK_THAT(run("size " + demo_file(), "2>&1 >/dev/full").out, Contains("could not be written"));
  CHECK(run("size " + demo_file(), ">&- 2>/dev/null").code == 1);
  CHECK_THAT(run("size " + demo_file(), "2>&1 >&-").out, Contains("closed"));
}

TEST_CASE("import never makes what nobody can read, nor replaces what is protected") {
  const TemporaryFolder folder;
  const std::string file = folder.file("m.fulmox").string();
  REQUIRE_FALSE(save_document(demo(), file));
  const std::string before = *read_text_file(file, 1'000'000);
  {
    std::ofstream rows(folder.file("long.csv"));
    rows << "part,mass [kg],x [mm],y [mm],z [mm],Ixx [kg.m2],Iyy [kg.m2],Izz [kg.m2]\n";
    for (int i = 0; i < 100'000; ++i) rows << "Plate number " << i << " of many,2,0,0,0,0.001,0.002,0.003\n";
  }
  const Outcome large =
      run("import " + file + " --axis Table --about z --pieces " + folder.file("long.csv").string());
  CHECK(large.code == 1);
  CHECK(*read_text_file(file, 1'000'000) == before);
  std::ofstream(folder.file("force.csv")) << "x [mm],F [N]\n0,1\n10,2\n";
  const std::string force = " --axis Picker --segment 1 --process " + folder.file("force.csv").string();
  REQUIRE(::chmod(file.c_str(), 0444) == 0);
  const Outcome guarded = run("import " + file + force);
  CHECK(guarded.code == 1);
  CHECK_THAT(guarded.out, Contains("write-protected"));
  CHECK(*read_text_file(file, 1'000'000) == before);
  CHECK(run("import " + file + force + " --out /dev/null").code == 1);
  CHECK(run("import " + file + force + " --out " + folder.file("new.fulmox").string()).code == 0);
}

TEST_CASE("a cycle of a day is traced as it goes, not built up in memory") {
  const TemporaryFolder folder;
  const std::string file = folder.file("day.fulmox").string();
  std::ofstream(file) << general_axis(R"({"kind":"move","distance":"1 rad","time":"1 s","law":"345"},)"
                                      R"({"kind":"dwell","time":"86398 s"},)"
                                      R"({"kind":"move","distance":"-1 rad","time":"1 s","law":"345"})");
#ifdef FULMOX_SANITIZED // takes terabytes of addresses
  const std::string limit;
#else
  const std::string limit = "ulimit -v 60000; ";
#endif
  const Outcome outcome = run("trace " + file + " --step 0.5", "| tail -n 1", limit);
  CHECK_THAT(outcome.out, Contains("86400,"));
  const Outcome fine = run("trace " + file + " --step 1e-6", "2>&1");
  CHECK(fine.code == 1);
  CHECK_THAT(fine.out, Contains("million rows") && Contains("Take at least"));
}

TEST_CASE("what is too large or too strange is refused, with the reason") {
  const TemporaryFolder folder;
  const std::string file = folder.file("x.fulmox").string();
  const auto refusal = [&](const std::string& text) {
    std::ofstream(file) << text;
    const Outcome outcome = run("size " + file);
    CHECK(outcome.code == 1);
    CHECK(outcome.out.size() < 2000);
    return outcome.out;
  };
  const auto many = [](int count, const std::function<std::string(int)>& one) {
    std::string all;
    for (int i = 0; i < count; ++i) all += (i > 0 ? "," : "") + one(i);
    return all;
  };
  const std::string move = R"({"kind":"move","distance":"1 rad","time":"1 s","law":"345"})";
  const std::string dwell = R"({"kind":"dwell","time":"1e308 s"})";
  CHECK_THAT(refusal(general_axis(move + "," + dwell + "," + dwell)),
             Contains("time") && Contains("no machine"));
  CHECK_THAT(refusal(general_axis(many(100'000, [&](int) { return move; }))), Contains("60000 parts"));
  CHECK_THAT(refusal(general_axis(many(6000, [&](int) { return move; }))), Contains("longer than 5000"));
  CHECK_THAT(refusal("{" + many(80'000, [](int i) { return "\"a" + std::to_string(i) + "\":1"; }) + "}"),
             Contains("2000 members"));
  CHECK_THAT(refusal("{\"axes\":[" + many(1'000'000, [](int) { return "1"; }) + "]}"),
             Contains("200000 entries"));
  CHECK_THAT(refusal(std::string(300, '[')), Contains("nested too deeply"));
  CHECK_THAT(refusal(general_axis(many(300, [](int) { return R"({"kind":"repeat","count":"1"})"; }))),
             Contains("nested too deeply"));
  CHECK_THAT(refusal(general_axis(R"({"kind":"profile","points":")" +
                                  many(1,
                                       [&](int) {
                                         std::string points;
                                         for (int i = 0; i < 300'000; ++i)
                                           points += std::to_string(i) + " s: 1 rad;";
                                         return points;
                                       }) +
                                  "\"}")),
             Contains("200000 points"));
  std::ofstream rows(folder.file("long.csv"));
  for (int i = 0; i < 900'000; ++i) rows << i << "," << i % 7 << "\n";
  rows.close();
  Document recorded = demo();
  add_segment(recorded.axes[0], "profile", {});
  REQUIRE_FALSE(save_document(recorded, file));
  const Outcome profile =
      run("import " + file + " --segment 5 --profile " + folder.file("long.csv").string());
  CHECK(profile.code == 1);
  CHECK_THAT(profile.out, Contains("20000 rows"));
}
