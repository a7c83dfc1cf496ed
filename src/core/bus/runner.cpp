#include "core/bus/runner.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox::bus {
namespace {

constexpr double least_step = 1e-9; // s: a bus that needs shorter ones has collapsed
constexpr double slow_leak = 0.01;  // of V² in a pulse: a series follows what a bleeder takes

} // namespace

Runner::Runner(const BusModel& bus, const PowerCurve& power, double tolerance,
               std::span<const ThresholdLoad> loads)
    : bus_(bus), power_(power), tolerance_(tolerance), loads_(loads), load_on_(loads.size(), false),
      scale_(bus.supply.highest()),
      energy_scale_(std::max(0.5 * bus.capacitance * scale_ * scale_,
                             1e-3 * std::abs(mean_power(power)) * power.period())) {}

void Runner::begin(double volts, double time) {
  volts_ = volts;
  time_ = time;
  enter(power_.piece_at(time));
  h_ = 1e-5;
  events_without_end_ = 0;
  above_ = volts_ > bus_.supply.highest();
  forget();
}

void Runner::enter(std::size_t piece) {
  piece_ = piece;
  turns_.clear();
  const PowerPiece& entered = power_.pieces[piece];
  energy_ = entered.watts.antiderivative();
  energy_ *= 0.5 * entered.length();
  if (entered.watts.size() < 3) return;
  for (const double u : entered.watts.turning_points())
    if (u > -1.0 && u < 1.0) turns_.push_back(entered.time(u));
}

void Runner::back_to_start() {
  time_ = 0.0;
  enter(0);
  limit_since_ -= power_.period();
  off_until_ -= power_.period();
}

void Runner::forget() {
  counted = {};
  counted.lowest = counted.highest = volts_;
  counted.lowest_at = counted.highest_at = time_;
  sample(supply_current(bus_, volts_, bus_.supply.open(time_), on_));
}

std::size_t Runner::loads_on() const {
  return static_cast<std::size_t>(std::count(load_on_.begin(), load_on_.end(), true));
}

double Runner::watts(double time) const {
  const PowerPiece& piece = power_.pieces[piece_];
  return piece.at(std::clamp(time, piece.from, piece.to)) + extra_;
}

double Runner::drawn(double from, double to) const {
  const PowerPiece& piece = power_.pieces[piece_];
  const auto until = [&](double t) { return energy_(std::clamp(piece.share(t), -1.0, 1.0)); };
  return until(to) - until(from) + extra_ * (to - from);
}

double Runner::slope(double time, double volts) const {
  const double conductance =
      1.0 / bus_.bleeder + (on_.chopper && bus_.chopper ? 1.0 / bus_.chopper->resistance : 0.0);
  const double load = volts > 0.0 ? watts(time) / volts : 0.0;
  return (supply_current(bus_, volts, bus_.supply.open(time), on_) - load - volts * conductance) /
         bus_.capacitance;
}

bool Runner::one_way_regulated() const {
  return bus_.supply.kind == BusSupply::Kind::regulated && bus_.supply.sink == 0.0;
}

bool Runner::may_coast() const {
  if (on_.chopper || !loads_.empty() || volts_ <= 0.0) return false;
  if (bus_.supply.kind == BusSupply::Kind::rectifier)
    return !conducting_ && 2.0 * bus_.supply.pulse() <= slow_leak * bus_.bleeder * bus_.capacitance;
  if (!std::isinf(bus_.bleeder)) return false;
  return on_.supply_off || (one_way_regulated() && above_);
}

double Runner::next_border(double until) const {
  double border = std::min(until, power_.pieces[piece_].to);
  for (const double turn : turns_)
    if (turn > time_ + moment) {
      border = std::min(border, turn);
      break;
    }
  if (on_.supply_off) border = std::min(border, off_until_);
  if (!on_.supply_off && !std::isnan(limit_since_))
    border = std::min(border, limit_since_ + bus_.supply.trip_time);
  if (bus_.supply.kind == BusSupply::Kind::rectifier) {
    const double pulse = bus_.supply.pulse();
    const double shift = bus_.supply.phase / (2.0 * std::numbers::pi * bus_.supply.frequency);
    double next = (std::floor((time_ + shift) / pulse + 1e-9) + 1.0) * pulse - shift;
    if (next - time_ < moment) next += pulse;
    border = std::min(border, next);
  }
  return border;
}

