#pragma once
#include "core/keeping/kept_work.hpp"

#include <condition_variable>
#include <functional>
#include <mutex>
#include <thread>

namespace fulmox {

/// Keeps the unsaved work of one session aside, in a thread of its own: whoever edits never waits for a disk.
class Keeper {
public:
  /// `state` is the user's folder for work without a file; made when it is not there. `told` gets, from the
  /// writing thread, what keeps the work from being kept, once until it works again.
  Keeper(std::filesystem::path state, std::function<void(const Problem&)> told);
  /// What was handed over is written; the side file stays: nobody has said what should become of it.
  ~Keeper();
  Keeper(const Keeper&) = delete;
  Keeper& operator=(const Keeper&) = delete;

  /// From now on the work belongs to this file, "" for none yet. What was kept before is dropped. False when
  /// somebody else works on that file: then its side file is left to them.
  bool attach(const std::filesystem::path& machine);
  /// Whether this session is the one that works on its file.
  [[nodiscard]] bool alone() const { return alone_; }

  /// Hands over the work as it is now.
  void keep(Document document, int changes);
  /// The work is saved or given up: its side file goes.
  void drop();
  /// Waits until everything handed over is written.
  void flush();
  /// Where the work is kept, or would be.
  [[nodiscard]] std::filesystem::path side_file() const;

private:
  struct Job {
    Document document;
    KeptWork about;
  };
  void work();
  std::optional<Problem> write(const Job& job);
  [[nodiscard]] std::filesystem::path elsewhere() const;

  const std::filesystem::path state_;
  const std::function<void(const Problem&)> told_;
  std::filesystem::path machine_;
  LockFile lock_;
  LockFile elsewhere_lock_; ///< marks the file in the state folder as ours
  bool alone_ = true;
  const unsigned number_; ///< tells the sessions of one process apart

  mutable std::mutex mutex_;
  std::condition_variable changed_;
  std::optional<Job> next_;
  bool writing_ = false, ending_ = false, complained_ = false;
  std::vector<std::filesystem::path> written_;
  std::thread thread_; ///< last: it uses all the others
};

} // namespace fulmox
