#pragma once
#include "app/match/match_answer.hpp"
#include "app/session/change.hpp"

#include <QObject>

#include <memory>
#include <optional>

namespace fulmox::app {

class Session;

/// Tries every combination of the libraries on the present axis, beside the window; a newer edit ends the
/// older search. What was found last stays, told as old, until the new answer is there. Where that takes long
/// the best of it are tried first, on the axis as it is, and stand there so far.
class MatchSearch : public QObject {
  Q_OBJECT

public:
  explicit MatchSearch(Session& session, QObject* parent);

  /// Searches unless what is known already belongs to the axis as it is. What is asked of
  /// the answer is worked out before it is handed over.
  void renew(const ListAsked& asked);
  void also(AlsoSearched also, const ListAsked& asked);
  [[nodiscard]] AlsoSearched also() const { return also_; }
  void stop();

  [[nodiscard]] const std::shared_ptr<const MatchAnswer>& answer() const { return answer_; }
  /// While a long search runs: what was best in the old answer and still fits, settled on the axis as it is;
  /// where there is no such answer some of what fits; else null.
  [[nodiscard]] const std::shared_ptr<const MatchAnswer>& so_far() const { return so_far_; }
  /// A search that takes longer than this, in s, is worth telling what fits so far.
  void set_patience(double seconds) { patience_ = seconds; }
  /// True while the answer does not belong to what is typed.
  [[nodiscard]] bool old() const { return old_; }
  [[nodiscard]] bool running() const;
  [[nodiscard]] double progress() const;

signals:
  void found();
  void progressed();

private:
  [[nodiscard]] Axis asked_axis() const;
  void take(std::shared_ptr<const MatchAnswer> answer);
  void take_so_far(std::shared_ptr<const MatchAnswer> answer);

  Session& session_;
  AlsoSearched also_;
  std::optional<Axis> asked_; ///< whatever parts are fitted
  std::optional<Section> asked_rules_;
  std::shared_ptr<const MatchAnswer> answer_, so_far_;
  double patience_ = 0.15;
  std::size_t of_axis_ = 0; ///< whose answer it is
  bool old_ = false;
};

} // namespace fulmox::app
