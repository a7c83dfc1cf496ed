#include "core/match/bench_of_parts.hpp"

#include "core/evaluation/guarded.hpp"
#include "core/support/in_parts.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <iterator>
#include <map>

namespace fulmox {
namespace {

/// What a motor notices of a drive, in an order that can be looked up; NaN told apart from every number.
std::vector<double> felt_by_motor(const Drive& drive, const Surroundings& s) {
  const StepperSettings set = drive.stepper();
  std::vector<double> felt{static_cast<double>(drive.feed()), drive.weakening ? 1.0 : 0.0, set.crest,
                           set.microsteps, set.standing};
  for (const double bus : {s.bus.value, s.bus_low.value, s.bus_high.value})
    felt.push_back(drive.motor_volts(bus));
  for (double& value : felt)
    if (std::isnan(value)) value = -1.0;
  return felt;
}

/// Whatever drive current and bus give.
double most_torque_of(const Motor& motor) {
  if (!motor.has_peak()) return std::numeric_limits<double>::infinity();
  double most = motor.standstill_peak();
  if (motor.keeps_current()) return most; // falls with speed: a measured one is refused where it rises
  const MotorSupply unlimited{0.0, std::numeric_limits<double>::infinity(), false};
  for (const double speed : motor.peak_corners(unlimited))
    most = std::max(
        {most, motor.peak_torque(speed, unlimited, false), motor.peak_torque(speed, unlimited, true)});
  return most > 0.0 ? most : std::numeric_limits<double>::infinity();
}

} // namespace

bool BenchOfParts::usable(const PartChoice& choice) {
  const auto wrong = faults(choice.section);
  if (!wrong.empty()) unusable_.push_back({choice.name(), wrong.front()});
  return wrong.empty();
}

BenchOfParts::BenchOfParts(const Axis& axis, const MatchSpace& space, unsigned threads)
    : surroundings_(Surroundings::from(axis["surroundings"])) {
  read_drives(space.drives);
  read_motors(space.motors, threads);
  for (const PartChoice& head : space.heads) heads_.push_back(Gearhead::from(head.section));
  for (const PartChoice& brake : space.brakes)
    for (const PartChoice& motor : space.motors) brakes_.push_back(Brake::from(brake.section, motor.section));
  read_loads(axis, space);
}

void BenchOfParts::read_drives(const std::vector<PartChoice>& drives) {
  std::map<std::vector<double>, std::size_t> known;
  for (std::uint32_t i = 0; i < drives.size(); ++i) {
    drives_.push_back(build_drive(drives[i].section));
    const auto [place, fresh] = known.emplace(felt_by_motor(*drives_.back(), surroundings_), classes_.size());
    if (fresh) classes_.emplace_back();
    class_of_.push_back(place->second);
    if (usable(drives[i])) classes_[place->second].drives.push_back(i);
  }
  // a class without a usable drive keeps its place, and is passed over
  for (DriveClass& one : classes_)
    if (!one.drives.empty()) one.strongest = strongest_of(one.drives);
}

std::uint32_t BenchOfParts::strongest_of(std::span<const std::uint32_t> drives) const {
  const auto peak = [&](std::uint32_t drive) {
    const double current = drives_[drive]->peak_current;
    return std::isnan(current) ? std::numeric_limits<double>::infinity() : current;
  };
  return *std::max_element(drives.begin(), drives.end(),
                           [&](std::uint32_t a, std::uint32_t b) { return peak(a) < peak(b); });
}

std::vector<BenchOfParts::ReadMotor> BenchOfParts::read(const PartChoice& motor) const {
  Recorder silent(false);
  std::vector<ReadMotor> by_class(classes_.size());
  for (std::size_t k = 0; k < classes_.size(); ++k) {
    if (classes_[k].drives.empty()) continue;
    const Drive& drive = *drives_[classes_[k].drives.front()];
    std::shared_ptr<const Motor> built = build_motor(motor.section, drive, silent);
    if (!built->refuses(drive.feed()).empty()) continue;
    by_class[k] = {built, most_torque_of(*built)};
  }
  return by_class;
}

void BenchOfParts::read_motors(const std::vector<PartChoice>& motors, unsigned threads) {
  for (const PartChoice& motor : motors) usable_motor_.push_back(usable(motor));
  constexpr std::size_t worth_a_thread = 500; // motors
  motors_ = in_parts(motors.size(), threads, worth_a_thread, [&](std::size_t from, std::size_t to) {
    std::vector<ReadMotor> all;
    all.reserve((to - from) * classes_.size());
    for (std::size_t m = from; m < to; ++m) {
      auto one = usable_motor_[m] ? read(motors[m]) : std::vector<ReadMotor>(classes_.size());
      std::move(one.begin(), one.end(), std::back_inserter(all));
    }
    return all;
  });
}

void BenchOfParts::read_loads(Axis axis, const MatchSpace& space) {
  // what stands in the slots that are searched must not keep the load from being worked out
  axis["motor"] = space.motors.front().section;
  axis["gearhead"] = space.heads.front().section;
  axis["drive"] = space.drives.front().section;
  axis["brake"] = space.brakes.front().section;
  Recorder silent(false);
  for (const PartChoice& coupling : space.couplings) {
    axis["coupling"] = coupling.section;
    auto load = guarded(axis, [&] { return LoadSide::build(axis, silent); });
    loads_.push_back(load ? *load : nullptr);
    if (!load) problem_ = load.problem();
  }
}

AxisModel BenchOfParts::model(const Combination& parts) const {
  Recorder silent(false);
  AxisModel model;
  model.load = loads_[parts.coupling];
  model.gear = heads_[parts.head];
  model.motor = read_motor(parts.motor, class_of_[parts.drive]).motor;
  model.brake = brake(parts.brake, parts.motor);
  model.drive = drives_[parts.drive];
  model.surroundings = surroundings_;
  model.settle(silent);
  return model;
}

} // namespace fulmox
