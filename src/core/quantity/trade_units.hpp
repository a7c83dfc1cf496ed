#pragma once
#include "core/quantity/kind.hpp"

#include <string>
#include <string_view>

namespace fulmox {

/// The text with units as the trade writes them in a field of this kind put into those of the table: "40
/// oz-in" of a torque means 40 ozf·in, though elsewhere it is a mass less a length. The same text when there
/// is nothing of the kind. Common practice; the field's kind makes each of them plain.
std::string as_trade_writes(std::string_view text, Kind kind);

} // namespace fulmox
