#pragma once
#include "core/machine/machine_run.hpp"

#include <QLabel>
#include <QListWidget>
#include <QWidget>

#include <memory>

namespace fulmox::app {

class Session;

/// The machine's own limits as rungs, by bus, worst first; and below them what is left out or counts as idle.
class MachineLadder : public QWidget {
  Q_OBJECT

public:
  explicit MachineLadder(Session& session, QWidget* parent = nullptr);
  void show_machine(std::shared_ptr<const MachineRun> run, bool old);
  /// Marks the bus in view.
  void set_bus(std::size_t bus);

signals:
  /// A rung was chosen: its bus, its moment if it has one, and the input that governs it ("" for none).
  void chosen(std::size_t bus, double time, const QString& input);

private:
  void fill();
  void add_heading(const QString& text);
  void add_rung(const Limit& limit, std::size_t bus);
  [[nodiscard]] QString tip_of(const Limit& limit, std::size_t bus) const;
  [[nodiscard]] QString input_of(const Limit& limit, std::size_t bus) const;

  Session& session_;
  std::shared_ptr<const MachineRun> run_;
  std::size_t bus_ = 0;
  QLabel *told_, *remarks_;
  QListWidget* rungs_;
};

} // namespace fulmox::app
