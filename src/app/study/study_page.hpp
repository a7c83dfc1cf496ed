#pragma once
#include <QTimer>
#include <QWidget>

namespace fulmox::app {

class Session;

/// A page that works something out beyond the evaluation. It does so shortly after the last change and only
/// while it is seen, so that typing stays as fast as without it.
class StudyPage : public QWidget {
  Q_OBJECT

public:
  explicit StudyPage(Session& session, QWidget* parent = nullptr);

  /// Works out at once, for pictures and tests.
  void work_out_now();

protected:
  virtual void work_out() = 0;
  /// Works out shortly, or when seen again.
  void outdate();
  void showEvent(QShowEvent* event) override;
  [[nodiscard]] Session& session() const { return session_; }

private:
  Session& session_;
  QTimer timer_;
  bool outdated_ = true;
};

} // namespace fulmox::app
