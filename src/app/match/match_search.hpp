#pragma once
#include "app/session/change.hpp"
#include "core/match/ranking.hpp"

#include <QObject>

#include <memory>
#include <optional>

namespace fulmox::app {

class Session;

/// What a search found, with the lists its places point into. Of very many that fit, the figures of those
/// that are looked at are worked out then.
struct MatchAnswer {
  MatchSpace space;
  mutable MatchResult result; ///< what is settled later is only better known
  std::shared_ptr<Settler> settle;
  static constexpr std::size_t settled_first =
      60; ///< rows: what is below is settled when it comes into sight

  /// One that fits, settled.
  [[nodiscard]] const Trial& fit(std::size_t place) const {
    (*settle)(result.fits[place]);
    return result.fits[place];
  }
};

/// Tries every combination of the libraries on the present axis, beside the window; a newer edit ends the
/// older search. What was found last stays, told as old, until the new answer is there.
class MatchSearch : public QObject {
  Q_OBJECT

public:
  explicit MatchSearch(Session& session, QObject* parent);

  /// By which weights the first of an answer are settled before it is handed over.
  void weigh(Weights weights) { weights_ = std::move(weights); }
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
  Weights weights_ = usual_weights();
  std::optional<Axis> asked_; ///< whatever parts are fitted
  std::optional<Section> asked_rules_;
  std::shared_ptr<const MatchAnswer> answer_;
  std::size_t of_axis_ = 0; ///< whose answer it is
  bool old_ = false;
};

} // namespace fulmox::app
