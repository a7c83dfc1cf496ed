#pragma once
#include "core/evaluation/evaluation.hpp"
#include "core/project/document.hpp"

#include <memory>
#include <vector>

namespace fulmox {

/// The limit an axis comes nearest to, a thing that merely fits exactly left out; null when none is judged.
const Limit* worst_limit(const Evaluation& evaluation);
/// Its used share; NaN when none is judged.
double worst_used(const Evaluation& evaluation);
/// What of an axis nothing judges, in words: "3 limits are not judged"; "" where all is.
std::string left_open(const Evaluation& evaluation, const Axis& axis, const Document& document);

/// What follows from one axis of a machine: results, or what keeps it from being worked out. A value that
/// never changes; whoever needs it shares it.
struct AxisResult {
  std::shared_ptr<const Evaluation> evaluation; ///< null when there is a problem
  Problem problem;                              ///< empty `what` = none
  // what it was worked out from
  Axis axis;
  Section house_rules;
  UnitSet units; ///< words the warnings only

  /// Whether it belongs to this axis under these rules.
  [[nodiscard]] bool belongs_to(const Axis& axis, const Section& house_rules) const;
  /// The same; NaN also when it cannot be worked out.
  [[nodiscard]] double worst_used() const;
};
using SharedResult = std::shared_ptr<const AxisResult>;

/// Works out one axis; never throws, a fault of the program included.
SharedResult work_out(const Axis& axis, const Section& house_rules, UnitSet units);

/// One result per axis of a machine, in its order.
using MachineResult = std::vector<SharedResult>;

/// The result of an axis among those known before, in whatever place; null when there is none. `place` is
/// looked at first.
SharedResult known_result(const MachineResult& before, const Document& document, std::size_t place);

/// Works out every axis of which `before` does not hold the result: axes that did not change, were moved or
/// have others removed before them keep theirs.
MachineResult evaluate(const Document& document, const MachineResult& before = {});

} // namespace fulmox
