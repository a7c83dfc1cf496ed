#pragma once
#include "core/machine/machine_run.hpp"

#include <string>

namespace fulmox {

/// The machine as a whole as Markdown: schedule, axes, and for every bus its power, voltage, limits and what
/// the installer must be told. "" for a machine without buses and without a schedule.
std::string machine_sheet(const Document& document, const MachineResult& results);

} // namespace fulmox
