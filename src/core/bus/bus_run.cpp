#include "core/bus/bus_run.hpp"

#include "core/bus/formulas.hpp"
#include "core/bus/runner.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {
namespace {

constexpr int most_periods = 12;

/// The moment at which ∫P from the start is greatest: nothing of any earlier return is on the bus then.
double emptiest(const PowerCurve& power) {
  double energy = 0.0, best = 0.0, at = 0.0;
  const auto offer = [&](double value, double time) {
    if (value > best) best = value, at = time;
  };
  for (const PowerPiece& piece : power.pieces) {
    const Series::Places roots = piece.watts.crossings();
    if (!roots.empty()) {
      const Series sum = piece.watts.antiderivative();
      for (const double u : roots) offer(energy + 0.5 * piece.length() * sum(u), piece.time(u));
    }
    energy += piece.energy();
    offer(energy, piece.to);
  }
  return at >= power.period() ? 0.0 : at;
}

/// V a bus rests at under a power, or what its supply makes where there is no rest.
double resting(const BusModel& bus, double watts) {
  const BusSupply& s = bus.supply;
  if (s.kind == BusSupply::Kind::regulated) {
    const double v = rest_voltage(s.volts, s.resistance, watts);
    const bool in_reach = !std::isnan(v) && (s.volts - v) / s.resistance <= s.most_current(v) &&
                          (s.volts - v) / s.resistance >= -s.sink;
    return in_reach ? v : s.volts;
  }
  double low = 0.5 * s.highest(), high = s.highest();
  if (watts <= 0.0) return high;
  for (int i = 0; i < 60; ++i) { // mean current of the pulses falls with the voltage
    const double v = 0.5 * (low + high);
    (v * rectifier_mean(s.crest, s.drop, s.resistance, v, s.phases) > watts ? low : high) = v;
  }
  return high;
}

void wrap_times(BusRun& run, double start, double period) {
  const auto moved = [&](double t) {
    const double sum = t + start;
    return sum >= period ? sum - period : sum;
  };
  run.lowest_at = moved(run.lowest_at);
  run.highest_at = moved(run.highest_at);
  run.limit_at = std::fmod(moved(run.limit_at) + period, period);
  run.most_current_at = moved(run.most_current_at);
  run.collapsed_at = moved(run.collapsed_at);
  if (start == 0.0 || run.gave_up) return;
  if (!run.collapsed) {
    run.supply_power = delayed(run.supply_power, start);
    run.resistor_power = delayed(run.resistor_power, start);
  }
  const auto first = std::find_if(run.samples.begin(), run.samples.end(),
                                  [&](const BusSample& s) { return s.time + start >= period; });
  for (BusSample& s : run.samples) s.time = moved(s.time);
  std::rotate(run.samples.begin(), first, run.samples.end());
}

/// What differs from period to period is told as a mean over all of them but the first.
struct Means {
  int count = 0;
  double supplied = 0.0, burnt = 0.0, bled = 0.0, taken_back = 0.0, squares = 0.0;
  double lowest = HUGE_VAL, highest = -HUGE_VAL, balance = 0.0;

