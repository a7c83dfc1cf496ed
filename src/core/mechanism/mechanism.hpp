#pragma once
#include "core/mechanism/torque_parts.hpp"
#include "core/project/section.hpp"
#include "core/support/expected.hpp"
#include "core/working/recorder.hpp"

#include <memory>
#include <span>
#include <vector>

namespace fulmox {

/// The motion at one instant, at the load.
struct LoadState {
  double position = 0.0;  ///< m or rad
  Term speed;             ///< m/s or rad/s
  Term acceleration;      ///< m/s² or rad/s²
  double direction = 0.0; ///< sign of the speed; at the ends of a move that of its inside; 0 at rest
};

/// What a shaft must do at one instant.
struct ShaftState {
  Term speed;        ///< rad/s
  Term acceleration; ///< rad/s²
  Term torque;       ///< N·m, into the mechanism
  TorqueParts parts; ///< sums to the torque
  double direction = 0.0;
  /// Changes sign where the power crossing the efficiency does; integrals are split there.
  double crossing_power = 0.0;
};

/// A contribution to the inertia at the mechanism's input shaft.
struct InertiaPiece {
  std::string_view id;
  std::string_view label;
  Term at_own_shaft; ///< kg·m² where it turns; for a moved mass already at the input shaft
  Term at_input;     ///< kg·m²
};

/// A mechanism with its load, ready to be asked about any instant.
class Mechanism {
public:
  virtual ~Mechanism() = default;
  [[nodiscard]] virtual ShaftState at(const LoadState& state, Recorder& recorder) const = 0;
  [[nodiscard]] virtual std::vector<InertiaPiece> inertia(Recorder& recorder) const = 0;
  /// Torque at the input shaft that keeps the load from moving, friction giving no help. N·m.
  [[nodiscard]] virtual Term holding_torque(Recorder& recorder) const = 0;
  /// Torque at the input shaft that starts the load from rest in the harder direction, static friction
  /// included. N·m.
  [[nodiscard]] virtual Term breakaway_torque(Recorder& recorder) const = 0;
  /// A motion this load cannot follow (a slack rope), or nothing.
  [[nodiscard]] virtual std::optional<Problem> refuses(double least_acceleration,
                                                       double greatest_acceleration) const = 0;
  /// A limit of the mechanism itself where the load drives it: η_b < 0 means self-locking.
  [[nodiscard]] virtual bool self_locking() const = 0;
};

/// One kind of mechanism: its form, and how to make a model of it. Registered in mechanism.cpp.
struct MechanismSpec {
  SectionSpec section;
  std::unique_ptr<Mechanism> (*build)(const Section& load, const Section& mechanism, Recorder& recorder);
};

std::span<const MechanismSpec* const> mechanism_specs();
const MechanismSpec* find_mechanism(std::string_view id);

} // namespace fulmox
