#include "core/library/catalogue.hpp"

#include "core/support/text_file.hpp"

#include <algorithm>

namespace fulmox {
namespace {

/// A library that anybody keeps is far smaller; a larger one would fill the memory.
constexpr std::uintmax_t file_limit = 64U * 1024U * 1024U;
constexpr std::size_t most_troubles = 500; ///< of one source: then the file is of another kind altogether

const SlotKind* kind_of_file(const std::filesystem::path& path, const SlotSpec*& slot) {
  static std::vector<std::pair<const SlotSpec*, SlotKind>> known = [] {
    std::vector<std::pair<const SlotSpec*, SlotKind>> all;
    for (const SlotSpec* one : part_slots())
      for (SlotKind& kind : one->kinds())
        if (!kind.library.empty()) all.emplace_back(one, std::move(kind));
    return all;
  }();
  for (const auto& [one, kind] : known)
    if (kind.library == path.filename().string()) {
      slot = one;
      return &kind;
    }
  return nullptr;
}

std::string known_files() {
  std::string all;
  for (const SlotSpec* slot : part_slots())
    for (const SlotKind& kind : slot->kinds())
      if (!kind.library.empty()) all += (all.empty() ? "" : ", ") + std::string(kind.library);
  return all;
}

} // namespace

PartName name_of(const Section& part) { return {part.text("maker"), part.text("part_number")}; }

Catalogue Catalogue::load(std::vector<PartSource> sources) {
  Catalogue catalogue;
  catalogue.sources_ = std::move(sources);
  for (std::size_t i = 0; i < catalogue.sources_.size(); ++i)
    if (catalogue.sources_[i].on) catalogue.read(i);
  catalogue.hide_doubles();
  return catalogue;
}

void Catalogue::read(std::size_t source) {
  const std::filesystem::path& path = sources_[source].path;
  std::error_code error;
  const SlotSpec* slot = nullptr;
  if (!std::filesystem::is_directory(path, error)) {
    if (const SlotKind* kind = kind_of_file(path, slot)) return read_file(source, path, *slot, *kind);
    const bool there = std::filesystem::exists(path, error);
    if (!there && sources_[source].own) return; // nothing was kept yet
    troubles_.push_back(
        {source,
         {path.string(), there ? "its name does not say what kind of parts it holds." : "it is not there.",
          there ? "Import it, or name it like one of " + known_files() + "."
                : "Take it off the list, or put it back."}});
    return;
  }
  bool any = false;
  for (const SlotSpec* one : part_slots())
    for (const SlotKind& kind : one->kinds()) {
      if (kind.library.empty() || !std::filesystem::exists(path / kind.library, error)) continue;
      any = true;
      read_file(source, path / kind.library, *one, kind);
    }
  if (!any && !sources_[source].own)
    troubles_.push_back(
        {source, {path.string(), "no library is in this folder.", "Files are named " + known_files() + "."}});
}

void Catalogue::read_file(std::size_t source, const std::filesystem::path& path, const SlotSpec& slot,
                          const SlotKind& kind) {
  const auto text = read_text_file(path, file_limit);
  if (!text) {
    troubles_.push_back({source, text.problem()});
    return;
  }
  PartsRead read = read_parts(*text, *kind.form, path.filename().string());
  auto& all = parts_[std::string(slot.id)];
  for (std::size_t i = 0; i < read.parts.size(); ++i)
    all.push_back({std::move(read.parts[i]), source, path.filename().string(), read.lines[i], std::nullopt});
  const std::size_t told = std::min(read.problems.size(), most_troubles);
  for (std::size_t i = 0; i < told; ++i) troubles_.push_back({source, std::move(read.problems[i])});
  if (read.problems.size() > told)
    troubles_.push_back({source,
                         {path.filename().string(),
                          "and " + std::to_string(read.problems.size() - told) + " more like these.",
                          "Mend the first ones, then look again."}});
}

void Catalogue::hide_doubles() {
  for (auto& [slot, parts] : parts_) {
    std::map<std::pair<std::string, std::string>, std::size_t> last;
    for (std::size_t i = 0; i < parts.size(); ++i)
      last[{parts[i].part.text("maker"), parts[i].part.text("part_number")}] = i;
    for (std::size_t i = 0; i < parts.size(); ++i)
      if (const std::size_t counts = last[{parts[i].part.text("maker"), parts[i].part.text("part_number")}];
          counts != i)
        parts[i].hidden_by = counts;
  }
}

const std::vector<StoredPart>& Catalogue::of(std::string_view slot) const {
  static const std::vector<StoredPart> none;
  const auto found = parts_.find(slot);
  return found != parts_.end() ? found->second : none;
}

Library Catalogue::library() const {
  Library library;
  for (const auto& [slot, stored] : parts_) {
    Parts parts;
    for (const StoredPart& one : stored)
      if (!one.hidden_by) parts.push_back(one.part);
    library.add(slot, std::move(parts));
  }
  return library;
}

std::size_t Catalogue::size_of(std::size_t source) const {
  std::size_t size = 0;
  for (const auto& [slot, stored] : parts_)
    size += static_cast<std::size_t>(std::count_if(
        stored.begin(), stored.end(), [&](const StoredPart& part) { return part.source == source; }));
  return size;
}

Expected<Library> load_library(const std::filesystem::path& folder) {
  const Catalogue catalogue = Catalogue::load({{folder, folder.filename().string()}});
  if (!catalogue.troubles().empty()) return catalogue.troubles().front().problem;
  return catalogue.library();
}

namespace {

constexpr std::string_view own_notice = "Kept by Fulmox; columns are described in docs/libraries.md.";

/// The file of a kind in an own folder, with what stands in it. What cannot be read there must not be lost.
struct OwnFile {
  std::filesystem::path path;
  Parts parts;
};
Expected<OwnFile> open_own(const PartSource& own, std::string_view slot, const SectionSpec& form) {
  const SlotSpec* spec = find_part_slot(slot);
  for (const SlotKind& kind : spec->kinds()) {
    if (kind.form != &form || kind.library.empty()) continue;
    OwnFile file{own.path / kind.library, {}};
    std::error_code error;
    if (!std::filesystem::exists(file.path, error)) return file;
    const auto text = read_text_file(file.path, file_limit);
    if (!text) return text.problem();
    PartsRead read = read_parts(*text, form, file.path.filename().string());
    if (!read.problems.empty())
      return Problem{read.problems.front().where, read.problems.front().what,
                     "Mend the file first: writing it now would lose that line. " +
                         read.problems.front().remedy};
    file.parts = std::move(read.parts);
    return file;
  }
  return Problem{std::string(slot), "parts of this kind are not kept in libraries.", ""};
}

std::optional<Problem> write_own(const PartSource& own, const OwnFile& file) {
  std::error_code error;
  std::filesystem::create_directories(own.path, error);
  if (error) return Problem{own.path.string(), "the folder cannot be made: " + error.message() + ".", ""};
  return write_text_file(file.path, write_parts(file.parts, columns_for(file.parts), own_notice));
}

void drop(Parts& parts, const PartName& name) {
  parts.erase(
      std::remove_if(parts.begin(), parts.end(), [&](const Section& part) { return name_of(part) == name; }),
      parts.end());
}

} // namespace

std::optional<Problem> keep_part(const PartSource& own, std::string_view slot, const Section& part,
                                 const std::optional<PartName>& was) {
  if (part.blank("part_number"))
    return Problem{std::string(slot) + ".part_number", "the part number is missing.",
                   "Every part needs one."};
  if (const auto wrong = part_faults(slot, part); !wrong.empty()) return wrong.front();
  auto opened = open_own(own, slot, part.spec());
  if (!opened) return opened.problem();
  OwnFile file = std::move(*opened);
  const PartName name = name_of(part);
  for (const Section& other : file.parts)
    if (other.text("part_number") == name.number && !(name_of(other) == name) &&
        !(was && name_of(other) == *was))
      return Problem{std::string(slot) + ".part_number",
                     "another part of that number stands in this library, of " + other.text("maker") + ".",
                     "Give each part its own."};
  const auto same = std::find_if(file.parts.begin(), file.parts.end(),
                                 [&](const Section& other) { return name_of(other) == (was ? *was : name); });
  if (same != file.parts.end()) {
    *same = part;
    const auto place = same - file.parts.begin();
    Section kept = *same;
    drop(file.parts, name); // one that had the new name already
    file.parts.insert(file.parts.begin() +
                          std::min<std::ptrdiff_t>(place, static_cast<std::ptrdiff_t>(file.parts.size())),
                      std::move(kept));
  } else {
    drop(file.parts, name);
    file.parts.push_back(part);
  }
  return write_own(own, file);
}

std::optional<Problem> keep_parts(const PartSource& own, std::string_view slot, const Parts& parts) {
  if (parts.empty()) return std::nullopt;
  auto opened = open_own(own, slot, parts.front().spec());
  if (!opened) return opened.problem();
  OwnFile file = std::move(*opened);
  std::map<std::string, std::size_t> at;
  for (std::size_t i = 0; i < file.parts.size(); ++i) at[file.parts[i].text("part_number")] = i;
  for (const Section& part : parts) {
    const auto [place, fresh] = at.emplace(part.text("part_number"), file.parts.size());
    if (fresh)
      file.parts.push_back(part);
    else
      file.parts[place->second] = part;
  }
  return write_own(own, file);
}

std::optional<Problem> remove_part(const PartSource& own, std::string_view slot, const Section& part) {
  auto opened = open_own(own, slot, part.spec());
  if (!opened) return opened.problem();
  OwnFile file = std::move(*opened);
  drop(file.parts, name_of(part));
  return write_own(own, file);
}

} // namespace fulmox
