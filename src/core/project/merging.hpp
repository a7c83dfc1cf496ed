#pragma once
#include "core/project/document.hpp"

namespace fulmox {

/// All axes of another machine behind those that are there, with their blocks and with the buses and loads
/// that are not there yet; names of axes that are taken get a number, and blocks follow them.
void take_axes(Document& into, const Document& from);

} // namespace fulmox
