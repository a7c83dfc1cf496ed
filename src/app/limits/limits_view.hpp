#pragma once

#include "core/evaluation/forgotten.hpp"

#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QTableWidget>
#include <QWidget>

namespace fulmox::app {

class Session;

/// Every limit as typed and at its worst corner, and what is often forgotten and still open.
class LimitsView : public QWidget {
  Q_OBJECT

public:
  explicit LimitsView(Session& session, QWidget* parent = nullptr);

private:
  void refresh();
  void show_corners();
  void show_forgotten();

  Session& session_;
  void show_proposal();
  void take_proposal();

  QLabel *told_, *open_, *proposed_;
  QPushButton* take_;
  QTableWidget* corners_;
  QListWidget* forgotten_;
  std::vector<std::string> mainly_; ///< path by row of the table
};

} // namespace fulmox::app
