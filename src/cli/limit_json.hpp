#pragma once
#include "core/limits/limit.hpp"

#include <nlohmann/json.hpp>

#include <string>

namespace fulmox::cli {

/// JSON has no infinity and nothing that is no number: what grows without bound is told as "unbounded", what
/// is not known as null.
nlohmann::ordered_json number(double value);

/// A number that has a value, else null.
nlohmann::ordered_json finite(double value);

/// A limit as every command prints it.
nlohmann::ordered_json limit_json(const Limit& limit);

/// How far a limit is used, in words.
std::string percent_used(double used);

} // namespace fulmox::cli