void Runner::list_events() {
  events_.clear();
  if (bus_.chopper)
    events_.push_back(on_.chopper ? Event{Event::What::chopper, 0, bus_.chopper->off, -1.0}
                                  : Event{Event::What::chopper, 0, bus_.chopper->on, 1.0});
  if (one_way_regulated() && !on_.supply_off)
    events_.push_back({Event::What::supply, 0, bus_.supply.volts, above_ ? -1.0 : 1.0});
  if (bus_.supply.kind == BusSupply::Kind::rectifier)
    events_.push_back({Event::What::conduction, 0, 0.0, conducting_ ? -1.0 : 1.0});
  for (std::size_t i = 0; i < loads_.size(); ++i)
    events_.push_back(
        {Event::What::load, i, load_on_[i] ? loads_[i].off : loads_[i].on, load_on_[i] ? -1.0 : 1.0});
}

double Runner::crossed(const Event& event, double volts, double time) const {
  if (event.what == Event::What::conduction) return event.sign * (bus_.supply.open(time) - volts);
  return event.sign * (volts - event.level);
}

/// The h at which the event is met.
double Runner::locate(const Event& event, double h) const {
  const auto value = [&](double part) {
    const auto taken = step(
        bus_, time_, volts_, part, [this](double t) { return watts(t); }, on_);
    return taken ? crossed(event, taken->volts, time_ + part) : HUGE_VAL;
  };
  const double close = event.what == Event::What::conduction ? conduction_within : 1e-10;
  return met_within(value, {0.0, crossed(event, volts_, time_)}, {h, value(h)}, close * scale_,
                    1e-13 * std::max(h, 1e-6));
}

void Runner::apply(const Event& event) {
  switch (event.what) {
  case Event::What::chopper:
    on_.chopper = !on_.chopper;
    if (on_.chopper) ++counted.switched;
    break;
  case Event::What::supply:
    above_ = !above_;
    break;
  case Event::What::conduction:
    conducting_ = !conducting_;
    break;
  case Event::What::load:
    load_on_[event.load] = !load_on_[event.load];
    if (load_on_[event.load]) ++load_switches;
    extra_ += load_on_[event.load] ? loads_[event.load].power : -loads_[event.load].power;
    if (loads_on() == 0) extra_ = 0.0;
    break;
  }
}

void Runner::note_extreme(double volts, double time) {
  if (volts < counted.lowest) counted.lowest = volts, counted.lowest_at = time;
  if (volts > counted.highest) counted.highest = volts, counted.highest_at = time;
}

void Runner::sample(double amps) { counted.samples.push_back({time_, volts_, amps, on_.chopper}); }

/// Keeps account of how long the supply is in its limit, and trips it.
void Runner::note_limit(double from, double to) {
  if (!in_limit(bus_, volts_, on_)) {
    limit_since_ = std::numeric_limits<double>::quiet_NaN();
    return;
  }
  if (std::isnan(limit_since_)) limit_since_ = from;
  counted.limit_time += to - from;
  if (to - limit_since_ > counted.longest_limit) {
    counted.longest_limit = to - limit_since_;
    counted.limit_at = limit_since_;
  }
  if (!on_.supply_off && to - limit_since_ >= bus_.supply.trip_time - moment) {
    on_.supply_off = true;
    off_until_ = to + bus_.supply.off_time;
    ++counted.trips;
  } else if (on_.supply_off && to >= off_until_ - moment) {
    on_.supply_off = false;
    limit_since_ = std::numeric_limits<double>::quiet_NaN();
    above_ = volts_ > bus_.supply.highest();
  }
}

/// Where two ends and their slopes put the extreme of a cubic between them, if there is one.
static std::optional<std::array<double, 2>> extreme_between(double v0, double s0, double v1, double s1,
                                                            double h) {
  if (!(s0 * s1 < 0.0)) return std::nullopt;
  // p(x) = v0 + x·h·s0 + x²·(3d − 2h·s0 − h·s1) + x³·(h·s0 + h·s1 − 2d)
  const double d = v1 - v0, square = 3.0 * d - 2.0 * h * s0 - h * s1, cube = h * (s0 + s1) - 2.0 * d;
  const double root = std::sqrt(std::max(0.0, square * square - 3.0 * cube * h * s0));
  // of the two turning points the one between the ends; written so that nothing cancels
  const double q = -(square + std::copysign(root, square));
  for (const double x : {q / (3.0 * cube), h * s0 / q})
    if (x > 0.0 && x < 1.0) return std::array{x * h, v0 + x * (h * s0 + x * (square + x * cube))};
  return std::nullopt;
}

void Runner::note_power(double from, double supplied, double burnt) {
  const auto add = [&](PowerCurve& curve, double watts) {
    if (watts == 0.0 && !curve.pieces.empty() && curve.pieces.back().watts.bound() == 0.0)
      curve.pieces.back().to = time_;
    else
      curve.pieces.push_back({from, time_, Series::through(std::array{watts})});
  };
  if (bus_.supply.kind == BusSupply::Kind::regulated) add(counted.supply_power, supplied);
  if (bus_.chopper) add(counted.resistor_power, burnt);
}

