#pragma once
#include "core/evaluation/evaluation.hpp"
#include "core/match/ranking.hpp"
#include "core/requirements/duty.hpp"

#include <memory>

namespace fulmox {

/// A kind of motor on an axis by its best combination: the first by the weights of those that fit, else the
/// nearest miss.
struct KindCandidate {
  const MotorKind* kind = nullptr;
  std::string title;
  bool in_library = false; ///< any motor of the kind that can be tried
  bool judged = false;     ///< a combination is there, and below
  bool fits = false;
  Problem problem; ///< why nothing is judged; empty `what` where something is
  MatchSpace space;
  Trial trial;
  std::vector<Verdict::Over> over; ///< of a miss, the worst first
  double combinations = 0.0;       ///< of the kind that fit
  Standing standing;
  Axis axis; ///< with the combination put in
  std::shared_ptr<const Evaluation> evaluation;

  /// In a sentence: "the servo".
  [[nodiscard]] std::string name() const;
  /// "HS23-76-28 · TP60-5 · SS50-060".
  [[nodiscard]] std::string parts() const;
};

/// What is told of a candidate in one line of the table.
struct KindFigure {
  std::string text; ///< "" where there is nothing to tell
  std::string more; ///< what stands behind it
  double value = std::numeric_limits<double>::quiet_NaN();
};

struct KindFigureSpec {
  std::string_view id, label, help;
  enum class Better : std::uint8_t { less, more, neither } better = Better::neither;
  KindFigure (*figure)(const KindCandidate& candidate, const Duty& duty, UnitSet units);
};
std::span<const KindFigureSpec> kind_figures();

/// A sentence for a kind, against it, in doubt of it, or one that rules it out.
struct KindReason {
  enum class Side : std::uint8_t { excludes, speaks_for, against, doubt } side = Side::against;
  std::size_t kind = 0; ///< place among the candidates
  std::string text;
};

/// A matter on which practitioners differ, both views told.
struct School {
  std::string_view title, one, other;
};

struct KindsCompared {
  std::vector<KindCandidate> kinds; ///< in the order in which kinds are registered
  std::vector<KindReason> reasons;
  std::optional<std::size_t> first;  ///< the one recommended
  std::optional<std::size_t> second; ///< as good as that one, by the weights
  std::string advice;                ///< in words
  std::vector<School> schools;       ///< that concern the kinds at hand
  bool finished = false;             ///< false where it was cancelled
};

struct KindsRun {
  Weights weights = usual_weights();
  UnitSet units = UnitSet::si;
  AlsoSearched also;
  unsigned threads = 1;
  std::function<bool()> wanted;               ///< asked often; blank: always
  std::function<void(double share)> progress; ///< may be blank
};

/// Tries every kind of motor with all its motors, and says what speaks for and against each on this axis's
/// own numbers. Figures come from the full evaluation of each candidate; what no formula gives is told as
/// common practice (MotorTraits).
KindsCompared compare_kinds(const Axis& axis, const Section& house_rules, const Section& duty,
                            const Library& library, const KindsRun& run = {});

/// Sentences and advice from the candidates; `now` the axis as it stands.
void advise(KindsCompared& compared, const Section& house_rules, const Duty& duty, const KindsRun& run);

/// Energy from the bus in a year of work, J; NaN where it is not known.
double energy_a_year(const KindCandidate& candidate, const Duty& duty);
/// Price of all parts, and of the share of the supply by the power that is drawn; NaN where one is not known.
double price_of_all(const KindCandidate& candidate);
/// Hours until what wears first is worn, least and most.
std::array<double, 2> life_of(const KindCandidate& candidate);

} // namespace fulmox
