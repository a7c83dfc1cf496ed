#pragma once
#include <QLabel>
#include <QListWidget>
#include <QWidget>

namespace fulmox::app {

class Session;

/// Every limit as a rung, worst at the top, and the second look below.
class LadderPanel : public QWidget {
  Q_OBJECT

public:
  explicit LadderPanel(Session& session, QWidget* parent = nullptr);

private:
  void refresh();
  void choose(int row);

  Session& session_;
  QLabel *state_, *hint_;
  QListWidget* rungs_;
  QLabel* second_title_;
  QListWidget* second_;
};

} // namespace fulmox::app
