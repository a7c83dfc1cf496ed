#include "core/motor/pull_out.hpp"

#include <boost/functional/hash.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <mutex>
#include <numbers>
#include <optional>
#include <unordered_map>
#include <utility>

namespace fulmox {
namespace {

using std::numbers::pi;
constexpr int points = 180;           ///< of half a period
constexpr double chop_period = 50e-6; ///< s, how fast the chopper follows its reference; common practice
constexpr double slowest_chop = 0.15; ///< of a radian: no slower against the current's own period
constexpr double least_lead = -1.3, most_lead = 3.05;

/// Whether the reference is a sine rather than a staircase.
bool smooth(const ChoppedStepper& m) {
  return m.microsteps >= ChoppedStepper::smooth_from || m.microsteps < 1.0;
}

/// The reference of a phase: a sine, or the staircase of the microstep table. Full steps stand at odd 45°.
double reference(const ChoppedStepper& m, double angle) {
  if (smooth(m)) return m.current * std::cos(angle);
  const double step = 0.5 * pi / m.microsteps, shift = m.microsteps == 1.0 ? 0.5 : 0.0;
  return m.current * std::cos((std::round(angle / step - shift) + shift) * step);
}

double angle_of(int point) { return pi * (point + 0.5) / points; }

/// Of the angle of every point: the same in every run.
struct Waves {
  std::array<double, points> sine{}, cosine{};
};
const Waves& waves() {
  static const auto all = [] {
    Waves out;
    for (std::size_t k = 0; k < points; ++k) {
      out.sine[k] = std::sin(angle_of(static_cast<int>(k)));
      out.cosine[k] = std::cos(angle_of(static_cast<int>(k)));
    }
    return out;
  }();
  return all;
}

/// The constants of one run and its step through half a period.
class HalfPeriod {
public:
  HalfPeriod(const ChoppedStepper& machine, double speed, double lead)
      : m_(machine), crest_(machine.k_emf * speed) {
    if (smooth(machine)) { // I·cos(angle + lead), without asking for a cosine at every point
      const double along = machine.current * std::cos(lead), across = machine.current * std::sin(lead);
      for (std::size_t k = 0; k < points; ++k)
        wanted_[k] = along * waves_.cosine[k] - across * waves_.sine[k];
    } else {
      for (std::size_t k = 0; k < points; ++k)
        wanted_[k] = reference(machine, angle_of(static_cast<int>(k)) + lead);
    }
    const double omega_e = machine.teeth * speed;
    h_ = pi / omega_e / points;
    step_ = h_ / machine.inductance;
    follow_ = 1.0 - std::exp(-h_ / std::min(chop_period, slowest_chop / omega_e));
  }

