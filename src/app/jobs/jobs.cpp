#include "app/jobs/jobs.hpp"

#include <QCoreApplication>
#include <QThread>

#include <algorithm>
#include <exception>
#include <sys/resource.h>
#include <unistd.h>

namespace fulmox::app {

void step_back() {
  constexpr int niceness = 10;
  setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), niceness);
}

void JobLink::progress(double share) const {
  // told again only when it can be seen
  constexpr double seen = 0.01;
  if (share < 1.0 && share - state_->share < seen) return;
  state_->share = share;
  deliver([state = state_, share] { emit state->jobs->progressed(state->name, share); });
}

void JobLink::deliver(std::function<void()> then) const {
  // cancelling and delivering happen in one thread, so nothing comes between the look and the call
  QMetaObject::invokeMethod(
      state_->jobs,
      [state = state_, then = std::move(then)] {
        if (state->wanted) then();
      },
      Qt::QueuedConnection);
}

Jobs::Jobs(QObject* parent) : QObject(parent) {
  // one processor stays with the window
  pool_.setMaxThreadCount(std::max(1, QThread::idealThreadCount() - 1));
  pool_.setThreadPriority(QThread::LowPriority);
}

Jobs::~Jobs() {
  for (const auto& state : newest_) state->wanted = false;
  pool_.clear();
  pool_.waitForDone();
}

void Jobs::start(const QString& name, Work work) {
  cancel(name);
  auto state = std::make_shared<JobLink::State>();
  state->name = name;
  state->jobs = this;
  newest_.insert(name, state);
  pool_.start([state, work = std::move(work)] {
    const JobLink link(state);
    try {
      if (link.wanted()) work(link);
    } catch (const std::exception& e) {
      qWarning("job %s: %s", qPrintable(state->name), e.what());
    }
    QMetaObject::invokeMethod(
        state->jobs, [state] { state->jobs->end(state); }, Qt::QueuedConnection);
  });
}

void Jobs::cancel(const QString& name) {
  const auto known = newest_.find(name);
  if (known == newest_.end()) return;
  (*known)->wanted = false;
  newest_.erase(known);
}

void Jobs::end(const std::shared_ptr<JobLink::State>& state) {
  const auto known = newest_.find(state->name);
  if (known == newest_.end() || *known != state) return;
  newest_.erase(known);
  emit finished(state->name);
}

double Jobs::progress(const QString& name) const {
  const auto known = newest_.find(name);
  return known == newest_.end() ? 1.0 : (*known)->share.load();
}

void Jobs::wait() {
  while (!idle()) {
    pool_.waitForDone();
    QCoreApplication::sendPostedEvents(this); // delivers, and may start the next one
  }
}

} // namespace fulmox::app
