#pragma once
#include "core/working/chain.hpp"

#include <string>

namespace fulmox {

/// The chain behind a result as plain text: formula in symbols, in numbers, result, source, inputs. One step
/// after the other, the result first.
std::string explain(const std::vector<Step>& steps, std::string_view result_id, UnitSet set);

} // namespace fulmox