  /// The current at the end for one at the start; what it did meanwhile when asked.
  double run(double current, SteadyPhase* sums = nullptr) const {
    for (std::size_t k = 0; k < points; ++k) {
      const double sine = waves_.sine[k], emf = -crest_ * sine;
      const double free = -m_.resistance * current - emf;
      const double least = step_ * (free - m_.volts), most = step_ * (free + m_.volts);
      const double change = std::clamp((wanted_[k] - current) * follow_, least, most);
      if (sums != nullptr) {
        const double mean = current + 0.5 * change;
        sums->torque += -2.0 * m_.k_torque * mean * sine / points;
        sums->mean_square += mean * mean / points;
        sums->power += 2.0 * mean * (m_.resistance * mean + m_.inductance * change / h_ + emf) / points;
      }
      current += change;
    }
    return current;
  }

private:
  const ChoppedStepper& m_;
  const Waves& waves_ = waves();
  std::array<double, points> wanted_; ///< A, the reference at every point
  double crest_, h_ = 0.0, step_ = 0.0, follow_ = 0.0;
};

} // namespace

SteadyPhase steady_phase(const ChoppedStepper& machine, double speed, double lead) {
  const HalfPeriod half(machine, speed, lead);
  // the end must be the start turned round: start + end rises with the start between once and twice as fast
  double start = reference(machine, lead), miss = start + half.run(start), slope = 1.5;
  for (int tries = 0; tries < 40 && std::abs(miss) > 1e-9 * machine.current; ++tries) {
    const double next = start - miss / slope, next_miss = next + half.run(next);
    if (next != start) slope = std::clamp((next_miss - miss) / (next - start), 1.0, 2.0);
    start = next;
    miss = next_miss;
  }
  SteadyPhase out;
  half.run(start, &out);
  return out;
}

namespace {

/// The greatest torque among leads `apart`, looked at from `first` on, then refined; a smooth hill.
PullOut crest(const ChoppedStepper& machine, double speed, double first, double apart, int count) {
  const auto torque = [&](double lead) { return steady_phase(machine, speed, lead).torque; };
  double best = first, most = torque(first);
  for (int k = 1; k <= count; ++k)
    if (const double t = torque(first + k * apart); t > most) {
      most = t;
      best = first + k * apart;
    }
  const double golden = 0.5 * (std::sqrt(5.0) - 1.0);
  double left = best - apart, right = best + apart;
  double a = right - golden * (right - left), b = left + golden * (right - left);
  double at_a = torque(a), at_b = torque(b);
  for (int k = 0; k < 8; ++k)
    if (at_a > at_b) {
      right = b, b = a, at_b = at_a;
      a = right - golden * (right - left);
      at_a = torque(a);
    } else {
      left = a, a = b, at_a = at_b;
      b = left + golden * (right - left);
      at_b = torque(b);
    }
  const double refined = at_a > at_b ? a : b;
  const double lead = std::max(at_a, at_b) > most ? refined : best;
  return {lead, steady_phase(machine, speed, lead)};
}

} // namespace

PullOut pull_out(const ChoppedStepper& machine, double speed) {
  constexpr int count = 16;
  return crest(machine, speed, least_lead, (most_lead - least_lead) / count, count);
}

std::optional<SteadyPhase> running_phase(const ChoppedStepper& machine, double speed, double torque) {
  const PullOut most = pull_out(machine, speed);
  if (torque > most.phase.torque) return std::nullopt;
  // the smaller the lead, the less torque, down to where it brakes most
  constexpr double step = 0.1;
  double high = most.lead, low = high;
  SteadyPhase at_low = most.phase;
  while (at_low.torque > torque) {
    high = low;
    low -= step;
    const SteadyPhase next = steady_phase(machine, speed, low);
    if (next.torque >= at_low.torque || most.lead - low > pi) return std::nullopt;
    at_low = next;
  }
  for (int k = 0; k < 30; ++k) {
    const double middle = 0.5 * (low + high);
    const SteadyPhase there = steady_phase(machine, speed, middle);
    (there.torque > torque ? high : low) = middle;
    if (there.torque <= torque) at_low = there;
  }
  return at_low;
}

double corner_speed(const ChoppedStepper& m) {
  // (R·I + K·ω)² + (N·ω·L·I)² = V²
  const double r = m.resistance * m.current, x = m.teeth * m.inductance * m.current;
  const double a = m.k_emf * m.k_emf + x * x, b = r * m.k_emf, c = r * r - m.volts * m.volts;
  return c < 0.0 ? (std::sqrt(b * b - a * c) - b) / a : 0.0;
}

double straight_in_power(double n_left, double t_left, double n_right, double t_right, double n) {
  if (!(n_left > 0.0)) return t_left + (t_right - t_left) * n / n_right;
  const double share = (n - n_left) / (n_right - n_left);
  return (t_left * n_left + share * (t_right * n_right - t_left * n_left)) / n;
}

PullOutCurve::PullOutCurve(const ChoppedStepper& machine) {
  speeds_ = {0.0};
  // crawling, the torque follows the fundamental of the staircase: 0.900 of it in full steps
  const double stair = pi / (4.0 * std::max(machine.microsteps, 1.0));
  const double waves = machine.microsteps >= ChoppedStepper::smooth_from ? 1.0 : std::sin(stair) / stair;
  torques_ = {machine.k_torque * machine.current * waves};
  const double corner = corner_speed(machine);
  if (!(corner > 0.0)) { // the voltage does not even drive the current at rest
    torques_ = {machine.k_torque * waves * std::min(machine.current, machine.volts / machine.resistance)};
  }
  // voltage-fed from the start where there is no corner: its pole then sets the scale
  const double scale = corner > 0.0 ? corner : machine.resistance / (machine.teeth * machine.inductance);
  constexpr std::array grid{0.1, 0.5, 0.8, 0.95, 1.05, 1.15, 1.3,  1.5,  1.75, 2.1,
                            2.6, 3.4, 4.5, 6.0,  8.0,  11.0, 15.0, 20.0, 30.0};
  // the best lead wanders slowly with speed: from the last one only a few are looked at
  std::optional<double> last;
  const auto torque_at = [&](double speed) {
    constexpr double near = 0.5;
    PullOut out = last ? crest(machine, speed, *last - near, near, 2) : pull_out(machine, speed);
    if (last && std::abs(out.lead - *last) > 1.5 * near) out = pull_out(machine, speed);
    last = out.lead;
    return out.phase.torque;
  };
  for (const double x : grid) {
    const double torque = torque_at(x * scale);
    if (torque > 0.0) {
      speeds_.push_back(x * scale);
      torques_.push_back(std::min(torque, torques_.back())); // never rising with speed: the safe side
      continue;
    }
    double low = speeds_.back(), high = x * scale; // where nothing is left
    for (int k = 0; k < 12; ++k) {
      const double middle = 0.5 * (low + high), there = torque_at(middle);
      (there > 0.0 ? low : high) = middle;
    }
    const double half_way = 0.5 * (speeds_.back() + low);
    if (const double there = torque_at(half_way); there > 0.0) {
      speeds_.push_back(half_way);
      torques_.push_back(std::min(there, torques_.back()));
    }
    speeds_.push_back(low);
    torques_.push_back(0.0);
    break;
  }
}

double PullOutCurve::operator()(double speed) const {
  if (speed >= speeds_.back()) return speed == speeds_.back() ? torques_.back() : 0.0;
  const auto right =
      static_cast<std::size_t>(std::upper_bound(speeds_.begin(), speeds_.end(), speed) - speeds_.begin());
  return std::max(0.0, straight_in_power(speeds_[right - 1], torques_[right - 1], speeds_[right],
                                         torques_[right], speed));
}

namespace {

using Curve = std::shared_ptr<const PullOutCurve>;

struct MachineHash {
  std::size_t operator()(const ChoppedStepper& m) const {
    std::size_t seed = 0;
    for (const double value :
         {m.k_torque, m.k_emf, m.resistance, m.inductance, m.teeth, m.current, m.volts, m.microsteps})
      boost::hash_combine(seed, value);
    return seed;
  }
};

/// Curves of all threads. Two generations: what is asked for again moves into the younger one, and the older
/// one is dropped when that is full.
class KeptCurves {
public:
  Curve find(const ChoppedStepper& machine) {
    const std::lock_guard guard(mutex_);
    if (const auto young = young_.find(machine); young != young_.end()) return young->second;
    const auto old = old_.find(machine);
    if (old == old_.end()) return nullptr;
    const Curve curve = old->second;
    put(machine, curve);
    return curve;
  }
  void keep(const ChoppedStepper& machine, const Curve& curve) {
    const std::lock_guard guard(mutex_);
    put(machine, curve);
  }

private:
  void put(const ChoppedStepper& machine, const Curve& curve) {
    constexpr std::size_t most = 4096; // some 2 MB
    if (young_.size() >= most) {
      old_ = std::move(young_);
      young_.clear();
    }
    young_.emplace(machine, curve);
  }

  using Curves = std::unordered_map<ChoppedStepper, Curve, MachineHash>;
  std::mutex mutex_;
  Curves young_, old_;
};

} // namespace

std::shared_ptr<const PullOutCurve> pull_out_curve(const ChoppedStepper& machine) {
  // one motor asks for the same two or three over and over: no lock for those
  thread_local std::array<std::pair<ChoppedStepper, Curve>, 4> latest;
  thread_local std::size_t next = 0;
  for (const auto& [asked, curve] : latest)
    if (curve != nullptr && asked == machine) return curve;
  static KeptCurves kept;
  Curve curve = kept.find(machine);
  if (curve == nullptr) {
    curve = std::make_shared<const PullOutCurve>(machine);
    kept.keep(machine, curve);
  }
  latest[next] = {machine, curve};
  next = (next + 1) % latest.size();
  return curve;
}

} // namespace fulmox
