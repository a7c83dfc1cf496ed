#include "core/limits/limit.hpp"

#include <array>

namespace fulmox {
namespace {

/// A drive that cannot run this kind of motor at all: nothing else about the two counts then.
std::optional<Limit> match(const LimitContext& c) {
  if (!c.model.drive->chosen) return std::nullopt;
  const std::string_view reason = c.model.motor->refuses(c.model.drive->feed());
  if (reason.empty()) return std::nullopt;
  Limit limit = compare(c, "drive.match", {1.0, ""}, {0.0, ""}, Kind::number, reason);
  limit.input = "drive.part_number";
  return limit;
}

} // namespace

std::span<const LimitSpec> match_limits() {
  static constexpr std::array list{LimitSpec{"drive.match", "Drive for this motor",
                                             "Whether the drive can run this kind of motor at all.", &match,
                                             LooksAt::motor, Follows::sums}};
  return list;
}

} // namespace fulmox