  void add(const BusRun& run) {
    ++count;
    supplied += run.supplied;
    burnt += run.burnt;
    bled += run.bled;
    taken_back += run.taken_back;
    squares += run.rms_current;
  }
  void put(BusRun& run) const {
    const double n = count;
    run.supplied = supplied / n;
    run.burnt = burnt / n;
    run.bled = bled / n;
    run.taken_back = taken_back / n;
    run.rms_current = squares / n;
  }
};

BusRun periodic(const BusModel& bus, const PowerCurve& power, double tolerance, int periods) {
  const double period = power.period();
  bus::Runner runner(bus, power, tolerance);
  // little is remembered beyond some time constants of the source: the end of a cycle comes before it
  const double before_it = 0.3 + 30.0 * bus.supply.resistance * bus.capacitance;
  const double first = std::max(0.0, period - before_it);
  runner.begin(resting(bus, power.at(first)), first);
  Means means;
  double lowest = HUGE_VAL, highest = -HUGE_VAL;
  for (int round = 0;; ++round) {
    const double before = runner.volts();
    const bool chopping = runner.switches().chopper;
    const bool held = runner.run(period);
    BusRun& run = runner.counted;
    const bool whole = round > 0 || first == 0.0;
    run.settled = whole && held && std::abs(runner.volts() - before) <= 1e-7 * bus.supply.highest() &&
                  runner.switches().chopper == chopping && run.trips == 0;
    if (round > 0) {
      means.add(run);
      lowest = std::min(lowest, run.lowest);
      highest = std::max(highest, run.highest);
    }
    if (!held || run.settled || round + 1 == periods) {
      if (held && !run.settled && means.count > 0) {
        means.put(run);
        if (lowest < run.lowest) run.lowest = lowest;
        if (highest > run.highest) run.highest = highest;
      }
      run.rms_current = std::sqrt(std::max(0.0, run.rms_current) / period);
      return std::move(run);
    }
    runner.back_to_start();
    runner.forget();
  }
}

} // namespace

BusRun run_bus(const BusModel& bus, const PowerCurve& power, double tolerance) {
  const double start = emptiest(power);
  const PowerCurve turned = delayed(power, -start);
  BusModel model = bus;
  model.supply.phase += 2.0 * std::numbers::pi * bus.supply.frequency * start;
  const bool pulses = bus.supply.kind == BusSupply::Kind::rectifier;
  BusRun run = periodic(model, turned, tolerance, pulses ? 2 : most_periods);
  wrap_times(run, start, power.period());
  return run;
}

BusRun run_worst_phase(const BusModel& bus, const PowerCurve& power, double tolerance, int phases) {
  if (bus.supply.kind != BusSupply::Kind::rectifier) return run_bus(bus, power, tolerance);
  std::optional<BusRun> worst;
  double highest = -HUGE_VAL, highest_at = 0.0;
  for (int i = 0; i < phases; ++i) {
    BusModel model = bus;
    model.supply.phase = std::numbers::pi / bus.supply.phases * i / phases;
    BusRun run = run_bus(model, power, tolerance);
    if (run.gave_up) return run;
    if (run.highest > highest) highest = run.highest, highest_at = run.highest_at;
    if (!worst || (run.collapsed && !worst->collapsed) ||
        (run.collapsed == worst->collapsed && run.lowest < worst->lowest))
      worst = std::move(run);
  }
  worst->highest = highest;
  worst->highest_at = highest_at;
  return *std::move(worst);
}

double BusRun::volts_at(double time) const {
  if (samples.empty()) return 0.0;
  const auto after = std::lower_bound(samples.begin(), samples.end(), time,
                                      [](const BusSample& s, double t) { return s.time < t; });
  if (after == samples.begin()) return after->volts;
  if (after == samples.end()) return samples.back().volts;
  const BusSample &a = *(after - 1), &b = *after;
  return b.time > a.time ? a.volts + (b.volts - a.volts) * (time - a.time) / (b.time - a.time) : b.volts;
}

double BusRun::lowest_within(double from, double length) const {
  const double period = samples.empty() ? 0.0 : std::max(samples.back().time, samples.front().time);
  double least = std::min(volts_at(from), volts_at(std::fmod(from + length, std::max(period, 1e-12))));
  for (const BusSample& s : samples) {
    const double since = s.time >= from ? s.time - from : s.time + period - from;
    if (since <= length) least = std::min(least, s.volts);
  }
  return least;
}

