// Work beside the window: the newest of a name wins, what is not wanted any more is never shown.

#include "app/jobs/jobs.hpp"

#include <catch2/catch.hpp>

#include <QSignalSpy>
#include <QThread>

#include <atomic>
#include <stdexcept>

using namespace fulmox::app;

TEST_CASE("a job runs in its own thread and hands over in the window's") {
  Jobs jobs;
  QSignalSpy finished(&jobs, &Jobs::finished);
  QSignalSpy progressed(&jobs, &Jobs::progressed);
  QThread* there = nullptr;
  QThread* here = nullptr;
  jobs.start("a", [&](const JobLink& link) {
    there = QThread::currentThread();
    link.progress(0.5);
    link.progress(0.501); // nobody could see that
    link.deliver([&] { here = QThread::currentThread(); });
    link.progress(1.0);
  });
  CHECK(jobs.running("a"));
  CHECK_FALSE(jobs.idle());
  jobs.wait();
  CHECK(jobs.idle());
  CHECK(here == QThread::currentThread());
  CHECK(there != here);
  CHECK(finished.count() == 1);
  CHECK(progressed.count() == 2);
  CHECK(jobs.progress("a") == 1.0);
}

TEST_CASE("the newest job of a name wins, also over one that is done but not handed over") {
  Jobs jobs;
  int shown = 0;
  for (int i = 1; i <= 20; ++i)
    jobs.start("a", [&, i](const JobLink& link) { link.deliver([&, i] { shown += 100 + i; }); });
  QThread::msleep(20); // some have run to their end by now
  int other = 0;
  jobs.start("b", [&](const JobLink& link) { link.deliver([&] { other = 1; }); });
  jobs.wait();
  CHECK(shown == 120);
  CHECK(other == 1);
}

TEST_CASE("a job that is cancelled sees it, and nothing of it is shown") {
  Jobs jobs;
  QSignalSpy finished(&jobs, &Jobs::finished);
  std::atomic<bool> started = false, stopped = false;
  bool shown = false;
  jobs.start("a", [&](const JobLink& link) {
    started = true;
    while (link.wanted()) QThread::msleep(1);
    stopped = true;
    link.deliver([&] { shown = true; });
  });
  while (!started) QThread::msleep(1);
  jobs.cancel("a");
  CHECK_FALSE(jobs.running("a"));
  jobs.start("b", [](const JobLink&) {});
  jobs.wait();
  CHECK(stopped);
  CHECK_FALSE(shown);
  CHECK(finished.count() == 1); // that of b
}

TEST_CASE("a job that throws ends like any other, and going away waits for what runs") {
  std::atomic<bool> ended = false;
  {
    Jobs jobs;
    jobs.start("a", [](const JobLink&) { throw std::runtime_error("planted"); });
    jobs.wait();
    CHECK(jobs.idle());
    std::atomic<bool> started = false;
    jobs.start("b", [&](const JobLink& link) {
      started = true;
      while (link.wanted()) QThread::msleep(1);
      ended = true;
    });
    while (!started) QThread::msleep(1);
  }
  CHECK(ended);
}
