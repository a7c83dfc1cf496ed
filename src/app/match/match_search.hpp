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
  std::vector<Combination> best = {}; ///< by weights and filter when it was asked for, the best first
  double seconds = 0.0;               ///< that the search took
  /// Places of those that pass, best first; the first rows settled, what is below when it comes into sight.
  [[nodiscard]] std::vector<std::size_t> order(const Weights& weights, const Filter& filter) const;

  /// One that fits, settled.
  [[nodiscard]] const Trial& fit(std::size_t place) const {
    (*settle)(result.fits[place]);
    return result.fits[place];
  }
};

/// Tries every combination of the libraries on the present axis, beside the window; a newer edit ends the
/// older search. What was found last stays, told as old, until the new answer is there. Where that takes long
/// the best of it are tried first, on the axis as it is, and stand there so far.
class MatchSearch : public QObject {
  Q_OBJECT

public:
  explicit MatchSearch(Session& session, QObject* parent);

  /// Searches unless what is known already belongs to the axis as it is. By these weights and this filter the
  /// first of an answer are settled before it is handed over.
  void renew(const Weights& weights, const Filter& filter);
  void also(AlsoSearched also, const Weights& weights, const Filter& filter);
  [[nodiscard]] AlsoSearched also() const { return also_; }
  void stop();

  [[nodiscard]] const std::shared_ptr<const MatchAnswer>& answer() const { return answer_; }
  /// While the answer is old: what was best in it and still fits, settled on the axis as it is; else null.
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
