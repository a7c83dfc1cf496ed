#pragma once
#include "core/bus/bus_run.hpp"
#include "core/bus/stepper.hpp"

#include <span>
#include <vector>

namespace fulmox::bus {

/// Takes a bus through time: steps while something flows in, exact stretches where nothing does; the switches
/// of chopper, supply and loads at the moment their voltage is met.
class Runner {
public:
  /// The power repeats beyond its period; loads come on top of it.
  Runner(const BusModel& bus, const PowerCurve& power, double tolerance,
         std::span<const ThresholdLoad> loads = {});

  void begin(double volts, double time = 0.0);
  /// Forgets what was counted, not where the bus is.
  void forget();
  /// On to a time, `power`'s own; false where the bus collapses before. Times are those of the period.
  bool run(double until);

  [[nodiscard]] double volts() const { return volts_; }
  [[nodiscard]] double time() const { return time_; }
  [[nodiscard]] Switches switches() const { return on_; }
  [[nodiscard]] std::size_t loads_on() const;
  /// The same bus at the start of its next period.
  void back_to_start();

  BusRun counted; ///< since forget()
  int load_switches = 0;

private:
  struct Event {
    enum class What : std::uint8_t { chopper, supply, conduction, load } what = What::supply;
    std::size_t load = 0;
    double level = 0.0; ///< V
    double sign = 1.0;  ///< +1: met from below
  };

  [[nodiscard]] double watts(double time) const;
  [[nodiscard]] double drawn(double from, double to) const;
  [[nodiscard]] double slope(double time, double volts) const;
  [[nodiscard]] bool one_way_regulated() const;
  [[nodiscard]] bool may_coast() const;
  [[nodiscard]] double crossed(const Event& event, double volts, double time) const;
  void list_events();
  bool coast(double until);
  bool step_once(double until);
  double locate(const Event& event, double h) const;
  void apply(const Event& event);
  void commit(const StepTaken& taken, double h, bool at_level, double level);
  void note_extreme(double volts, double time);
  void note_limit(double from, double to);
  void sample(double amps);
  [[nodiscard]] double next_border(double until) const;
  void enter(std::size_t piece);

  const BusModel& bus_;
  const PowerCurve& power_;
  double tolerance_;
  std::span<const ThresholdLoad> loads_;
  std::vector<bool> load_on_;
  double extra_ = 0.0; ///< W of the loads that are on
  double scale_ = 0.0; ///< V, against which errors are weighed
  double energy_scale_ = 0.0;
  double time_ = 0.0, volts_ = 0.0, h_ = 0.0;
  std::size_t piece_ = 0;
  Series energy_; ///< J from the start of the piece, loads apart
  std::vector<double>
      turns_; ///< s, where the power of the piece turns: a stiff bus is least or greatest there
  Switches on_;
  bool above_ = false; ///< a diode-fed bus stands above what its supply makes
  bool conducting_ = false;
  double limit_since_ = std::numeric_limits<double>::quiet_NaN();
  double off_until_ = std::numeric_limits<double>::quiet_NaN();
  std::size_t events_without_end_ = 0; ///< rounds of the loop since begin()
  int at_once_ = 0;                    ///< events without time between them
  std::vector<Event> events_;
};

} // namespace fulmox::bus
