#pragma once
#include <QString>

namespace fulmox::app {

class Session;

/// What the machine's bus says of the axis in view, as rich text with a link to the machine; "" where it is
/// on none: its supply's limits stand on the ladder itself then.
QString bus_note(Session& session);

} // namespace fulmox::app
