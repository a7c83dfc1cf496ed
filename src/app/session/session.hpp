#pragma once
#include "app/jobs/jobs.hpp"
#include "app/session/change.hpp"
#include "app/session/part_sources.hpp"
#include "app/session/rule_sets.hpp"
#include "core/evaluation/machine.hpp"
#include "core/evaluation/plots.hpp"
#include "core/keeping/disk_stamp.hpp"
#include "core/keeping/keeper.hpp"
#include "core/library/part_library.hpp"
#include "core/project/history.hpp"

#include <QObject>
#include <QString>
#include <QTimer>

#include <functional>
#include <memory>
#include <optional>

namespace fulmox::app {

class CornerWatch;
class MachineWatch;

/// The open document, what follows from it, and where the user is in it. Every change goes through edit().
class Session : public QObject {
  Q_OBJECT

public:
  explicit Session(QObject* parent = nullptr);
  ~Session() override;

  [[nodiscard]] const Document& document() const { return history_.now(); }
  [[nodiscard]] bool has_axis() const { return axis_index_ < document().axes.size(); }
  [[nodiscard]] const Axis& axis() const { return document().axes[axis_index_]; }
  [[nodiscard]] std::size_t axis_index() const { return axis_index_; }
  void select_axis(std::size_t index);

  /// The section a path names: of the present axis, or the house rules; nullptr when there is none.
  [[nodiscard]] const Section* section(std::string_view path) const {
    return find_section(document(), axis_index_, path);
  }

  /// The last good results of the present axis; null before there were any.
  [[nodiscard]] const Evaluation* evaluation() const { return evaluation_.get(); }
  /// The last result of the present axis as it is typed, maybe of an earlier state; null before there was
  /// one.
  [[nodiscard]] SharedResult present_result() const {
    return axis_index_ < results_.size() ? results_[axis_index_] : nullptr;
  }
  /// What plots draw of them; empty without. Made when first asked for: not every view has plots.
  [[nodiscard]] const Plots& plots() const;
  /// True while the results shown do not belong to what is typed.
  [[nodiscard]] bool stale() const { return stale_; }
  /// True while a long cycle is worked out beside the window: the edit itself is shown first.
  [[nodiscard]] bool late() const { return late_; }
  /// Waits for what is worked out beside the window.
  void catch_up();
  Jobs& jobs() { return jobs_; }
  /// Where the typed spreads make the limits of the present axis worst.
  [[nodiscard]] CornerWatch& corner_watch() { return *corner_watch_; }
  /// All axes together: schedule, power, buses.
  [[nodiscard]] MachineWatch& machine_watch() { return *machine_watch_; }
  /// What keeps the present input from being worked out; empty `what` = nothing.
  [[nodiscard]] const Problem& problem() const { return problem_; }
  /// The same as told to the user: with the input's name as it stands beside its field.
  [[nodiscard]] QString problem_told() const;
  /// Worst used share of any axis, NaN when it cannot be worked out or is still to be.
  [[nodiscard]] double worst_used(std::size_t axis);
  /// What of any axis nothing judges, in words; "" where all is, or where it is not known yet.
  [[nodiscard]] QString left_open(std::size_t axis);

  /// The one door: changes a copy of the document, names the step, works it out.
  void edit(const QString& name, const QString& merge_key, const std::function<void(Document&)>& change);
  /// Types a text into a field of the present axis or the house rules ("load", "moved_mass"). A bare number
  /// gets the field's last unit.
  void type(const std::string& section, const std::string& field, const QString& text);
  void seal() { history_.seal(); }
  void undo();
  void redo();
  [[nodiscard]] const History& history() const { return history_; }

  /// Shows what another value of an input would do, without typing it; no value ends it.
  void what_if(const std::string& path, std::optional<double> value);
  /// What is being tried: "Friction coefficient 0.013"; empty when nothing is.
  [[nodiscard]] const QString& trial() const { return trial_; }

  void set_cursor(double time);
  [[nodiscard]] double cursor() const { return cursor_; }
  /// State at the cursor; only with an evaluation.
  [[nodiscard]] Instant at_cursor() const { return evaluation_->at(cursor_); }

  /// The first state of a run: empty.
  void start_empty();
  void new_document();
  /// Opens a file; gives the problem, if any, and then leaves everything as it was.
  std::optional<Problem> open(const QString& path);
  std::optional<Problem> save(const QString& path);
  [[nodiscard]] const QString& path() const { return path_; }
  [[nodiscard]] bool dirty() const { return !history_.saved(); }
  /// Opens a document that is not read from `path`: the demo, one that has no file.
  void adopt(Document document, const QString& path = {});
  /// Takes up unsaved work of a file; `saved` is what the file itself holds, nothing when it is damaged or
  /// the work never had one. The side file the work comes from goes once the work is kept in this session's
  /// own.
  void take_up(const KeptWork& work, Document kept, const QString& path,
               const std::optional<Document>& saved);

