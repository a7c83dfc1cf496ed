#pragma once
#include "core/machine/supply_choice.hpp"

#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QTextBrowser>
#include <QWidget>

#include <memory>

namespace fulmox::app {

class Session;

/// What could feed a bus: kinds of supply and those of the library tried on the machine's own numbers, with
/// reasons; the schools beside them, what to do with what comes back, and what the installer must be told.
class SupplyPage : public QWidget {
  Q_OBJECT

public:
  explicit SupplyPage(Session& session, QWidget* parent = nullptr);
  void show_bus(std::shared_ptr<const MachineRun> run, std::size_t bus);
  [[nodiscard]] const std::vector<SupplyTrial>& trials() const { return trials_; }

signals:
  void moment_wanted(double time);

private:
  void start();
  void take(std::vector<SupplyTrial> trials);
  void fit_rows();
  void show_trial();
  void put_in();
  void tell();

  Session& session_;
  std::shared_ptr<const MachineRun> run_, asked_;
  std::size_t bus_ = 0, asked_bus_ = 0;
  std::vector<SupplyTrial> trials_;
  bool partial_ = false; ///< those of the library are still missing
  QTableWidget* list_;
  QTextBrowser *reasons_, *words_;
  QPushButton* put_in_;
  QLabel* told_;
};

} // namespace fulmox::app
