#pragma once
#include "app/jobs/jobs.hpp"

#include <QTimer>
#include <QWidget>

#include <functional>

namespace fulmox::app {

class Session;

/// A page that works something out beyond the evaluation: beside the window, shortly after the last change
/// and only while it is seen, so that typing stays as fast as without it.
class StudyPage : public QWidget {
  Q_OBJECT

public:
  explicit StudyPage(Session& session, QWidget* parent = nullptr);

  /// Works out and shows at once, for pictures and tests.
  void work_out_now();

protected:
  using Show = std::function<void()>;               ///< shows an answer
  using Work = std::function<Show(const JobLink&)>; ///< finds it; touches nothing but its own copies
  /// What is to be worked out now; nothing where there is nothing to ask, or the page shows it already.
  virtual Work question() = 0;
  /// Works out shortly, or when seen again.
  void outdate();
  /// Works out now, beside the window; an earlier question is dropped.
  void ask();
  void showEvent(QShowEvent* event) override;
  [[nodiscard]] Session& session() const { return session_; }

private:
  Session& session_;
  QTimer timer_;
  bool outdated_ = true;
};

} // namespace fulmox::app