  /// The user's folder for unsaved work.
  [[nodiscard]] static std::filesystem::path state_folder();
  /// Unsaved work of a file that nobody is working on, newest first.
  [[nodiscard]] static std::vector<KeptWork> kept_for(const QString& path);
  /// The side file that keeps unsaved work; removed on a proper end.
  [[nodiscard]] QString autosave_path() const;
  void drop_autosave();
  /// Waits until the work as it was at the last autosave is on disk.
  void wait_until_kept() { keeper_.flush(); }

  /// Somebody else works on this file: nothing can be changed here until the user decides.
  [[nodiscard]] bool read_only() const { return read_only_; }
  /// Edits here all the same; whoever saves last is asked then.
  void edit_anyway();
  /// Goes on with a copy that has no file yet.
  void work_on_copy();
  /// Somebody else has changed the file since it was opened or saved here.
  [[nodiscard]] bool changed_on_disk() const { return disk_.outdated(); }
  /// The next save may replace what somebody else wrote.
  void overrule_disk() { disk_ = DiskStamp(path_.toStdString()); }

  const Library& library() const { return library_; }
  /// Other parts to choose from.
  void use(Library library);
  /// Where they come from, and what of it could not be read.
  [[nodiscard]] const Catalogue& catalogue() const { return catalogue_; }
  PartSources& part_sources() { return part_sources_; }
  /// Reads all sources anew beside the window.
  void read_libraries();
  const std::vector<Section>& house_rule_sets() const { return rule_sets_.all(); }
  /// Keeps the rules in force as a set of one's own, by their name; then they are offered like the shipped
  /// ones.
  std::optional<Problem> keep_rules();
  /// Takes the rules of a file; gives the problem, if any, and then changes nothing.
  std::optional<Problem> import_rules(const QString& path);
  std::optional<Problem> export_rules(const QString& path) const;
  /// Reads the shipped library and house rules; gives the problem, if any.
  std::optional<Problem> load_data();

signals:
  /// The document changed, was worked out, or the axis was switched. A long cycle tells this twice: with the
  /// edit, its results stale, and once they are known.
  void changed(Changes what);
  void cursor_moved();
  /// Somebody asks for the working of a result.
  void working_requested(const QString& result);
  /// Somebody looks at a limit ("motor.peak").
  void limit_chosen(std::string_view limit);
  /// Somebody wants to choose a part for a slot ("motor").
  void parts_requested(const QString& slot);
  /// Somebody asks to be taken to an input ("load.moved_mass").
  void input_requested(const QString& path);
  void autosave_failed(const QString& message);
  /// Somebody wants to be taken to a view ("axis").
  void view_requested(const QString& id);
  /// Libraries were read anew.
  void libraries_changed();
  /// An edit was refused because the machine is read only.
  void edit_refused();

public slots:
  void autosave();

private:
  /// Works out the axis, or what is tried of it: now, or soon when that takes long enough to be felt.
  void renew(Changes what);
  void work_out_present();
  /// Has a long cycle worked out beside the window, one at a time; what it was asked last counts.
  void work_out_later();
  void take(const SharedResult& result, std::optional<Plots> plots);
  void work_out_others();
  /// The result of an axis as it is now: the one known, or worked out afresh. With `worded`, warnings are in
  /// the present units.
  SharedResult result_of(std::size_t index, bool worded);
  /// Of any axis; null when it cannot be worked out or is still to be.
  std::shared_ptr<const Evaluation> evaluation_of(std::size_t index);
  void forget_results();
  void after_change(Changes what);
  void begin(const QString& path);
  /// Keeps the work aside soon: short enough to lose little, and no later for steady work.
  void keep_soon();

  History history_{Document()};
  std::size_t axis_index_ = 0;
  std::shared_ptr<const Evaluation> evaluation_; ///< of the present axis, or of what is tried of it
  mutable std::optional<Plots> plots_;           ///< nothing until they are asked for
  bool stale_ = false;
  Problem problem_;
  QString trial_;
  std::optional<Axis> tried_;
  bool late_ = false; ///< results are still to be worked out
  int asked_ = 0;     ///< how often the present axis was to be worked out
  QTimer work_timer_;
  double cursor_ = 0.0;
  QString path_;
  QTimer autosave_timer_;
  DiskStamp disk_;
  bool read_only_ = false;
  int changes_ = 0; ///< since the work was saved last
  Keeper keeper_;

  MachineResult results_; ///< last worked out of each axis; null where nothing was yet
  Library library_;
  Catalogue catalogue_;
  PartSources part_sources_;
  RuleSets rule_sets_;
  std::unique_ptr<CornerWatch> corner_watch_;
  std::unique_ptr<MachineWatch> machine_watch_;
  Jobs jobs_; // goes first: nothing is delivered to what is gone
};

/// Qt text of a core text.
inline QString qt(std::string_view text) {
  return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size()));
}

} // namespace fulmox::app
