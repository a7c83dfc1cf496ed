#pragma once
#include "core/limits/limit.hpp"

#include <span>
#include <string>
#include <vector>

namespace fulmox {

/// A judgement worth a second look: what, why, and the input where it is mended.
struct Warning {
  std::string_view id;
  std::string title;
  std::string reason;
  std::string_view input;
};

struct WarningSpec {
  std::string_view id;
  std::optional<Warning> (*check)(const LimitContext&);
};

std::span<const WarningSpec> warning_specs();
/// Adds one.
void register_warning(const WarningSpec& warning);
std::vector<Warning> second_look(const LimitContext& context);

// What looks are made of.

/// A warning whose id its spec will tell.
Warning warning(std::string title, std::string reason, std::string_view input);
/// "12 %" of a share.
std::string percent(double share);

} // namespace fulmox
