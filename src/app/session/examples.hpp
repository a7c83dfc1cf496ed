#pragma once
#include "core/library/part_library.hpp"
#include "core/project/document.hpp"

#include <QString>

namespace fulmox::app {

/// An axis to start from: "level", "vertical" or "incline". Motor, drive and coupling come from the library.
Axis example_axis(const QString& name, const Library& library);

} // namespace fulmox::app
