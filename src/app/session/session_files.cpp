// Where the session's work comes from and where it is kept: files, unsaved work beside them.

#include "app/session/session.hpp"

#include <QFile>
#include <QStandardPaths>

#include <algorithm>
#include <filesystem>

namespace fulmox::app {

void Session::begin(const QString& path) {
  autosave_timer_.stop();
  path_ = path;
  read_only_ = !keeper_.attach(path.toStdString());
  disk_ = DiskStamp(path.toStdString());
  changes_ = 0;
  axis_index_ = 0;
  jobs_.cancel("axis");
  jobs_.cancel("other axes");
  results_.clear();
  forget_results();
  cursor_ = 0.0;
}

void Session::adopt(Document document, const QString& path) {
  begin(path);
  history_.reset(std::move(document));
  after_change(any_change);
}

void Session::take_up(const KeptWork& work, Document kept, const QString& path,
                      const std::optional<Document>& saved) {
  begin(path);
  changes_ = std::max(1, work.changes);
  if (saved) {
    history_.reset(*saved);
    history_.change(std::move(kept), "Recover unsaved work");
  } else {
    history_.reset(std::move(kept));
    history_.mark_unsaved();
  }
  after_change(any_change);
  autosave();
  keeper_.flush();
  if (QFile::exists(autosave_path()) && work.file != autosave_path().toStdString())
    QFile::remove(QString::fromStdString(work.file.string()));
}

void Session::start_empty() {
  Document document;
  if (!house_rule_sets().empty()) document.house_rules = house_rule_sets().front();
  history_.reset(std::move(document));
  after_change(any_change);
}

void Session::new_document() {
  begin({});
  start_empty();
}

std::optional<Problem> Session::open(const QString& path) {
  auto document = load_document(path.toStdString());
  if (!document) return document.problem();
  adopt(std::move(*document), path);
  return std::nullopt;
}

std::optional<Problem> Session::save(const QString& path) {
  const auto side = side_file_of(path.toStdString());
  const bool other_file = path_.isEmpty() || side != side_file_of(path_.toStdString());
  if (read_only_ ? !other_file : other_file && holder_of(lock_of(side)))
    return Problem{path.toStdString(), "somebody else works on this file.", "Save under another name."};
  if (auto problem = save_document(document(), path.toStdString())) return problem;
  autosave_timer_.stop();
  if (other_file)
    read_only_ = !keeper_.attach(path.toStdString());
  else
    keeper_.drop();
  path_ = path;
  disk_ = DiskStamp(path.toStdString());
  changes_ = 0;
  history_.mark_saved();
  emit changed(Change::machine);
  return std::nullopt;
}

void Session::edit_anyway() {
  read_only_ = false;
  emit changed(Change::machine);
}

void Session::work_on_copy() {
  path_.clear();
  read_only_ = false;
  disk_ = {};
  keeper_.attach({});
  history_.mark_unsaved();
  keep_soon();
  emit changed(Change::machine);
}

std::filesystem::path Session::state_folder() {
  return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation).toStdString();
}

std::vector<KeptWork> Session::kept_for(const QString& path) {
  return fulmox::kept_for(path.toStdString(), state_folder());
}

QString Session::autosave_path() const { return QString::fromStdString(keeper_.side_file().string()); }

void Session::autosave() {
  if (!dirty()) return drop_autosave();
  keeper_.keep(document(), changes_);
}

void Session::drop_autosave() {
  autosave_timer_.stop();
  keeper_.drop();
}

} // namespace fulmox::app
