#include "core/keeping/keeper.hpp"

#include <algorithm>
#include <atomic>
#include <ctime>

namespace fulmox {
namespace {

namespace fs = std::filesystem;

std::atomic<unsigned> sessions{0};

} // namespace

Keeper::Keeper(fs::path state, std::function<void(const Problem&)> told)
    : state_(std::move(state)), told_(std::move(told)), number_(++sessions) {
  std::error_code error;
  fs::create_directories(state_, error);
  elsewhere_lock_ = LockFile(lock_of(elsewhere()));
  thread_ = std::thread([this] { work(); });
}

Keeper::~Keeper() {
  {
    const std::lock_guard guard(mutex_);
    ending_ = true;
  }
  changed_.notify_all();
  thread_.join();
}

fs::path Keeper::elsewhere() const {
  return state_ / ("work-" + this_process().text() + "-" + std::to_string(number_) + ".autosave");
}

bool Keeper::attach(const fs::path& machine) {
  drop();
  machine_ = machine;
  alone_ = true;
  if (machine.empty()) {
    lock_.release();
    return true;
  }
  const fs::path lock = lock_of(side_file_of(machine));
  if (lock_.held() && lock_.path() == lock) return true;
  lock_ = LockFile(lock);
  // a folder that cannot be written holds no lock: then nobody can save there either
  alone_ = lock_.held() || !holder_of(lock);
  return alone_;
}

fs::path Keeper::side_file() const {
  return machine_.empty() || !alone_ ? elsewhere() : side_file_of(machine_);
}

void Keeper::keep(Document document, int changes) {
  std::error_code error;
  KeptWork about;
  about.file = side_file();
  about.machine = machine_.empty() ? machine_ : fs::absolute(machine_, error);
  about.when = std::time(nullptr);
  about.changes = changes;
  {
    const std::lock_guard guard(mutex_);
    next_ = Job{std::move(document), std::move(about)};
  }
  changed_.notify_all();
}

void Keeper::flush() {
  std::unique_lock guard(mutex_);
  changed_.wait(guard, [&] { return !next_ && !writing_; });
}

void Keeper::drop() {
  {
    const std::lock_guard guard(mutex_);
    next_.reset();
  }
  flush();
  std::error_code error;
  for (const fs::path& file : written_) fs::remove(file, error);
  written_.clear();
}

std::optional<Problem> Keeper::write(const Job& job) {
  auto problem = keep_work(job.document, job.about);
  if (!problem) {
    const std::lock_guard guard(mutex_);
    if (std::find(written_.begin(), written_.end(), job.about.file) == written_.end())
      written_.push_back(job.about.file);
  }
  return problem;
}

void Keeper::work() {
  std::unique_lock guard(mutex_);
  for (;;) {
    changed_.wait(guard, [&] { return next_ || ending_; });
    if (!next_) return;
    const Job job = std::move(*next_);
    next_.reset();
    writing_ = true;
    const bool before = complained_;
    guard.unlock();
    std::optional<Problem> problem = write(job);
    if (problem && job.about.file != elsewhere()) {
      Job other{job.document, job.about};
      other.about.file = elsewhere();
      if (const auto again = write(other); !again)
        problem->remedy = "Until it can, unsaved work is kept in " + state_.string() + ".";
      else
        problem = again;
    }
    if (problem && !before) told_(*problem);
    guard.lock();
    complained_ = problem.has_value();
    writing_ = false;
    changed_.notify_all();
  }
}

} // namespace fulmox
