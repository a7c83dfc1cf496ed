#include "core/match/drive_group.hpp"

#include "core/drive/formulas.hpp"
#include "core/match/search_task.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace fulmox {
namespace {

/// Figures by which drives of a class differ in strength.
constexpr std::array strengths{&Drive::continuous_current, &Drive::peak_current, &Drive::rated_peak,
                               &Drive::peak_time,          &Drive::capacitance,  &Drive::overvoltage,
                               &Drive::brake_power};

double overload_of(const Drive& drive) {
  return overload_limit(drive.rated_peak, drive.continuous_current, drive.peak_time);
}

/// What must be the same for drives to be bounded together, in an order that can be looked up.
std::vector<double> told_alike(const Drive& drive) {
  const StepperSettings set = drive.stepper();
  std::vector<double> all{static_cast<double>(drive.reads), drive.chosen ? 1.0 : 0.0};
  for (const double value : {drive.brake_volts.value, set.pulse_rate.value, set.controller_rate.value})
    all.push_back(std::isnan(value) ? -1.0 : value);
  for (const auto figure : strengths) all.push_back(std::isnan(drive.*figure) ? 0.0 : 1.0);
  return all;
}

/// Of a few looking at each costs less than looking at all together.
constexpr std::size_t worth_it = 4;

} // namespace

BoundDrive::BoundDrive(Side side, std::shared_ptr<const Drive> drive)
    : Drive(*drive), side_(side), like_(std::move(drive)), at_rest_(like_->loss(0.0)),
      per_ampere_(like_->loss(1.0) - at_rest_), overload_(overload_of(*like_)) {}

double BoundDrive::worse(double a, double b) const {
  return side_ == Side::weakest ? std::min(a, b) : std::max(a, b);
}
double BoundDrive::dearer(double a, double b) const {
  return side_ == Side::weakest ? std::max(a, b) : std::min(a, b);
}

void BoundDrive::add(const Drive& drive) {
  for (const auto figure : strengths) (this->*figure).value = worse(this->*figure, drive.*figure);
  const double at_rest = drive.loss(0.0);
  at_rest_ = dearer(at_rest_, at_rest);
  per_ampere_ = dearer(per_ampere_, drive.loss(1.0) - at_rest);
  overload_ = worse(overload_, overload_of(drive));
  // currents and time of different drives together would leave another room than any of them
  peak_time.value = overload_ / overload_limit(rated_peak, continuous_current, 1.0);
}

std::vector<DriveGroup> groups_of(const std::vector<std::uint32_t>& drives, const SearchTask& task) {
  const auto at = [&](std::uint32_t place) { return task.bench.drive(drives[place]); };
  std::map<std::vector<double>, std::vector<std::uint32_t>> alike;
  for (std::uint32_t place = 0; place < drives.size(); ++place) {
    if (task.bench.drive(drives[place])->leaves_open || !task.alone[drives[place]].clear) continue;
    if (at(place)->rated_peak <= at(place)->continuous_current) continue; // no overload to be bounded
    alike[told_alike(*at(place))].push_back(place);
  }
  std::vector<DriveGroup> groups;
  for (auto& [told, places] : alike) {
    if (places.size() < worth_it) continue;
    std::stable_sort(places.begin(), places.end(), [&](std::uint32_t a, std::uint32_t b) {
      return at(a)->continuous_current.value > at(b)->continuous_current.value;
    });
    DriveGroup& group = groups.emplace_back();
    BoundDrive weakest(BoundDrive::Side::weakest, at(places.front())),
        strongest(BoundDrive::Side::strongest, at(places.front()));
    for (const std::uint32_t place : places) {
      group.drives.push_back(at(place));
      weakest.add(*at(place));
      strongest.add(*at(place));
      group.weakest.push_back(std::make_shared<const BoundDrive>(weakest));
    }
    group.strongest = std::make_shared<const BoundDrive>(strongest);
    group.places = std::move(places);
  }
  return groups;
}

} // namespace fulmox
