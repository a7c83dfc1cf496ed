#pragma once
#include "core/quantity/kind.hpp"

#include <QString>

namespace fulmox::app {

/// A value as it is shown, with its unit: "12.5 mm".
QString told(double si, Kind kind);

/// How far a limit is used, in whole percent; what is far beyond is only said to be, not judged (NaN) is "–".
QString percent_used(double used);

} // namespace fulmox::app
