#pragma once
#include "core/demand/load_side.hpp"

#include <memory>
#include <optional>

namespace fulmox {

/// Gives the load's side of axes that are looked at one after another: made anew only where something that it
/// is made from has changed.
class LoadKeeper {
public:
  /// Refuses what LoadSide::build() refuses, faults anywhere in the axis among them.
  Expected<std::shared_ptr<const LoadSide>> operator()(const Axis& axis);

private:
  [[nodiscard]] bool same_load(const Axis& axis) const;

  std::optional<Axis> last_;
  std::shared_ptr<const LoadSide> load_; ///< of the last axis; null where it has none
};

} // namespace fulmox
