#include "app/session/session.hpp"

#include "app/session/corner_watch.hpp"
#include "app/session/machine_watch.hpp"
#include "core/library/catalogue.hpp"
#include "core/library/house_rule_sets.hpp"
#include "core/project/follow_segments.hpp"
#include "core/project/names.hpp"
#include "core/project/typed_speed.hpp"
#include "core/project/unread.hpp"
#include "core/quantity/format.hpp"
#include "core/study/sensitivity.hpp"
#include "core/support/data_folder.hpp"

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
  connect(&work_timer_, &QTimer::timeout, this, &Session::work_out_later);
  // told first: while the machine is in sight its voltages come before the corners
  machine_watch_ = std::make_unique<MachineWatch>(*this);
  corner_watch_ = std::make_unique<CornerWatch>(*this);
}

Session::~Session() = default;

namespace {

/// Segments and points of a cycle from which on working it out takes long enough to be felt: some hundredths
/// of a second.
constexpr std::size_t felt = 1500;

std::size_t length_of(const Axis& axis) {
  std::size_t length = axis.cycle.size();
  for (const Section& segment : axis.cycle)
    for (std::size_t i = 0; i < segment.size(); ++i) length += segment.entry(i).curve.size();
  return length;
}

Changes changes_between(const Document& before, const Document& after, std::size_t axis) {
  Changes what = Change::machine;
  if (before.units != after.units) what |= Change::units;
  if (!(before.house_rules == after.house_rules) || !(before.duty == after.duty)) what |= Change::rules;
  const bool there = axis < before.axes.size(), still = axis < after.axes.size();
  if (there != still || (there && !(before.axes[axis] == after.axes[axis]))) what |= Change::axis;
  return what;
}

} // namespace

void Session::use(Library library) {
  library_ = std::move(library);
  emit changed(Change::axis);
}

std::optional<Problem> Session::load_data() {
  part_sources_.restore(data_folder() / "library");
  // what is shipped is there at once, and without a fault; what the user has added may be long
  catalogue_ = Catalogue::load({part_sources_.all().front()});
  if (!catalogue_.troubles().empty()) return catalogue_.troubles().front().problem;
  if (auto problem = rule_sets_.load(data_folder() / "house-rules")) return problem;
  library_ = catalogue_.library();
  std::error_code none;
  const auto sources = part_sources_.all();
  const bool more = sources.size() > 2 || std::filesystem::exists(sources.back().path, none);
  if (more || !sources.front().on) read_libraries();
  return std::nullopt;
}

void Session::read_libraries() {
  jobs_.start("libraries", [this, sources = part_sources_.all()](const JobLink& link) {
    auto catalogue = std::make_shared<Catalogue>(Catalogue::load(sources));
    auto library = std::make_shared<Library>(catalogue->library());
    link.deliver([this, catalogue, library] {
      catalogue_ = std::move(*catalogue);
      use(std::move(*library));
      emit libraries_changed();
    });
  });
}

std::optional<Problem> Session::keep_rules() {
  if (auto problem = rule_sets_.keep(document().house_rules)) return problem;
  emit changed(Change::rules);
  return std::nullopt;
}

std::optional<Problem> Session::import_rules(const QString& path) {
  auto rules = read_house_rules(path.toStdString());
  if (!rules) return rules.problem();
  // a misspelt rule would leave what is usual in force without a word
  if (const auto unread = unread_members(*rules); !unread.empty()) return problem_of(unread.front());
  edit("Import house rules", "", [&](Document& d) {
    const auto unknown = d.house_rules.unknown;
    d.house_rules = *rules;
    d.house_rules.unknown = unknown;
  });
  return std::nullopt;
}

std::optional<Problem> Session::export_rules(const QString& path) const {
  Section rules = document().house_rules;
  rules.unknown.clear();
  return write_house_rules(path.toStdString(), rules);
}

void Session::select_axis(std::size_t index) {
  if (index >= document().axes.size() || index == axis_index_) return;
  axis_index_ = index;
  forget_results();
  cursor_ = 0.0;
  after_change(Changes(Change::axis) | Change::machine);
}