BusStart start_bus(const BusModel& bus, std::span<const ThresholdLoad> loads, double wait) {
  const PowerCurve nothing = constant_power(0.0, wait);
  bus::Runner runner(bus, nothing, usual_tolerance * 100.0, loads);
  runner.begin(0.0);
  double all = 0.0;
  for (const ThresholdLoad& load : loads) all += load.power;
  const double goal = 0.999 * resting(bus, all);
  BusStart out;
  constexpr int slices = 1000;
  for (int i = 1; i <= slices && !out.up; ++i) {
    const std::size_t before = runner.counted.samples.size();
    const bool held = runner.run(wait * i / slices);
    if (!held) break;
    if (runner.loads_on() < loads.size() || runner.volts() < goal) continue;
    out.up = true;
    out.up_at = runner.time();
    for (std::size_t k = before; k < runner.counted.samples.size(); ++k)
      if (runner.counted.samples[k].volts >= goal) {
        out.up_at = runner.counted.samples[k].time;
        break;
      }
  }
  out.samples = std::move(runner.counted.samples);
  out.load_switches = runner.load_switches;
  out.trips = runner.counted.trips;
  out.greatest_current = runner.counted.most_current;
  return out;
}

double ride_through(const BusRun& run, const PowerCurve& power, double capacitance, double least,
                    double* at) {
  // E(t) − ½C(V(s)² − least²) is met first: for every sample as a start. ∫P of two periods at the
  // breakpoints.
  std::vector<double> times{0.0}, sums{0.0};
  for (int round = 0; round < 2; ++round)
    for (const PowerPiece& piece : power.pieces) {
      times.push_back(piece.to + round * power.period());
      sums.push_back(sums.back() + piece.energy());
    }
  const std::size_t count = power.pieces.size();
  std::vector<Series> within; // J from the start of each piece
  for (const PowerPiece& piece : power.pieces) {
    within.push_back(piece.watts.antiderivative());
    within.back() *= 0.5 * piece.length();
  }
  const auto piece_of = [&](std::size_t i) -> const PowerPiece& { return power.pieces[i % count]; };
  const auto energy_to = [&](double t) {
    const auto i =
        static_cast<std::size_t>(std::upper_bound(times.begin(), times.end(), t) - times.begin()) - 1;
    if (i >= 2 * count) return sums.back();
    const double base = times[i] - piece_of(i).from;
    const PowerPiece& piece = piece_of(i);
    return sums[i] + within[i % count](std::clamp(piece.share(t - base), -1.0, 1.0));
  };
  double shortest = HUGE_VAL;
  for (const BusSample& s : run.samples) {
    const double store = 0.5 * capacitance * (s.volts * s.volts - least * least);
    if (store <= 0.0) {
      if (at) *at = s.time;
      return 0.0;
    }
    const double goal = energy_to(s.time) + store;
    if (energy_to(std::min(s.time + shortest, 2.0 * power.period())) < goal && std::isfinite(shortest)) {
      // it may have been there and come back: looked at piece by piece below only where it can be sooner
      const auto last = std::upper_bound(times.begin(), times.end(), s.time + shortest);
      const auto first = std::upper_bound(times.begin(), times.end(), s.time);
      if (std::none_of(first, last, [&](const double& t) {
            return sums[static_cast<std::size_t>(&t - times.data())] >= goal;
          }))
        continue;
    }
    auto i =
        static_cast<std::size_t>(std::upper_bound(times.begin(), times.end(), s.time) - times.begin()) - 1;
    double found = HUGE_VAL;
    for (; i < 2 * count && times[i] < s.time + shortest; ++i) {
      const PowerPiece& piece = piece_of(i);
      const double base = times[i] - piece.from;
      Series over = within[i % count];
      over += sums[i] - goal;
      for (const double u : over.crossings())
        if (piece.time(u) + base > s.time && over.derivative()(u) > 0.0) {
          found = piece.time(u) + base - s.time;
          break;
        }
      if (std::isfinite(found)) break;
    }
    if (found < shortest) {
      shortest = found;
      if (at) *at = s.time;
    }
  }
  return shortest;
}

} // namespace fulmox
