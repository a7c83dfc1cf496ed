#pragma once
#include "core/support/text_file.hpp"

namespace fulmox::cli {

/// Prints a table that is made as CSV ("time [s],power [W]", then its rows, whole lines at a time) while it
/// is made: as it is, or as JSON, {"columns": [{"name": "time", "unit": "s"}, …], "rows": [[0, 17.2], …]}.
/// What is no number is a text then.
void print_table(const TextProducer& table, bool json);

} // namespace fulmox::cli
