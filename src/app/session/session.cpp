#include "app/session/session.hpp"

#include "core/library/house_rule_sets.hpp"
#include "core/quantity/format.hpp"
#include "core/study/sensitivity.hpp"
#include "core/support/data_folder.hpp"

#include <QFile>
#include <QStandardPaths>

#include <algorithm>
#include <cmath>

namespace fulmox::app {

Session::Session(QObject* parent)
    : QObject(parent), keeper_(state_folder(), [this](const Problem& problem) {
        // told from the thread that writes
        QMetaObject::invokeMethod(this, [this, problem] {
          emit autosave_failed(qt("Unsaved work cannot be kept beside its file: " + problem.text()));
        });
      }) {
  autosave_timer_.setSingleShot(true);
  autosave_timer_.setInterval(2000);
  connect(&autosave_timer_, &QTimer::timeout, this, &Session::autosave);
  work_timer_.setSingleShot(true);
  // while a handle is dragged the results follow ten times a second
  work_timer_.setInterval(100);
  connect(&work_timer_, &QTimer::timeout, this, &Session::catch_up);
}

std::optional<Problem> Session::load_data() {
  auto library = load_library(data_folder() / "library");
  if (!library) return library.problem();
  auto rules = load_house_rules(data_folder() / "house-rules");
  if (!rules) return rules.problem();
  library_ = std::move(*library);
  rule_sets_ = std::move(*rules);
  return std::nullopt;
}

void Session::select_axis(std::size_t index) {
  if (index >= document().axes.size() || index == axis_index_) return;
  axis_index_ = index;
  forget_results();
  cursor_ = 0.0;
  after_change();
}

double Session::worst_used(std::size_t index) {
  if (index != axis_index_) return result_of(index, false).worst_used();
  return evaluation_ != nullptr && !stale_ ? fulmox::worst_used(*evaluation_) : std::nan("");
}

const AxisResult& Session::result_of(std::size_t index, bool worded) {
  SharedResult known = known_result(results_, document(), index);
  if (known == nullptr || (worded && known->units != document().units))
    known = fulmox::work_out(document().axes[index], document().house_rules, document().units);
  results_.resize(std::max(results_.size(), document().axes.size()));
  results_[index] = known;
  return *results_[index];
}

void Session::edit(const QString& name, const QString& merge_key,
                   const std::function<void(Document&)>& change) {
  if (read_only_) {
    emit changed(); // what was typed goes back to what is
    emit edit_refused();
    return;
  }
  Document next = document();
  change(next);
  number_sections(next);
  history_.change(std::move(next), name.toStdString(), merge_key.toStdString());
  ++changes_;
  keep_soon();
  after_change();
}

void Session::keep_soon() {
  if (!autosave_timer_.isActive()) autosave_timer_.start();
}

void Session::type(const std::string& section_path, const std::string& field, const QString& text) {
  const Section* section = this->section(section_path);
  if (section == nullptr) return;
  const auto index = section->spec().index_of(field);
  if (!index) return;
  const FieldSpec& spec = section->field(*index);
  Entry entry = make_entry(spec, text.toStdString(), usual_unit(spec, section->entry(*index)));
  entry.origin = section->entry(*index).origin;
  entry.note = section->entry(*index).note;
  const QString key =
      "type " + QString::number(axis_index_) + " " + QString::fromStdString(section_path + "." + field);
  edit("Change " + qt(spec.label).toLower(), key, [&](Document& document) {
    find_section(document, axis_index_, section_path)->put(*index, std::move(entry));
  });
}

void Session::undo() {
  if (!history_.undo()) return;
  keep_soon();
  after_change();
}

void Session::redo() {
  if (!history_.redo()) return;
  keep_soon();
  after_change();
}

void Session::after_change() {
  if (axis_index_ >= document().axes.size())
    axis_index_ = document().axes.empty() ? 0 : document().axes.size() - 1;
  trial_.clear();
  tried_.reset();
  renew();
}

void Session::renew() {
  // pieces of motion: ten times as many as a long cycle usually has; they take a few hundredths of a second
  constexpr std::size_t felt = 1500;
  late_ = has_axis() && evaluation_ && evaluation_->model->cycle.pieces.size() > felt;
  if (!late_) work_timer_.stop();
  if (!has_axis()) {
    problem_ = {};
    forget_results();
    stale_ = false;
  } else if (late_) {
    problem_ = {};
    stale_ = true;
    if (!work_timer_.isActive()) work_timer_.start();
  } else {
    work_out_present();
  }
  emit changed();
}

void Session::catch_up() {
  if (!late_) return;
  late_ = false;
  work_timer_.stop();
  work_out_present();
  emit changed();
}

void Session::what_if(const std::string& path, std::optional<double> value) {
  if (!has_axis()) return;
  if (!value) {
    if (!trial_.isEmpty()) after_change();
    return;
  }
  const auto tried = with_input(axis(), path, *value);
  if (!tried) return;
  const auto dot = path.rfind('.');
  const Section* section = this->section(path.substr(0, dot));
  const FieldSpec& field = section->field(*section->spec().index_of(path.substr(dot + 1)));
  trial_ = qt(field.label) + " " + qt(format(*value, field.kind, document().units).text());
  tried_ = *tried;
  renew();
}

void Session::forget_results() {
  evaluation_.reset();
  plots_ = {};
}

void Session::work_out_present() {
  const SharedResult tried =
      tried_ ? fulmox::work_out(*tried_, document().house_rules, document().units) : nullptr;
  const AxisResult& result = tried != nullptr ? *tried : result_of(axis_index_, true);
  problem_ = result.problem;
  if (result.evaluation == nullptr) {
    stale_ = evaluation_ != nullptr;
    return;
  }
  evaluation_ = result.evaluation;
  plots_ = plots_of(*evaluation_);
  stale_ = false;
  cursor_ = std::clamp(cursor_, 0.0, evaluation_->model->cycle.duration);
}

QString Session::problem_told() const {
  Problem told = problem_;
  if (const std::string name = describe_path(document(), axis_index_, problem_.where); !name.empty())
    told.where = name;
  return qt(told.text());
}

void Session::set_cursor(double time) {
  if (!evaluation_) return;
  cursor_ = std::clamp(time, 0.0, evaluation_->model->cycle.duration);
  emit cursor_moved();
}

void Session::begin(const QString& path) {
  autosave_timer_.stop();
  path_ = path;
  read_only_ = !keeper_.attach(path.toStdString());
  disk_ = DiskStamp(path.toStdString());
  changes_ = 0;
  axis_index_ = 0;
  results_.clear();
  forget_results();
  cursor_ = 0.0;
}

void Session::adopt(Document document, const QString& path) {
  begin(path);
  history_.reset(std::move(document));
  after_change();
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
  after_change();
  autosave();
  keeper_.flush();
  if (QFile::exists(autosave_path()) && work.file != autosave_path().toStdString())
    QFile::remove(QString::fromStdString(work.file.string()));
}

void Session::start_empty() {
  Document document;
  if (!rule_sets_.empty()) document.house_rules = rule_sets_.front();
  history_.reset(std::move(document));
  after_change();
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
  emit changed();
  return std::nullopt;
}

void Session::edit_anyway() {
  read_only_ = false;
  emit changed();
}

void Session::work_on_copy() {
  path_.clear();
  read_only_ = false;
  disk_ = {};
  keeper_.attach({});
  history_.mark_unsaved();
  keep_soon();
  emit changed();
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
