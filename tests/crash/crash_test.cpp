// Work survives whatever ends the program: it is killed at random instants and at every single call that
// touches the disk, and each of these calls is refused once.

#include "core/keeping/kept_work.hpp"
#include "core/support/text_file.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <csignal>
#include <cstdlib>
#include <random>
#include <sstream>
#include <sys/wait.h>
#include <unistd.h>

using namespace fulmox;
using namespace fulmox::testing;
namespace fs = std::filesystem;

namespace {

struct Run {
  int kept = 0, saved = 0, refused = 0; ///< the last state it told of
  long calls = 0;                       ///< that touched the disk; 0 unless it came to its end
};

/// Runs the worker; kills it after `killed_after` microseconds unless that is 0.
Run run_worker(const fs::path& folder, const char* how, unsigned killed_after = 0) {
  int pipes[2];
  REQUIRE(::pipe(pipes) == 0);
  const pid_t child = ::fork();
  if (child == 0) {
    ::dup2(pipes[1], 1);
    ::close(pipes[0]);
    ::close(pipes[1]);
    ::execl(FULMOX_CRASH_WORKER, "crash_worker", folder.c_str(), how, nullptr);
    ::_exit(127);
  }
  ::close(pipes[1]);
  std::string told;
  char buffer[4096];
  ssize_t got = 0;
  if (killed_after > 0) {
    // the clock starts with its first word: before, it has nothing to lose
    got = ::read(pipes[0], buffer, sizeof buffer);
    if (got > 0) told.append(buffer, static_cast<std::size_t>(got));
    ::usleep(killed_after);
    ::kill(child, SIGKILL);
  }
  while ((got = ::read(pipes[0], buffer, sizeof buffer)) > 0)
    told.append(buffer, static_cast<std::size_t>(got));
  ::close(pipes[0]);
  int status = 0;
  REQUIRE(::waitpid(child, &status, 0) == child);
  REQUIRE(!(WIFEXITED(status) && WEXITSTATUS(status) == 127));
  Run run;
  std::istringstream words(told);
  std::string word;
  long number = 0;
  while (words >> word >> number) {
    if (word == "kept") run.kept = static_cast<int>(number);
    if (word == "saved") run.saved = static_cast<int>(number);
    if (word == "refused") run.refused = static_cast<int>(number);
    if (word == "done") run.calls = number;
  }
  return run;
}

int state_of(const Document& document) {
  return document.name.starts_with("state ") ? std::atoi(document.name.c_str() + 6) : 0;
}

/// The newest state that is on disk, in the file or beside it; every file there is whole.
int newest_state(const fs::path& folder) {
  const auto file = folder / "m.fulmox";
  const auto saved = load_document(file);
  REQUIRE(saved);
  CHECK(saved->axes.size() == demo().axes.size());
  int newest = state_of(*saved);
  for (const KeptWork& work : kept_for(file, folder / "state")) {
    INFO(work.file.string());
    CHECK_FALSE(work.unreadable);
    const auto kept = kept_document(work.file);
    REQUIRE(kept);
    newest = std::max(newest, state_of(*kept));
  }
  return newest;
}

void check_nothing_lost(const fs::path& folder, const Run& run) {
  INFO("kept " << run.kept << ", saved " << run.saved);
  CHECK(newest_state(folder) >= std::max(run.kept, run.saved));
}

int asked(const char* variable, int usual) {
  const char* text = std::getenv(variable);
  return text != nullptr ? std::atoi(text) : usual;
}

} // namespace

TEST_CASE("killed at any instant, work is whole and nothing kept is lost") {
  const TemporaryFolder folder;
  REQUIRE_FALSE(save_document(demo(), folder.file("m.fulmox")));
  std::mt19937 engine(17);
  const int kills = asked("FULMOX_KILLS", 40);
  for (int i = 0; i < kills; ++i) {
    INFO("kill " << i);
    const Run run = run_worker(folder.file(""), "forever", static_cast<unsigned>(1 + engine() % 20000));
    check_nothing_lost(folder.file(""), run);
    // nobody holds the file now, and the next to write clears away what the killed one left
    REQUIRE_FALSE(holder_of(lock_of(side_file_of(folder.file("m.fulmox")))));
    REQUIRE_FALSE(write_text_file(folder.file("other"), "x"));
    for (const auto& entry : fs::directory_iterator(folder.file("")))
      CHECK(entry.path().extension() != ".part");
  }
}

TEST_CASE("ended or refused at every single call, old or new is whole") {
  const bool refusing = GENERATE(false, true);
  ::setenv("FULMOX_FAULT", refusing ? "fail" : "kill", 1);
  long last = 1000;
  for (long at = 1; at <= last + 1; ++at) {
    INFO((refusing ? "refused at call " : "ended at call ") << at);
    const TemporaryFolder folder;
    REQUIRE_FALSE(save_document(demo(), folder.file("m.fulmox")));
    ::setenv("FULMOX_FAULT_AT", std::to_string(at).c_str(), 1);
    const Run run = run_worker(folder.file(""), "once");
    if (run.calls > 0 && (at == 1 || refusing)) last = run.calls;
    check_nothing_lost(folder.file(""), run);
    if (run.refused > 0) CHECK(newest_state(folder.file("")) >= 1); // what was kept before stays kept
    if (run.calls > 0 && !refusing) {
      last = run.calls;
      CHECK(at == run.calls + 1); // every call before has been the last one once
      break;
    }
  }
  CHECK(last > 15);
  CHECK(last < 1000);
  ::unsetenv("FULMOX_FAULT_AT");
  ::unsetenv("FULMOX_FAULT");
}
