#include "core/match/bench_of_parts.hpp"

#include "core/evaluation/guarded.hpp"

#include <algorithm>
#include <array>
#include <cmath>
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

BenchOfParts::BenchOfParts(const Axis& axis, const MatchSpace& space)
    : space_(space), surroundings_(Surroundings::from(axis["surroundings"])) {
  read_drives(space.drives);
  read_motors(space.motors);
  for (const PartChoice& head : space.heads) heads_.push_back(Gearhead::from(head.section));
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
}

void BenchOfParts::read_motors(const std::vector<PartChoice>& motors) {
  Recorder silent(false);
  for (const PartChoice& motor : motors) {
    auto& by_class = motors_.emplace_back(classes_.size());
    auto& most = most_torque_.emplace_back(classes_.size(), 0.0);
    usable_motor_.push_back(usable(motor));
    if (!usable_motor_.back()) continue;
    for (std::size_t k = 0; k < classes_.size(); ++k) {
      if (classes_[k].drives.empty()) continue;
      const Drive& drive = *drives_[classes_[k].drives.front()];
      auto built = build_motor(motor.section, drive, silent);
      if (!built->refuses(drive.feed()).empty()) continue;
      most[k] = most_torque_of(*built);
      by_class[k] = std::move(built);
    }
  }
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
  model.motor = motors_[parts.motor][class_of_[parts.drive]];
  model.brake = Brake::from(space_.brakes[parts.brake].section, space_.motors[parts.motor].section);
  model.drive = drives_[parts.drive];
  model.surroundings = surroundings_;
  model.settle(silent);
  return model;
}

double Judged::whatever_drive() const {
  const double by_motor = verdict.used_of[static_cast<std::size_t>(LooksAt::motor)];
  return std::max((1.0 - moved_by_cuts) * by_motor, whatever_motor());
}

double Judged::whatever_motor() const { return verdict.used_of[static_cast<std::size_t>(LooksAt::head)]; }

void Judge::put_in(const Combination& parts) {
  const auto put = [&](std::string_view slot, const std::vector<PartChoice>& choices, std::uint32_t place,
                       std::uint32_t Combination::*which) {
    if (in_ && (*in_).*which == place) return;
    axis_[slot] = choices[place].section;
  };
  put("motor", space_.motors, parts.motor, &Combination::motor);
  put("gearhead", space_.heads, parts.head, &Combination::head);
  put("drive", space_.drives, parts.drive, &Combination::drive);
  put("brake", space_.brakes, parts.brake, &Combination::brake);
  put("coupling", space_.couplings, parts.coupling, &Combination::coupling);
  in_ = parts;
}

std::optional<Judged> Judge::operator()(const Combination& parts) {
  put_in(parts);
  const auto judged = guarded(axis_, [&]() -> Expected<Judged> {
    const AxisModel model = bench_.model(parts);
    JudgedAxis all = judge_all(model, axis_, rules_);
    Judged out;
    out.verdict = std::move(all.verdict);
    const Demand& demand = all.demand;
    const double unknown = std::numeric_limits<double>::quiet_NaN();
    const bool electric = model.motor->electric();
    out.energy = electric ? demand.integrals.bus_drawn : unknown;
    out.ratio = model.motor->chosen ? demand.inertia_ratio.value : unknown;
    out.winding = demand.heat.gap ? unknown : demand.heat.hottest.value;
    out.rms_current = electric ? demand.rms_current.value : unknown;
    out.peak_current = electric ? demand.peak_current.value : unknown;
    return out;
  });
  if (!judged) return std::nullopt;
  return *judged;
}

std::optional<TrainDemand> Judge::train(const Combination& parts) {
  put_in(parts);
  const auto made = guarded(axis_, [&]() -> Expected<TrainDemand> {
    AxisModel model = bench_.model(parts);
    Demand demand = judge_all(model, axis_, rules_).demand;
    return TrainDemand(std::move(model), std::move(demand));
  });
  if (!made) return std::nullopt;
  return *made;
}

namespace {
constexpr double rounding = 1.0 - 1e-9;

void take(Hint& worst, double used, std::string_view limit) {
  if (rounding * used > worst.used) worst = {rounding * used, limit};
}
} // namespace

Hint Judge::by_sums(const AxisModel& model, const TrainDemand& train, bool of_drive) {
  if (sums_of_ != &train) sums_ = train.demand();
  sums_of_ = &train;
  train.put_sums(*sums_, model.rotor);
  Recorder silent(false);
  static const Course none;
  const LimitContext context{axis_, model, none, *sums_, rules_, silent};
  Hint worst;
  for (const LimitSpec* spec : limit_specs()) {
    if (!spec->by_sums || (spec->looks_at == LooksAt::drive) != of_drive) continue;
    if (const auto limit = spec->judge(context); limit && limit->state != LimitState::not_judged)
      take(worst, limit->used, spec->label);
  }
  return worst;
}

Hint Judge::hint(const Combination& parts, const TrainDemand& train) {
  put_in(parts);
  const AxisModel model = bench_.model(parts);
  Hint worst = by_sums(model, train, false);
  static const std::string_view peak = label_of_limit("motor.peak"),
                                pull_out = label_of_limit("stepper.pullout");
  take(worst, train.some_peak(model.rotor) / bench_.most_torque(parts.motor, bench_.class_of(parts.drive)),
       model.motor->keeps_current() ? pull_out : peak);
  return worst;
}

Hint Judge::drive_hint(const Combination& parts, const TrainDemand& train) {
  put_in(parts);
  return by_sums(bench_.model(parts), train, true);
}

} // namespace fulmox
