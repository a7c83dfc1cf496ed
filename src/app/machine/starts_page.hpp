#pragma once
#include "core/machine/machine_run.hpp"
#include "core/machine/staggering.hpp"

#include <QCheckBox>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QWidget>

#include <memory>

namespace fulmox::app {

class Session;

/// What other starts would do to a bus: the worst alignment, the least peak for each length of the machine's
/// cycle with its sensitivity to jitter, and one click to take one of them.
class StartsPage : public QWidget {
  Q_OBJECT

public:
  explicit StartsPage(Session& session, QWidget* parent = nullptr);
  void show_bus(std::shared_ptr<const MachineRun> run, std::size_t bus);
  [[nodiscard]] const std::vector<StaggerPoint>& front() const { return front_; }

private:
  void start();
  void take(StaggerAsked asked, std::vector<StaggerPoint> front);
  void tell();
  void put_in();

  Session& session_;
  std::shared_ptr<const MachineRun> run_, asked_run_;
  std::size_t bus_ = 0;
  StaggerAsked asked_;
  std::vector<StaggerPoint> front_;
  QLabel *worst_, *told_, *caution_;
  QCheckBox* returns_;
  QTableWidget *table_, *starts_;
  QPushButton* put_in_;
};

} // namespace fulmox::app
