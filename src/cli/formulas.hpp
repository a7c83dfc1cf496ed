#pragma once
#include "core/quantity/kind.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace fulmox::cli {

/// A bare number is taken in SI; plain numbers have no unit.
std::string_view bare_unit(Kind kind);

/// One formula of the book alone, its values as "name=value".
int eval_command(const std::string& id, const std::vector<std::string>& arguments);

} // namespace fulmox::cli
