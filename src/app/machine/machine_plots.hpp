#pragma once
#include "core/machine/machine_run.hpp"

#include <QVector>
#include <QWidget>

#include <memory>
#include <optional>
#include <vector>

class QCPGraph;
class QCPItemText;

namespace fulmox::app {

class BusLegend;
class Plot;
class Session;
struct StackLayer;

/// Power of all axes of a bus one upon the other with their sum, and the bus's voltage below it, over the
/// machine's cycle or at switch-on.
class MachinePlots : public QWidget {
  Q_OBJECT

public:
  explicit MachinePlots(Session& session, QWidget* parent = nullptr);

  /// `left` px is where the timeline's bars begin: the plots stand on the same scale.
  void show_bus(std::shared_ptr<const MachineRun> run, std::size_t bus, int left);
  void show_start(bool start);
  void set_cursor(double time);
  void restyle();

signals:
  void cursor_set(double time);

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

private:
  /// What a picture is drawn from: drawn again only where it differs.
  struct Shown {
    std::size_t run = 0, bus = 0;
    bool complete = false;
    int left = 0, width = 0;
    bool operator==(const Shown&) const = default;
  };
  void draw_again();
  void draw_power();
  void draw_volts();
  void draw_start();
  void clear(Plot* plot);
  void fill(const QVector<double>& times, std::vector<StackLayer> layers);
  void mark(double time, double volts, const QString& text, bool alarm,
            Qt::Alignment side = Qt::AlignVCenter);

  Session& session_;
  std::shared_ptr<const MachineRun> run_;
  std::size_t bus_ = 0;
  bool start_ = false;
  std::optional<Shown> power_shown_, volts_shown_;
  Plot *power_, *volts_;
  BusLegend* legend_;
  QCPItemText* note_;
};

} // namespace fulmox::app