std::shared_ptr<const Evaluation> Session::evaluation_of(std::size_t index) {
  if (index == axis_index_) return stale_ ? nullptr : evaluation_;
  if (const SharedResult known = known_result(results_, document(), index)) return known->evaluation;
  if (jobs_.running("other axes")) return nullptr;
  std::size_t length = 0;
  for (std::size_t i = 0; i < document().axes.size(); ++i)
    if (i != axis_index_ && known_result(results_, document(), i) == nullptr)
      length += length_of(document().axes[i]);
  if (length <= felt) return result_of(index, false)->evaluation;
  work_out_others();
  return nullptr;
}

double Session::worst_used(std::size_t index) {
  const auto evaluation = evaluation_of(index);
  return evaluation != nullptr ? fulmox::worst_used(*evaluation) : std::nan("");
}

QString Session::left_open(std::size_t index) {
  const auto evaluation = evaluation_of(index);
  return evaluation != nullptr ? qt(fulmox::left_open(*evaluation, document().axes[index], document()))
                               : QString();
}

void Session::work_out_others() {
  jobs_.start("other axes", [this, machine = document(), known = results_,
                             present = axis_index_](const JobLink& link) {
    for (std::size_t i = 0; i < machine.axes.size() && link.wanted(); ++i) {
      if (i == present || known_result(known, machine, i) != nullptr) continue;
      const SharedResult result = fulmox::work_out(machine.axes[i], machine.house_rules, machine.units);
      link.progress(static_cast<double>(i + 1) / static_cast<double>(machine.axes.size()));
      link.deliver([this, i, result] {
        results_.resize(std::max(results_.size(), i + 1));
        results_[i] = result;
        emit changed(Change::machine);
      });
    }
  });
}

SharedResult Session::result_of(std::size_t index, bool worded) {
  SharedResult known = known_result(results_, document(), index);
  if (known == nullptr || (worded && known->units != document().units))
    known = fulmox::work_out(document().axes[index], document().house_rules, document().units);
  results_.resize(std::max(results_.size(), document().axes.size()));
  results_[index] = known;
  return known;
}

void Session::edit(const QString& name, const QString& merge_key,
                   const std::function<void(Document&)>& change) {
  if (read_only_) {
    emit changed(any_change); // what was typed goes back to what is
    emit edit_refused();
    return;
  }
  Document next = document();
  change(next);
  follow_segments(document(), next);
  number_sections(next);
  const Changes what = changes_between(document(), next, axis_index_);
  history_.change(std::move(next), name.toStdString(), merge_key.toStdString());
  ++changes_;
  keep_soon();
  after_change(what);
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
  std::string typed = text.toStdString();
  if (has_axis()) typed = with_turns(axis(), section_path, spec, typed);
  Entry entry = make_entry(spec, typed, usual_unit(spec, section->entry(*index)));
  const Entry& before = section->entry(*index);
  // a value that is typed over keeps where it came from; what stood there before anybody typed is no guess
  // now
  entry.origin = before == preset_of(section->spec(), spec) ? Origin::given : before.origin;
  entry.note = before.note;
  const QString key =
      "type " + QString::number(axis_index_) + " " + QString::fromStdString(section_path + "." + field);
  const auto place = [&] { return std::stoul(section_path.substr(section_path.find('[') + 1)); };
  edit("Change " + qt(spec.label).toLower(), key, [&](Document& document) {
    // others speak of buses and blocks by their names
    if (section_path.starts_with("buses[") && field == "name")
      return rename_bus(document, place(), entry.text);
    if (section_path.starts_with("blocks[")) return change_block(document, place(), *index, std::move(entry));
    find_section(document, axis_index_, section_path)->put(*index, std::move(entry));
  });
}

void Session::undo() {
  const Document before = document();
  if (!history_.undo()) return;
  keep_soon();
  after_change(changes_between(before, document(), axis_index_));
}

void Session::redo() {
  const Document before = document();
  if (!history_.redo()) return;
  keep_soon();
  after_change(changes_between(before, document(), axis_index_));
}

