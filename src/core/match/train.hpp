#pragma once
#include "core/demand/demand.hpp"
#include "core/limits/limit.hpp"

#include <memory>
#include <vector>

namespace fulmox {

/// What a cycle asks of any motor on one head, brake and coupling: torque at every moment runs straight in
/// the inertia of the rotor, so its mean square is a parabola in it.
class TrainDemand {
public:
  /// The model with any motor on this train, and what was asked of that motor.
  TrainDemand(AxisModel model, Demand demand);

  /// N·m; exact but for rounding, for a rotor with its brake, kg·m².
  [[nodiscard]] double rms_torque(double rotor) const;
  /// N·m: the greatest magnitude at some moments of the cycle, so never above the true peak.
  [[nodiscard]] double some_peak(double rotor) const;
  /// At a moment of the cycle, T = torque + per_inertia·J. N·m; N·m/(kg·m²); rad/s
  struct Moment {
    double torque = 0.0, per_inertia = 0.0, speed = 0.0, direction = 0.0;

    [[nodiscard]] ShaftMoment with(double rotor) const {
      return {torque + rotor * per_inertia, speed, direction};
    }
  };
  /// Those that some_peak() looks at.
  [[nodiscard]] const std::vector<Moment>& moments() const { return moments_; }
  /// Evenly over every stretch, for a closer look.
  [[nodiscard]] const std::vector<Moment>& many_moments() const { return many_moments_; }
  /// A few of those that some_peak() looks at: the ones that are greatest for rotors between these, kg·m².
  [[nodiscard]] std::vector<Moment> greatest_between(double least_rotor, double most_rotor) const;
  /// The demand on a motor, as far as sums tell it: speeds, inertia, rms torque.
  void put_sums(Demand& demand, const Term& rotor) const;
  /// What was asked of the motor it was made with.
  [[nodiscard]] const Demand& demand() const { return *demand_; }
  /// The same demand, whatever copy of the train tells it.
  [[nodiscard]] const std::shared_ptr<const Demand>& shared_demand() const { return demand_; }

private:
  void add(const Stretch& bare, const Stretch& with_one);

  std::shared_ptr<const Demand> demand_;
  double duration_ = 0.0;
  double bare_ = 0.0, mixed_ = 0.0, rotor_ = 0.0; ///< ∫T²dt = bare + mixed·J + rotor·J²
  std::vector<Moment> moments_, many_moments_;
};

} // namespace fulmox
