#include "core/keeping/disk_stamp.hpp"
#include "core/keeping/keeper.hpp"
#include "core/project/differences.hpp"
#include "core/project/footprint.hpp"
#include "core/project/history.hpp"
#include "core/support/text_file.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <ctime>
#include <fstream>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;
namespace fs = std::filesystem;

namespace {

Document machine(const std::string& name) {
  Document document = demo();
  document.name = name;
  return document;
}

std::string content_of(const fs::path& path) { return *read_text_file(path, 100'000'000); }

/// Files in a folder whose names end like this.
std::size_t count_files(const fs::path& folder, std::string_view tail) {
  std::size_t count = 0;
  for (const auto& entry : fs::directory_iterator(folder))
    count += entry.path().filename().string().ends_with(tail) ? 1U : 0U;
  return count;
}

/// Runs something in a process of its own that is then killed.
void in_killed_process(const std::function<void()>& work) {
  const pid_t child = ::fork();
  if (child == 0) {
    work();
    ::kill(::getpid(), SIGKILL);
  }
  int status = 0;
  REQUIRE(::waitpid(child, &status, 0) == child);
  CHECK(WIFSIGNALED(status));
}

const auto unasked = [](const Problem&) {};

} // namespace

TEST_CASE("a process is told from another that got its number") {
  const Process self = this_process();
  CHECK(running(self));
  CHECK(process_from(self.text()) == self);
  Process older = self;
  older.start -= 1;
  CHECK_FALSE(running(older));
  CHECK_FALSE(running(process_from("nonsense")));
  CHECK(process_from("-1-2").id == 1);
  CHECK(process_from("x--2").id == 0);
}

TEST_CASE("a lock has one holder and goes with the process that held it") {
  const TemporaryFolder folder;
  const fs::path path = folder.file("x.lock");
  {
    const LockFile first(path);
    REQUIRE(first.held());
    CHECK_FALSE(LockFile(path).held());
    const auto holder = holder_of(path);
    REQUIRE(holder);
    CHECK(holder->process == this_process());
    CHECK(std::abs(holder->since - std::time(nullptr)) < 60);
  }
  CHECK_FALSE(fs::exists(path));
  in_killed_process([&] { new LockFile(path); });
  CHECK(fs::exists(path));
  CHECK_FALSE(holder_of(path));
  CHECK(LockFile(path).held());
  CHECK_FALSE(LockFile("/no/such/folder/x.lock").held());
}

TEST_CASE("work is kept beside its file by the one who works on it") {
  const TemporaryFolder folder;
  const fs::path state = folder.file("state"), file = folder.file("m.fulmox");
  REQUIRE_FALSE(save_document(machine("Saved"), file));
  Keeper first(state, unasked);
  REQUIRE(first.attach(file));
  CHECK(first.side_file().filename() == ".m.fulmox.autosave");
  first.keep(machine("Changed"), 3);
  first.flush();
  CHECK(kept_document(first.side_file())->name == "Changed");
  CHECK(load_document(file)->name == "Saved");
  // another window: told that it is not alone, offered nothing, keeps its own work elsewhere
  Keeper second(state, unasked);
  CHECK_FALSE(second.attach(file));
  CHECK(kept_for(file, state).empty());
  second.keep(machine("Other"), 1);
  second.flush();
  CHECK(second.side_file().parent_path() == state);
  CHECK(kept_document(second.side_file())->name == "Other");
  CHECK(kept_document(first.side_file())->name == "Changed");
  second.drop();
  CHECK_FALSE(fs::exists(second.side_file()));
  first.drop();
  CHECK_FALSE(fs::exists(side_file_of(file)));
}

TEST_CASE("what a killed process kept is found, told and put by") {
  const TemporaryFolder folder;
  const fs::path state = folder.file("state"), file = folder.file("m.fulmox");
  REQUIRE_FALSE(save_document(machine("Saved"), file));
  for (const bool with_file : {true, false})
    in_killed_process([&] {
      auto* keeper = new Keeper(state, unasked);
      if (with_file) keeper->attach(file);
      keeper->keep(machine(with_file ? "Lost" : "Unnamed"), 7);
      keeper->flush();
    });
  const auto kept = kept_for(file, state);
  REQUIRE(kept.size() == 1);
  CHECK(kept.front().name == "Lost");
  CHECK(kept.front().changes == 7);
  CHECK(kept.front().machine == file);
  CHECK(std::abs(kept.front().when - std::time(nullptr)) < 60);
  CHECK(kept_document(kept.front().file)->unknown.empty());
  const auto unnamed = kept_for("", state);
  REQUIRE(unnamed.size() == 1);
  CHECK(unnamed.front().name == "Unnamed");
  // declined: never offered again, in the list for a week from now, however old it is
  const std::int64_t now = std::time(nullptr), day = 24 * 3600;
  fs::last_write_time(kept.front().file, fs::file_time_type::clock::now() - std::chrono::hours(6 * 24));
  REQUIRE_FALSE(put_by(kept.front(), state));
  REQUIRE_FALSE(put_by(unnamed.front(), state));
  CHECK(kept_for(file, state).empty());
  CHECK(kept_for("", state).empty());
  CHECK(kept_in(state).size() == 2);
  forget_old(state, now + 6 * day);
  CHECK(kept_in(state).size() == 2);
  forget_old(state, std::time(nullptr) + 6 * 24 * 3600);
  CHECK(kept_in(state).size() == 2);
  forget_old(state, std::time(nullptr) + 8 * 24 * 3600);
  CHECK(kept_in(state).empty());
  CHECK(count_files(state, ".lock") == 0);
}

