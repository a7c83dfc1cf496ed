#pragma once
#include <CLI/CLI.hpp>

namespace fulmox::cli {

/// An option that takes a number of a range; said in words, "nan" refused.
CLI::Validator number_from(double low, double high);

} // namespace fulmox::cli
