#include "core/limits/limit.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

std::optional<Limit> hold(const LimitContext& c) {
  if (!c.model.brake.fitted) return std::nullopt;
  if (std::isnan(c.model.brake.torque))
    return missing("The brake's holding torque is missing.", "brake.torque");
  const Term capacity =
      c.recorder.apply(book::divided, "brake.capacity", {c.model.brake.torque, c.rules.term("brake_factor")});
  return compare(c, "brake.hold", c.demand.holding.torque, capacity, Kind::torque,
                 "Power may go at any moment: worst place, payload (empty too) and process force, no help "
                 "from friction. "
                 "A holding brake is not personnel protection.");
}

} // namespace

std::span<const LimitSpec> brake_limits() {
  static constexpr std::array list{LimitSpec{"brake.hold", "Brake holding torque",
                                             "What pulls at rest against the brake's torque over its factor.",
                                             &hold}};
  return list;
}

} // namespace fulmox