TEST_CASE("an unreadable side file is told, never lost") {
  const TemporaryFolder folder;
  const fs::path state = folder.file("state"), file = folder.file("m.fulmox");
  std::ofstream(side_file_of(file)) << "{ \"format\": ";
  const auto kept = kept_for(file, state);
  REQUIRE(kept.size() == 1);
  REQUIRE(kept.front().unreadable);
  CHECK_THAT(kept.front().unreadable->text(), Contains("truncated"));
  REQUIRE_FALSE(put_by(kept.front(), state));
  REQUIRE(kept_in(state).size() == 1);
  CHECK(content_of(kept_in(state).front().file) == "{ \"format\": ");
}

TEST_CASE("where the folder takes nothing, work is kept in the user's folder and that is said once") {
  const TemporaryFolder folder;
  std::vector<Problem> told;
  std::mutex mutex;
  Keeper keeper(folder.file("state"), [&](const Problem& problem) {
    const std::lock_guard guard(mutex);
    told.push_back(problem);
  });
  keeper.attach("/no/such/folder/m.fulmox");
  for (int i = 0; i < 3; ++i) {
    keeper.keep(machine("Homeless"), i);
    keeper.flush();
  }
  REQUIRE(told.size() == 1);
  CHECK_THAT(told.front().text(), Contains("kept in") && Contains("state"));
  CHECK(count_files(folder.file("state"), ".autosave") == 1);
  keeper.drop();
  CHECK(count_files(folder.file("state"), ".autosave") == 0);
}

TEST_CASE("long names have side files, too") {
  const TemporaryFolder folder;
  const fs::path file = folder.file(std::string(245, 'n').append(".fulmox"));
  REQUIRE_FALSE(save_document(machine("Long"), file));
  Keeper keeper(folder.file("state"), unasked);
  REQUIRE(keeper.attach(file));
  keeper.keep(machine("Longer"), 1);
  keeper.flush();
  CHECK(fs::exists(side_file_of(file)));
}

TEST_CASE("a file that others changed is noticed, one that was only touched is not") {
  const TemporaryFolder folder;
  const fs::path file = folder.file("m.fulmox");
  REQUIRE_FALSE(save_document(machine("Mine"), file));
  const DiskStamp stamp(file);
  CHECK_FALSE(stamp.outdated());
  fs::last_write_time(file, fs::last_write_time(file) + std::chrono::hours(1));
  CHECK_FALSE(stamp.outdated());
  REQUIRE_FALSE(save_document(machine("Thei"), file)); // same size
  CHECK(stamp.outdated());
  fs::remove(file);
  CHECK_FALSE(stamp.outdated());
  CHECK_FALSE(DiskStamp().outdated());
}

TEST_CASE("differences are told by the names of inputs") {
  const Document before = demo();
  Document after = before;
  after.axes[0]["load"].type("moved_mass", "7 kg");
  after.axes[0]["mechanism"].type("held", "both");
  after.axes[1].cycle.pop_back();
  after.axes.pop_back();
  after.name = "Other";
  auto all = differences(before, after);
  REQUIRE(all.size() == 5);
  CHECK(all[2].before == "at one end"); // as it is shown, not as files say it
  CHECK(all[2].after == "at both ends");
  all.erase(all.begin() + 2);
  CHECK(all[0].input == "Name of the machine");
  CHECK(all[1].axis == "Picker");
  CHECK(all[1].input == "Load, moved mass");
  CHECK(all[1].before == "6 kg");
  CHECK(all[1].after == "7 kg");
  CHECK(all[2].after.empty());
  CHECK(all[3].input == "The whole axis");
  CHECK(differences(before, before).empty());
}

