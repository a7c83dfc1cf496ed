#pragma once
#include <QLabel>
#include <QWidget>

namespace fulmox::app {

class Session;

/// What an empty machine or axis shows: what to enter first, and three examples to start from.
class Welcome : public QWidget {
  Q_OBJECT

public:
  explicit Welcome(Session& session, QWidget* parent = nullptr);

signals:
  void example_wanted(const QString& name);

private:
  void refresh();

  Session& session_;
  QLabel* steps_;
};

} // namespace fulmox::app
