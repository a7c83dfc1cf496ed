#pragma once
#include "core/machine/machine_run.hpp"

#include <QButtonGroup>
#include <QComboBox>
#include <QLabel>
#include <QStackedWidget>
#include <QWidget>

namespace fulmox::app {

class MachineGivens;
class MachineLadder;
class MachinePlots;
class MachineWorking;
class OverviewPage;
class Session;
class StartsPage;
class SteadyText;
class SupplyPage;
class Timeline;
class WorkingPanel;

/// All axes on one supply: their cycles on one timeline, power and voltage of each bus, the axes side by
/// side, what could feed a bus, and which starts lower its peak.
class MachineView : public QWidget {
  Q_OBJECT

public:
  explicit MachineView(Session& session, QWidget* parent = nullptr);
  [[nodiscard]] Timeline* timeline() { return timeline_; }
  /// "timeline", "axes", "supply", "starts".
  void show_page(int page);
  [[nodiscard]] std::size_t bus() const { return bus_; }
  /// The working of the limit in use, below the ladder.
  void show_working();
  void close_working();

protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

private:
  void build();
  QWidget* timeline_page();
  QWidget* right_side();
  void fit_sides();
  void refresh();
  void show_bus(std::size_t bus);
  void list_buses();
  void tell();
  void set_cursor(double time);
  void open_axis(std::size_t axis);

  Session& session_;
  MachineGivens* givens_;
  MachineLadder* ladder_;
  MachineWorking* source_; ///< the panel owns it
  WorkingPanel* working_;
  QWidget* right_ = nullptr;
  Timeline* timeline_;
  MachinePlots* plots_;
  OverviewPage* overview_;
  SupplyPage* supply_;
  StartsPage* starts_;
  QStackedWidget* pages_;
  QButtonGroup* switch_;
  QComboBox* bus_box_;
  SteadyText *head_, *numbers_;
  QLabel* cursor_told_;
  std::size_t bus_ = 0;
};

} // namespace fulmox::app
