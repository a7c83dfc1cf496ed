#include "app/session/part_sources.hpp"

#include "core/support/text_file.hpp"

#include <QFileInfo>
#include <QSettings>
#include <QStandardPaths>

#include <algorithm>

namespace fulmox::app {
namespace {

std::filesystem::path folder_of(QStandardPaths::StandardLocation where) {
  return QStandardPaths::writableLocation(where).toStdString();
}

PartSource source_of(const QString& path) {
  return {path.toStdString(), QFileInfo(path).fileName().toStdString()};
}

} // namespace

std::filesystem::path PartSources::own_folder() {
  return folder_of(QStandardPaths::AppDataLocation) / "library";
}

std::filesystem::path PartSources::mappings_file() {
  return folder_of(QStandardPaths::AppConfigLocation) / "list-layouts.json";
}

void PartSources::restore(const std::filesystem::path& shipped) {
  const QStringList off = QSettings().value("libraries_off").toStringList();
  const auto on = [&](const QString& path) { return !off.contains(path); };
  all_ = {{shipped, "shipped", false, on("shipped")}};
  for (const QString& path : QSettings().value("libraries").toStringList()) {
    all_.push_back(source_of(path));
    all_.back().on = on(path);
  }
  all_.push_back({own_folder(), "my own", true, on("own")});
  constexpr std::uintmax_t limit = 1U << 20U;
  if (const auto text = read_text_file(mappings_file(), limit)) mappings_ = mappings_from_json(*text);
}

void PartSources::keep() const {
  QStringList paths, off;
  for (std::size_t i = 0; i < all_.size(); ++i) {
    const QString path = QString::fromStdString(all_[i].path.string());
    if (movable(i)) paths << path;
    if (!all_[i].on) off << (i == 0 ? "shipped" : all_[i].own ? "own" : path);
  }
  QSettings settings;
  settings.setValue("libraries", paths);
  settings.setValue("libraries_off", off);
}

bool PartSources::add(const QString& path) {
  const PartSource added = source_of(QFileInfo(path).absoluteFilePath());
  const auto same = [&](const PartSource& known) { return known.path == added.path; };
  if (std::any_of(all_.begin(), all_.end(), same)) return false;
  all_.insert(all_.end() - 1, added);
  keep();
  return true;
}

void PartSources::remove(std::size_t place) {
  if (!movable(place)) return;
  all_.erase(all_.begin() + static_cast<std::ptrdiff_t>(place));
  keep();
}

void PartSources::move(std::size_t place, int step) {
  const std::size_t to = place + static_cast<std::size_t>(step); // wraps to nothing movable
  if (!movable(place) || !movable(to)) return;
  std::swap(all_[place], all_[to]);
  keep();
}

void PartSources::turn(std::size_t place, bool on) {
  if (place >= all_.size()) return;
  all_[place].on = on;
  keep();
}

const CsvMapping* PartSources::mapping(const std::string& key) const {
  const auto found = std::find_if(mappings_.begin(), mappings_.end(),
                                  [&](const CsvMapping& mapping) { return mapping.key() == key; });
  return found != mappings_.end() ? &*found : nullptr;
}

std::optional<Problem> PartSources::remember(const CsvMapping& mapping) {
  std::erase_if(mappings_, [&](const CsvMapping& known) { return known.key() == mapping.key(); });
  mappings_.push_back(mapping);
  std::error_code error;
  std::filesystem::create_directories(mappings_file().parent_path(), error);
  return write_text_file(mappings_file(), mappings_to_json(mappings_));
}

} // namespace fulmox::app