TEST_CASE("targets that are no files are refused, links followed, protection respected") {
  const TemporaryFolder folder;
  const fs::path real = folder.file("real.txt"), link = folder.file("link.txt"), pipe = folder.file("pipe");
  fs::create_symlink("real.txt", link); // dangling, relative
  REQUIRE_FALSE(write_text_file(link, "one"));
  CHECK(fs::is_symlink(link));
  CHECK(content_of(real) == "one");
  REQUIRE_FALSE(write_text_file(link, "two"));
  CHECK(content_of(real) == "two");
  fs::create_symlink("b", folder.file("a"));
  fs::create_symlink("a", folder.file("b"));
  CHECK(write_text_file(folder.file("a"), "x"));
  REQUIRE(::mkfifo(pipe.c_str(), 0644) == 0);
  CHECK_THAT(write_text_file(pipe, "x")->text(), Contains("device"));
  CHECK_THAT(write_text_file("/dev/null", "x")->text(), Contains("device"));
  CHECK_THAT(write_text_file(folder.file(""), "x")->text(), Contains("folder"));
  fs::permissions(real, fs::perms::owner_read);
  CHECK_THAT(write_text_file(real, "three")->text(), Contains("write-protected"));
  CHECK(content_of(real) == "two");
  fs::permissions(real, fs::perms::owner_read | fs::perms::owner_write | fs::perms::group_read);
  REQUIRE_FALSE(write_text_file(real, "four"));
  CHECK((fs::status(real).permissions() & fs::perms::mask) ==
        (fs::perms::owner_read | fs::perms::owner_write | fs::perms::group_read));
  const fs::path longest = folder.file(std::string(255, 'n'));
  CHECK_FALSE(write_text_file(longest, "x"));
  CHECK_THAT(write_text_file("/dev/full/x", "x")->text(), Contains("cannot write here"));
}

TEST_CASE("what killed writers left is cleared away, what running ones write is not") {
  const TemporaryFolder folder;
  Process gone = this_process();
  gone.start -= 1;
  const auto aside = [&](const Process& process) {
    return folder.file(".fulmox-" + process.text() + "-abcdef.part");
  };
  std::ofstream(aside(gone)) << "half";
  std::ofstream(aside(this_process())) << "half";
  std::ofstream(folder.file(".fulmox-strange.part")) << "not ours";
  REQUIRE_FALSE(write_text_file(folder.file("x"), "whole"));
  CHECK_FALSE(fs::exists(aside(gone)));
  CHECK(fs::exists(aside(this_process())));
  CHECK(fs::exists(folder.file(".fulmox-strange.part")));
}

TEST_CASE("a machine that could not be read back is not written") {
  const TemporaryFolder folder;
  const fs::path file = folder.file("m.fulmox");
  REQUIRE_FALSE(save_document(machine("Small"), file));
  Document large = machine("Large");
  large.unknown["extra"] = "\"" + std::string(17'000'000, 'x') + "\"";
  CHECK_THAT(save_document(large, file)->text(), Contains("MB"));
  CHECK(load_document(file)->name == "Small");
  // nor does unsaved work give way to such a one
  KeptWork about;
  about.file = side_file_of(file);
  REQUIRE_FALSE(keep_work(machine("Small"), about));
  CHECK_THAT(keep_work(large, about)->text(), Contains("MB"));
  CHECK(kept_document(about.file)->name == "Small");
}

TEST_CASE("undo counts what a state shares once, also after the oldest has gone") {
  Document document = demo();
  document.axes.resize(1);
  const auto with_note = [](Document d, std::size_t size, char c) {
    Entry entry = d.axes[0]["load"].entry("moved_mass");
    entry.note = std::string(size, c);
    d.axes[0]["load"].put("moved_mass", entry);
    return d;
  };
  SECTION("a form moved along by another put before it is shared") {
    Document next = with_note(document, 1'000'000, 'n');
    for (int i = 0; i < 3; ++i) next.axes[0].cycle.push_back(next.axes[0].cycle.back());
    Entry entry = next.axes[0].cycle.back().entry("time");
    entry.note = std::string(1'000'000, 'm');
    next.axes[0].cycle.back().put("time", entry);
    Document moved = next;
    moved.axes[0].cycle.insert(moved.axes[0].cycle.begin(), next.axes[0].cycle.front());
    CHECK(own_size(next, document) > 1'900'000);
    CHECK(own_size(moved, next) < 100'000);
  }
  SECTION("the base that all share takes its part of the room once a state has gone") {
    Entry large = document.axes[0]["motor"].entry("inertia");
    large.note = std::string(1'000'000, 'b');
    document.axes[0]["motor"].put("inertia", large);
    History history(document, 2'000'000);
    for (int i = 0; i < 40; ++i)
      history.change(with_note(history.now(), 100'000, static_cast<char>('a' + i % 26)), "edit");
    int steps = 0;
    while (history.undo()) ++steps;
    CHECK(steps >= 7);
    CHECK(steps <= 11);
  }
}
