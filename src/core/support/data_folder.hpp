#pragma once
#include <filesystem>

namespace fulmox {

/// Folder of the shipped data (library, demo, house-rules): $FULMOX_DATA, else share/fulmox beside the folder
/// of the running program, the same in a build tree and after installation.
std::filesystem::path data_folder();

} // namespace fulmox
