#pragma once
#include "core/machine/machine_run.hpp"

#include <QTableWidget>
#include <QToolButton>
#include <QWidget>

#include <memory>

namespace fulmox::app {

class Session;

/// All axes of the machine in one table; a row leads to its axis. Buses are chosen here, axes copied, moved,
/// renamed, deleted and taken from another file.
class OverviewPage : public QWidget {
  Q_OBJECT

public:
  explicit OverviewPage(Session& session, QWidget* parent = nullptr);
  /// `fed`: the axes judged on their real buses.
  void show_machine(std::shared_ptr<const MachineRun> run, const MachineResult& results,
                    const MachineResult& fed);

signals:
  void axis_wanted(std::size_t axis);

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void fit_columns();
  void fill_row(int row, const MachineResult& results);
  void fill_worst(int row, const Evaluation* e);
  void fill_bus(int row, int column, const char* field);
  void rename();
  void remove();
  void take_from_file();
  [[nodiscard]] std::size_t row() const;

  Session& session_;
  std::shared_ptr<const MachineRun> run_;
  MachineResult fed_;
  QTableWidget* table_;
  std::vector<QToolButton*> tools_;
};

} // namespace fulmox::app