void Runner::commit(const StepTaken& taken, double h, bool at_level, double level) {
  // a stiff source follows the power at once: slopes say nothing there, and steps end where the power turns
  const bool stiff = h > bus_.supply.resistance * bus_.capacitance;
  const double before = volts_, start = time_, slope_before = stiff ? 0.0 : slope(start, before);
  volts_ = at_level ? level : taken.volts;
  time_ += h;
  note_extreme(volts_, time_);
  const auto turn =
      stiff ? std::nullopt : extreme_between(before, slope_before, volts_, slope(time_, volts_), h);
  if (turn) {
    note_extreme((*turn)[1], start + (*turn)[0]);
    counted.samples.push_back({start + (*turn)[0], (*turn)[1], taken.amps, on_.chopper});
  }
  counted.supplied += taken.supplied;
  counted.burnt += taken.burnt;
  counted.bled += taken.bled;
  counted.rms_current += taken.current_squared; // the root is taken at the end
  counted.balance += taken.supplied - taken.burnt - taken.bled - drawn(start, time_) -
                     0.5 * bus_.capacitance * (taken.volts - before) * (taken.volts + before);
  if (taken.supplied < 0.0) counted.taken_back -= taken.supplied;
  if (taken.most_current > counted.most_current) {
    counted.most_current = taken.most_current;
    counted.most_current_at = time_;
  }
  note_power(start, taken.supplied / h, taken.burnt / h);
  note_limit(start, time_);
  sample(taken.amps);
}

/// false: the bus has collapsed.
bool Runner::step_once(double until) {
  const double border = next_border(until);
  double limit = border - time_;
  if (bus_.supply.kind == BusSupply::Kind::rectifier) limit = std::min(limit, bus_.supply.pulse() / 8.0);
  if (!loads_.empty()) limit = std::min(limit, 1e-3); // thresholds are looked for at the ends of steps
  const auto power = [this](double t) { return watts(t); };
  double h = std::min(h_, limit);
  if (limit - h < 0.1 * h) h = limit;
  for (;;) {
    if (h < least_step && h < limit) return false;
    const auto taken = step(bus_, time_, volts_, h, power, on_);
    if (!taken) {
      h *= 0.25;
      continue;
    }
    const double worst = std::max(std::abs(taken->error) / (tolerance_ * scale_),
                                  std::abs(taken->energy_error) / (tolerance_ * energy_scale_));
    const double factor = worst > 0.0 ? std::clamp(0.9 * std::cbrt(1.0 / worst), 0.2, 4.0) : 4.0;
    if (worst > 1.0) {
      h *= factor;
      continue;
    }
    list_events();
    double at = h;
    std::optional<Event> met;
    for (const Event& event : events_) {
      if (!(crossed(event, taken->volts, time_ + h) > 0.0)) continue;
      if (crossed(event, volts_, time_) >= -1e-13 * scale_ && at_once_ < 4) {
        ++at_once_;
        apply(event); // it is met where the step begins
        return true;
      }
      if (const double place = locate(event, h); place < at) at = place, met = event;
    }
    at_once_ = 0;
    if (!met) {
      const bool cut = h >= limit, at_border = h >= border - time_;
      commit(*taken, h, false, 0.0);
      if (at_border) time_ = border;
      if (!cut || factor < 1.0)
        h_ = h * factor;
      else
        h_ = std::max(h_, h * factor);
      return true;
    }
    const auto shorter = step(bus_, time_, volts_, at, power, on_);
    if (!shorter) return false;
    commit(*shorter, at, met->what != Event::What::conduction, met->level);
    apply(*met);
    h_ = std::max(h_ * 0.5, 1e-7);
    return true;
  }
}

bool Runner::run(double until) {
  constexpr std::size_t most_samples = 500'000; // some hundred megabytes
  while (until - time_ > moment) {
    if (counted.samples.size() > most_samples || ++events_without_end_ > 8 * most_samples) {
      counted.gave_up = true;
      return false;
    }
    while (piece_ + 1 < power_.pieces.size() && power_.pieces[piece_].to - time_ <= moment) enter(piece_ + 1);
    if (on_.supply_off && off_until_ - time_ <= moment) note_limit(time_, time_);
    if (may_coast()) {
      if (coast(until)) {
        if (volts_ > 0.0) continue;
      } else if (!on_.supply_off && above_) {
        above_ = false;
        continue;
      }
    }
    if (!step_once(until)) {
      counted.collapsed = true;
      counted.collapsed_at = time_;
      return false;
    }
  }
  time_ = until;
  return true;
}

} // namespace fulmox::bus
