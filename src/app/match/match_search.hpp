#pragma once
#include "app/session/change.hpp"
#include "core/match/ranking.hpp"

#include <QObject>

#include <memory>
#include <optional>

namespace fulmox::app {

class Session;

/// What a search found, with the lists its places point into.
struct MatchAnswer {
  MatchSpace space;
  MatchResult result;
};

/// Tries every combination of the libraries on the present axis, beside the window; a newer edit ends the
/// older search. What was found last stays, told as old, until the new answer is there.
class MatchSearch : public QObject {
  Q_OBJECT

public:
  explicit MatchSearch(Session& session, QObject* parent);

  /// Searches unless what is known already belongs to the axis as it is.
  void renew();
  void also(AlsoSearched also);
  [[nodiscard]] AlsoSearched also() const { return also_; }
  void stop();

  [[nodiscard]] const std::shared_ptr<const MatchAnswer>& answer() const { return answer_; }
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

  Session& session_;
  AlsoSearched also_;
  std::optional<Axis> asked_; ///< whatever parts are fitted
  std::optional<Section> asked_rules_;
  std::shared_ptr<const MatchAnswer> answer_;
  std::size_t of_axis_ = 0; ///< whose answer it is
  bool old_ = false;
};

} // namespace fulmox::app
