#pragma once
#include "core/machine/machine_run.hpp"

#include <QObject>
#include <QTimer>

#include <memory>
#include <optional>

namespace fulmox::app {

class Session;

/// Everything beyond the single axis: schedule, power and buses, worked out beside the window, newest first.
/// Where the buses' voltages take long the power is there before them; what was known last stays until then.
class MachineWatch : public QObject {
  Q_OBJECT

public:
  explicit MachineWatch(Session& session);

  /// Null before anything is known.
  [[nodiscard]] const MachineRun* run() const { return run_.get(); }
  [[nodiscard]] std::shared_ptr<const MachineRun> shared() const { return run_; }
  /// Results of all axes the run was worked out from, as typed.
  [[nodiscard]] const MachineResult& results() const { return results_; }
  /// The axes judged at the voltages they get; null where one is on no bus.
  [[nodiscard]] const MachineResult& fed_results() const { return fed_; }
  /// What is known does not belong to what is typed; found() tells when that is felt.
  [[nodiscard]] bool old() const { return state_ == State::old; }
  /// The voltages are known, what the axes make of them is still of before.
  [[nodiscard]] bool judging() const { return state_ == State::judging; }
  /// Works out now what waits: for who looks at it.
  void look();
  /// Somebody shows it: edits are followed at once instead of after a pause.
  void set_seen(bool seen);

signals:
  void found();

private:
  void renew();
  void work_out();
  [[nodiscard]] MachineResult known_results() const;
  struct Known {
    std::shared_ptr<const MachineRun> run;
    MachineResult results; ///< from which it was worked out
  };
  enum class State : std::uint8_t { old, judging, known };
  void take(Known known, State state);

  Session& session_;
  std::shared_ptr<const MachineRun> run_;
  MachineResult results_, fed_;
  std::optional<Document> asked_; ///< what is or was last worked out
  QTimer pause_;
  Known quick_;     ///< power without voltages, shown only where these take long
  QTimer patience_; ///< until it ends what was known stays, and is not told as old
  std::size_t runs_ = 0;
  State state_ = State::known;
  bool seen_ = false;
  bool soon_ = false; ///< the last voltages were there before waiting was felt: the next may be, too
};

} // namespace fulmox::app
