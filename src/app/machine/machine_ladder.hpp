#pragma once
#include "core/machine/machine_run.hpp"

#include <QLabel>
#include <QListWidget>
#include <QWidget>

#include <memory>
#include <optional>

namespace fulmox::app {

class Session;
class SteadyText;

/// The machine's own limits as rungs, by bus, worst first; and below them what is left out or counts as idle.
class MachineLadder : public QWidget {
  Q_OBJECT

public:
  explicit MachineLadder(Session& session, QWidget* parent = nullptr);
  void show_machine(std::shared_ptr<const MachineRun> run, bool old);
  /// Marks the bus in view.
  void set_bus(std::size_t bus);
  /// Asks for the working of the rung in use, or of the first.
  void show_working();

signals:
  /// A rung was chosen: its bus, its moment if it has one, and the input that governs it ("" for none).
  void chosen(std::size_t bus, double time, const QString& input);
  /// Its working is asked for; without a bus it is one of the machine itself.
  void working_wanted(std::optional<std::size_t> bus, const QString& step);

private:
  void fill();
  void add_heading(const QString& text, std::size_t bus);
  [[nodiscard]] std::vector<std::size_t> order_of_buses() const;
  void add_bus(std::size_t bus);
  void add_rung(const Limit& limit, std::size_t bus, bool of_machine);
  void ask_for_working(const QListWidgetItem& item);
  [[nodiscard]] static QString tip_of(const Limit& limit);

  Session& session_;
  std::shared_ptr<const MachineRun> run_;
  std::size_t bus_ = 0;
  SteadyText* title_;
  QLabel* remarks_;
  QListWidget* rungs_;
};

} // namespace fulmox::app
