#pragma once
#include "core/bus/bus_run.hpp"
#include "core/bus/stepper.hpp"

#include <cmath>
#include <optional>
#include <span>
#include <vector>

namespace fulmox::bus {

inline constexpr double moment = 1e-12; // s: times closer than this are one

/// Conduction ends and begins where mains and bus differ by no more than this share of the bus.
inline constexpr double conduction_within = 1e-7;

/// A place and the value there.
struct Bound {
  double at = 0.0, value = 0.0;
};
/// Where f is met between a place at which it is not above 0 and one at which it is: secants within the
/// bracket (Illinois), until |f| is within `close` or the bracket within `narrow`.
template <class F> double met_within(const F& f, Bound low, Bound high, double close, double narrow) {
  constexpr int most = 60;
  for (int i = 0; i < most && high.at - low.at > narrow; ++i) {
    double middle = low.at - low.value * (high.at - low.at) / (high.value - low.value);
    if (!(middle > low.at && middle < high.at)) middle = 0.5 * (low.at + high.at);
    const double value = f(middle);
    if (std::abs(value) <= close) return middle; // before the bracket moves: an exact hit is kept
    if (value > 0.0) {
      high = {middle, value};
      low.value *= 0.5;
    } else {
      low = {middle, value};
      high.value *= 0.5;
    }
  }
  return high.at;
}

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
  struct Coasting;
  [[nodiscard]] Coasting coasting_to(double end) const;
  [[nodiscard]] std::optional<double> meets(const Coasting& coasting, const Event& event, double stop) const;
  [[nodiscard]] std::optional<double> conducts(const Coasting& coasting, double stop) const;
  void follow(const Coasting& coasting, double stop);
  void note_bled(const Coasting& coasting, double stop);
  bool step_once(double until);
  double locate(const Event& event, double h) const;
  void apply(const Event& event);
  void commit(const StepTaken& taken, double h, bool at_level, double level);
  void note_extreme(double volts, double time);
  void note_limit(double from, double to);
  void note_power(double from, double supplied, double burnt);
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
