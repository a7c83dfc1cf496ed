#pragma once
#include "core/keeping/lock_file.hpp"
#include "core/project/document.hpp"

#include <filesystem>
#include <string>
#include <vector>

namespace fulmox {

/// Unsaved work in a side file. The side file is a machine like any other, with one more member, "kept".
struct KeptWork {
  std::filesystem::path file;    ///< the side file
  std::filesystem::path machine; ///< the file the work belongs to; empty for work that was never saved
  std::string name;              ///< of the machine
  std::int64_t when = 0;         ///< s since 1970
  int changes = 0;               ///< since it was saved last
  std::optional<Problem> unreadable;
};

/// Where side files and their locks lie. Beside `x.fulmox` stand `.x.fulmox.autosave` and, while somebody
/// works on it, `.x.fulmox.lock`; work without a file, and what cannot be written beside one, lies in the
/// user's state folder, each side file with a lock of the same name.
std::filesystem::path side_file_of(const std::filesystem::path& machine);
std::filesystem::path lock_of(const std::filesystem::path& side_file);

/// Writes a side file.
std::optional<Problem> keep_work(const Document& document, const KeptWork& about);

/// What a side file tells of itself. Never fails: an unreadable one tells why.
KeptWork look_at(const std::filesystem::path& side_file);
/// The work in it, as it was.
Expected<Document> kept_document(const std::filesystem::path& side_file);

/// Unsaved work that nobody is working on, newest first: of one machine ("" for work without a file) as far
/// as nobody has declined it, and all that lies in the state folder.
std::vector<KeptWork> kept_for(const std::filesystem::path& machine, const std::filesystem::path& state);
std::vector<KeptWork> kept_in(const std::filesystem::path& state);

/// Moves declined work into the state folder, where it stays for a week. Gives the problem, if any; then it
/// lies where it was.
std::optional<Problem> put_by(const KeptWork& work, const std::filesystem::path& state);
/// Removes what has been in the state folder for longer than a week at that time, s since 1970.
void forget_old(const std::filesystem::path& state, std::int64_t now);

} // namespace fulmox
