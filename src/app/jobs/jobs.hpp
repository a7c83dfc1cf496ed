#pragma once
#include <QHash>
#include <QObject>
#include <QString>
#include <QThreadPool>

#include <atomic>
#include <functional>
#include <memory>

namespace fulmox::app {

class Jobs;

/// What a job may do while it runs in its own thread. It works on copies only: of the document, of nothing
/// that the window changes meanwhile.
class JobLink {
public:
  /// False once it was cancelled or a newer job of its name was started: the rest is not worth the time.
  [[nodiscard]] bool wanted() const { return state_->wanted; }
  /// How much of it is done, 0 … 1.
  void progress(double share) const;
  /// Runs `then` in the window's thread, unless the job is not wanted any more by then.
  void deliver(std::function<void()> then) const;

private:
  friend class Jobs;
  struct State {
    std::atomic<bool> wanted = true;
    std::atomic<double> share = 0.0;
    QString name;
    Jobs* jobs = nullptr;
  };
  explicit JobLink(std::shared_ptr<State> state) : state_(std::move(state)) {}
  std::shared_ptr<State> state_;
};

/// In a thread that works beside the window on every core there is: gives way to it, so that what is typed is
/// seen at once.
void step_back();

/// Work beside the window. Each job has a name; of those with the same name the newest wins.
class Jobs : public QObject {
  Q_OBJECT

public:
  using Work = std::function<void(const JobLink&)>;

  explicit Jobs(QObject* parent = nullptr);
  ~Jobs() override;

  void start(const QString& name, Work work);
  void cancel(const QString& name);
  [[nodiscard]] bool running(const QString& name) const { return newest_.contains(name); }
  [[nodiscard]] bool idle() const { return newest_.isEmpty(); }
  /// 0 … 1; 1 when no such job runs.
  [[nodiscard]] double progress(const QString& name) const;
  /// Waits until nothing runs and all results are there: for pictures, tests and what must be complete.
  void wait();

signals:
  void progressed(const QString& name, double share);
  /// Ran to its end; not told of a job that was cancelled.
  void finished(const QString& name);

private:
  friend class JobLink;
  void end(const std::shared_ptr<JobLink::State>& state);

  QHash<QString, std::shared_ptr<JobLink::State>> newest_;
  QThreadPool pool_;
};

} // namespace fulmox::app