void Session::after_change(Changes what) {
  const std::size_t last = document().axes.empty() ? 0 : document().axes.size() - 1;
  if (axis_index_ > last) {
    axis_index_ = last;
    what |= Change::axis;
  }
  if (tried_) what |= Change::axis;
  trial_.clear();
  tried_.reset();
  renew(what);
}

void Session::renew(Changes what) {
  ++asked_;
  late_ = has_axis() && length_of(tried_ ? *tried_ : axis()) > felt;
  if (!late_) {
    work_timer_.stop();
    jobs_.cancel("axis");
  }
  if (!has_axis()) {
    problem_ = {};
    forget_results();
    stale_ = false;
  } else if (late_) {
    problem_ = {};
    stale_ = evaluation_ != nullptr;
    if (!work_timer_.isActive() && !jobs_.running("axis")) work_timer_.start();
  } else {
    work_out_present();
  }
  emit changed(what);
}

void Session::work_out_later() {
  if (!late_) return;
  jobs_.start("axis", [this, wanted = tried_ ? *tried_ : axis(), rules = document().house_rules,
                       units = document().units, asked = asked_](const JobLink& link) {
    const SharedResult result = fulmox::work_out(wanted, rules, units);
    const auto plots = std::make_shared<Plots>();
    if (result->evaluation != nullptr) *plots = plots_of(*result->evaluation);
    link.deliver([this, result, plots, asked] {
      late_ = asked != asked_;
      take(result, std::move(*plots));
      // while a handle is dragged the results follow as fast as they can: still those of a moment ago
      if (late_) {
        stale_ = evaluation_ != nullptr;
        work_timer_.start();
      } else if (!tried_) {
        results_.resize(std::max(results_.size(), document().axes.size()));
        results_[axis_index_] = result;
      }
      emit changed(Changes(Change::axis) | Change::machine);
    });
  });
}

void Session::catch_up() {
  if (late_) {
    work_timer_.stop();
    work_out_later();
  }
  jobs_.wait();
}

void Session::what_if(const std::string& path, std::optional<double> value) {
  if (!has_axis()) return;
  if (!value) {
    if (!trial_.isEmpty()) after_change(Change::axis);
    return;
  }
  const auto tried = with_input(axis(), path, *value);
  if (!tried) return;
  const auto dot = path.rfind('.');
  const Section* section = this->section(path.substr(0, dot));
  const FieldSpec& field = section->field(*section->spec().index_of(path.substr(dot + 1)));
  trial_ = qt(field.label) + " " + qt(format(*value, field.kind, document().units).text());
  tried_ = *tried;
  renew(Change::axis);
}

void Session::forget_results() {
  evaluation_.reset();
  plots_.reset();
}

void Session::work_out_present() {
  const SharedResult tried =
      tried_ ? fulmox::work_out(*tried_, document().house_rules, document().units) : nullptr;
  const SharedResult result = tried != nullptr ? tried : result_of(axis_index_, true);
  take(result, std::nullopt);
}

const Plots& Session::plots() const {
  if (!plots_) plots_ = evaluation_ != nullptr ? plots_of(*evaluation_) : Plots();
  return *plots_;
}

void Session::take(const SharedResult& result, std::optional<Plots> plots) {
  problem_ = result->problem;
  if (result->evaluation == nullptr) {
    stale_ = evaluation_ != nullptr;
    return;
  }
  evaluation_ = result->evaluation;
  plots_ = std::move(plots);
  stale_ = false;
  cursor_ = std::clamp(cursor_, 0.0, evaluation_->model->load->cycle.duration);
}

QString Session::problem_told() const {
  Problem told = problem_;
  if (const std::string name = describe_path(document(), axis_index_, problem_.where); !name.empty())
    told.where = name;
  return qt(told.text());
}

void Session::set_cursor(double time) {
  if (!evaluation_) return;
  cursor_ = std::clamp(time, 0.0, evaluation_->model->load->cycle.duration);
  emit cursor_moved();
}

} // namespace fulmox::app
