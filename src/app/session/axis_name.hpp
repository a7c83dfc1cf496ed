#pragma once
#include <cstddef>

class QWidget;

namespace fulmox::app {

class Session;

/// Asks for another name of an axis, until it is one that no other axis has or the user gives up.
void ask_axis_name(Session& session, std::size_t axis, QWidget* parent);

} // namespace fulmox::app
