#pragma once
#include "core/evaluation/machine.hpp"

#include <string>

namespace fulmox::cli {

/// All results and limits of a document, as JSON with ids, SI values and units; an axis that cannot be worked
/// out has a "problem" instead.
std::string size_json(const Document& document, const std::vector<AxisResult>& results);
/// The same for people.
std::string size_text(const Document& document, const std::vector<AxisResult>& results);

/// What one axis has to say about a name: a result, a limit ("limit motor.peak"), a warning ("warning
/// friction_zero") or a step.
struct Explained {
  std::string axis;
  const Evaluation* evaluation = nullptr;
  const Limit* limit = nullptr;
  const Warning* warning = nullptr;
  std::vector<const Step*> chain; ///< empty where nothing was worked out

  [[nodiscard]] bool found() const { return limit != nullptr || warning != nullptr || !chain.empty(); }
};
Explained explained(const std::string& axis, const Evaluation& evaluation, std::string_view name);

/// As JSON, and for people.
std::string explain_json(std::string_view name, const std::vector<Explained>& all);
std::string explain_text(const std::vector<Explained>& all, UnitSet units);

/// All formulas.
std::string book_json();
std::string book_text();

/// One formula worked alone.
std::string eval_json(const Formula& formula, const Step& step);

/// The worksheet, a text in Markdown.
std::string worksheet_json(const Document& document);

/// The findings of a check.
std::string problems_json(const std::vector<Problem>& problems);

} // namespace fulmox::cli
