#include "core/match/train.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

TrainDemand::TrainDemand(AxisModel model, Demand demand)
    : demand_(std::make_shared<const Demand>(std::move(demand))), duration_(model.load->cycle.duration) {
  AxisModel with_one = model;
  model.rotor = {0.0, ""};
  with_one.rotor = {1.0, ""}; // kg·m²: what is asked more is what a unit of inertia asks
  for (const LoadStretch& load : model.load->stretches)
    if (!load.braked) add(seen_by_motor(model, load), seen_by_motor(with_one, load));
}

void TrainDemand::add(const Stretch& bare, const Stretch& with_one) {
  const auto at = [&](double u) {
    const double torque = bare.torque(u);
    return Moment{torque, with_one.torque(u) - torque, bare.speed(u), bare.direction};
  };
  const auto look = [&](double u, double weight) {
    const auto& [torque, per_inertia, speed, direction] = moments_.emplace_back(at(u));
    bare_ += weight * torque * torque;
    mixed_ += 2.0 * weight * torque * per_inertia;
    rotor_ += weight * per_inertia * per_inertia;
  };
  for (const GaussPoint& point : gauss_rule(bare.nodes)) look(point.at, 0.5 * bare.length() * point.weight);
  look(-1.0, 0.0);
  look(1.0, 0.0);
  constexpr int many = 16;
  for (int k = 0; k <= many; ++k) many_moments_.push_back(at(2.0 * k / many - 1.0));
}

double TrainDemand::rms_torque(double rotor) const {
  return std::sqrt(std::max(0.0, bare_ + rotor * (mixed_ + rotor * rotor_)) / duration_);
}

double TrainDemand::some_peak(double rotor) const {
  double most = 0.0;
  for (const Moment& m : moments_) most = std::max(most, std::abs(m.torque + rotor * m.per_inertia));
  return most;
}

std::vector<TrainDemand::Moment> TrainDemand::greatest_between(double least_rotor, double most_rotor) const {
  constexpr int looks = 6; // the greatest of straight lines: few of them are on top somewhere
  std::vector<std::size_t> chosen;
  for (int k = 0; k < looks && !moments_.empty(); ++k) {
    const double rotor = least_rotor * std::pow(most_rotor / least_rotor, k / (looks - 1.0));
    const auto asked = [&](std::size_t i) {
      return std::abs(moments_[i].torque + rotor * moments_[i].per_inertia);
    };
    std::size_t most = 0;
    for (std::size_t i = 1; i < moments_.size(); ++i)
      if (asked(i) > asked(most)) most = i;
    if (std::find(chosen.begin(), chosen.end(), most) == chosen.end()) chosen.push_back(most);
  }
  std::vector<Moment> out;
  out.reserve(chosen.size());
  for (const std::size_t i : chosen) out.push_back(moments_[i]);
  return out;
}

void TrainDemand::put_sums(Demand& demand, const Term& rotor) const {
  demand.rms_torque = {rms_torque(rotor), ""};
  demand.total_inertia = {demand_->load_inertia + rotor, ""};
  demand.inertia_ratio = {demand_->load_inertia / rotor, ""};
}

} // namespace fulmox
