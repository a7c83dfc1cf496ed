#pragma once
#include <string>
#include <vector>

namespace CLI {
class App;
}

namespace fulmox::cli {

/// What the library command is told.
struct LibraryOptions {
  std::vector<std::string> sources;
  bool json = false;
};
CLI::App* library_options(CLI::App& app, LibraryOptions& options);
/// What libraries hold, what of them could not be read, which of double parts counts, and the remarks on
/// every sheet.
int library_command(const LibraryOptions& options);

/// What the import-parts command is told.
struct ImportPartsOptions {
  std::string file, kind, into, maker;
  std::vector<std::string> columns; ///< "Order number=part_number", "Bore=bore_max mm"
  bool decimal_comma = false, json = false;
};
CLI::App* import_parts_options(CLI::App& app, ImportPartsOptions& options);
/// Reads a list of parts of another layout into a folder of libraries.
int import_parts_command(const ImportPartsOptions& options);

} // namespace fulmox::cli
