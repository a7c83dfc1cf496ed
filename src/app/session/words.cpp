#include "app/session/words.hpp"

#include "core/quantity/format.hpp"

#include <cmath>

namespace fulmox::app {

QString told(double si, Kind kind) { return QString::fromStdString(shown(si, kind)); }

QString percent_used(double used) {
  if (std::isnan(used)) return "–";
  return used <= 9.995 ? QString::number(100.0 * used, 'f', 0) + " %" : QString("> 999 %");
}

} // namespace fulmox::app
