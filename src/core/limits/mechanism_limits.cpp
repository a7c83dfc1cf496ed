#include "core/limits/limit.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// Loose goods against the greater of both accelerations; the direction with less grip decides.
std::optional<Limit> slip(const LimitContext& c) {
  if (const std::string_view input = c.model.load->mechanism->missing_grip(); !input.empty())
    return missing("The grip of the goods on the belt is missing.", input);
  const auto grip = c.model.load->mechanism->grip(c.recorder);
  if (!grip) return std::nullopt;
  const Moment speeding = greatest_acceleration(c.model, 1.0);
  const Moment slowing = greatest_acceleration(c.model, -1.0);
  const bool forward = speeding.value / grip->forward >= slowing.value / grip->backward;
  const Moment& moment = forward ? speeding : slowing;
  const Term& holds = forward ? grip->forward : grip->backward;
  // on a slope too steep for the goods to lie still nothing holds them
  const Term capacity{std::max(holds.value, 1e-9), holds.ref};
  return compare_at(c, "load.slip", moment, {moment.value, ""}, capacity, Kind::acceleration,
                    "Goods stay where they lie while friction can accelerate them.");
}

} // namespace

std::span<const LimitSpec> mechanism_limits() {
  static constexpr std::array list{LimitSpec{
      "load.slip", "Goods slip", "Acceleration of the belt against what friction gives the goods.", &slip}};
  return list;
}

} // namespace fulmox
