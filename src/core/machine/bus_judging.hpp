#pragma once
#include "core/machine/bus_limits.hpp"

#include <cmath>

namespace fulmox {

// What the judges of a bus's limits have in common.

using Judged = std::optional<Limit>;

inline bool told(double value) { return !std::isnan(value); }

/// What is compared: a number, or a step that tells where it comes from.
struct Side : Term {
  Side(double number) : Term{number, ""} {}
  Side(const Term& term) : Term(term) {}
};

/// demand over capacity, as a step under the limit's name. The time is one of the machine's cycle, the input
/// the field of the bus that governs it.
Limit compare(const BusContext& context, std::string_view id, const Side& demand, const Side& capacity,
              Kind kind, std::string rule, std::optional<double> time = std::nullopt,
              std::string_view input = {});

/// Over because the bus collapsed: its moment, and no number after it.
Limit collapsed(const BusContext& context, std::string rule);

/// The V that what bears least on a bus bears, and what that is: NaN where nothing tells.
struct Borne {
  double volts = std::numeric_limits<double>::quiet_NaN();
  std::string whose;
};
Borne least_borne(const BusContext& context);

/// The limits of a controlled stop once the mains is gone.
std::span<const BusLimitSpec> stop_limit_specs();

/// The limits of chopper and brake resistor; none of them is judged where there is no chopper.
std::span<const BusLimitSpec> chopper_limit_specs();

} // namespace fulmox
