#pragma once
#include "core/library/part_library.hpp"
#include "core/project/document.hpp"

#include <QString>

#include <span>

namespace fulmox::app {

/// An axis to start from, and how the start page offers it.
struct Example {
  const char* name;
  const char* told;
};

/// One or more for every family of mechanism.
std::span<const Example> examples();

/// The axis of an example. Motor, drive and coupling come from the library; mechanisms that the demo machine
/// has are taken from there.
Axis example_axis(const QString& name, const Library& library);

} // namespace fulmox::app
