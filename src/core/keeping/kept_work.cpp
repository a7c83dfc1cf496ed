#include "core/keeping/kept_work.hpp"

#include "core/support/text_file.hpp"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <ctime>
#include <functional>

namespace fulmox {
namespace {

namespace fs = std::filesystem;
using Json = nlohmann::json;

constexpr std::string_view tail = ".autosave";
constexpr std::string_view put_by_head =
    "kept-"; ///< of work that was declined: never offered by itself again
constexpr std::int64_t week = 7 * 24 * 3600;

/// Side files may be a little larger than the machine: they are read all the same.
constexpr std::uintmax_t side_limit = document_size_limit + 4096;

fs::path resolved(const fs::path& path) {
  std::error_code error;
  const fs::path full = fs::weakly_canonical(path, error);
  return error ? path : full;
}

std::int64_t written_at(const fs::path& file) {
  std::error_code error;
  const auto time = fs::last_write_time(file, error);
  if (error) return 0;
  const auto age = fs::file_time_type::clock::now() - time;
  return std::time(nullptr) - std::chrono::duration_cast<std::chrono::seconds>(age).count();
}

void read_about(KeptWork& work, const std::string& text) {
  const Json about = Json::parse(text, nullptr, false);
  if (!about.is_object()) return;
  const auto number = [&](const char* member) {
    const auto found = about.find(member);
    return found != about.end() && found->is_number_integer() ? found->get<std::int64_t>() : 0;
  };
  if (const auto machine = about.find("machine"); machine != about.end() && machine->is_string())
    work.machine = machine->get<std::string>();
  if (number("when") > 0) work.when = number("when");
  work.changes = static_cast<int>(std::clamp<std::int64_t>(number("changes"), 0, 1'000'000));
}

std::vector<KeptWork> newest_first(std::vector<KeptWork> all) {
  std::sort(all.begin(), all.end(), [](const KeptWork& a, const KeptWork& b) { return a.when > b.when; });
  return all;
}

} // namespace

fs::path side_file_of(const fs::path& machine) {
  const fs::path full = resolved(machine);
  std::string name = full.filename().string();
  constexpr std::size_t longest = 200; // names end at 255 bytes
  if (name.size() > longest) name = name.substr(0, 60) + std::to_string(std::hash<std::string>{}(name));
  return full.parent_path() / ("." + name + std::string(tail));
}

fs::path lock_of(const fs::path& side_file) {
  fs::path lock = side_file;
  return lock.replace_extension(".lock");
}

std::optional<Problem> keep_work(const Document& document, const KeptWork& about) {
  Document kept = document;
  kept.unknown["kept"] =
      Json{{"machine", about.machine.string()}, {"when", about.when}, {"changes", about.changes}}.dump(
          -1, ' ', false, Json::error_handler_t::replace);
  return write_readable(to_json(kept), about.file, side_limit);
}

Expected<Document> kept_document(const fs::path& side_file) {
  const auto text = read_text_file(side_file, side_limit);
  if (!text) return text.problem();
  auto document = from_json(*text);
  if (document) (*document).unknown.erase("kept");
  return document;
}

KeptWork look_at(const fs::path& side_file) {
  KeptWork work;
  work.file = side_file;
  work.when = written_at(side_file);
  const auto text = read_text_file(side_file, side_limit);
  const auto document = text ? from_json(*text) : Expected<Document>(text.problem());
  if (!document) {
    work.unreadable = document.problem();
    return work;
  }
  work.name = document->name;
  if (const auto about = document->unknown.find("kept"); about != document->unknown.end())
    read_about(work, about->second);
  return work;
}

std::vector<KeptWork> kept_in(const fs::path& state) {
  std::vector<KeptWork> all;
  std::error_code error;
  for (fs::directory_iterator entry(state, error), end; !error && entry != end; entry.increment(error))
    if (entry->path().extension() == tail && !holder_of(lock_of(entry->path())))
      all.push_back(look_at(entry->path()));
  return newest_first(std::move(all));
}

std::vector<KeptWork> kept_for(const fs::path& machine, const fs::path& state) {
  std::vector<KeptWork> all;
  for (KeptWork& work : kept_in(state)) {
    const bool decided = work.file.filename().string().starts_with(put_by_head);
    const bool same = work.machine.empty() ? machine.empty()
                                           : !machine.empty() && resolved(work.machine) == resolved(machine);
    if (!decided && same) all.push_back(std::move(work));
  }
  if (machine.empty()) return newest_first(std::move(all));
  const fs::path beside = side_file_of(machine);
  std::error_code error;
  if (fs::exists(beside, error) && !holder_of(lock_of(beside))) all.push_back(look_at(beside));
  return newest_first(std::move(all));
}

std::optional<Problem> put_by(const KeptWork& work, const fs::path& state) {
  if (work.file.parent_path() == state && work.file.filename().string().starts_with(put_by_head))
    return std::nullopt;
  std::error_code error;
  fs::create_directories(state, error);
  const std::string stem = std::string(put_by_head) + std::to_string(std::time(nullptr)) + "-" +
                           std::to_string(std::hash<std::string>{}(work.file.string()) % 1'000'000);
  fs::path target = state / (stem + std::string(tail));
  for (int n = 2; fs::exists(target, error); ++n)
    target = state / (stem + "-" + std::to_string(n) + std::string(tail));
  fs::rename(work.file, target, error);
  if (error) { // the state folder may lie on another disk: copy, then remove
    error.clear();
    fs::copy_file(work.file, target, error);
    if (!error) fs::remove(work.file, error);
  }
  std::error_code ignored;
  fs::last_write_time(target, fs::file_time_type::clock::now(), ignored); // its week begins
  if (!error) return std::nullopt;
  return Problem{work.file.string(), "the unsaved work cannot be moved: " + error.message() + ".",
                 "Copy it to a safe place."};
}

void forget_old(const fs::path& state, std::int64_t now) {
  std::error_code error;
  for (fs::directory_iterator entry(state, error), end; !error && entry != end; entry.increment(error)) {
    const fs::path& file = entry->path();
    if (file.extension() != tail && file.extension() != ".lock") continue;
    if (holder_of(lock_of(file))) continue;
    std::error_code ignored;
    if (now - written_at(file) > week) fs::remove(file, ignored);
  }
}

} // namespace fulmox
