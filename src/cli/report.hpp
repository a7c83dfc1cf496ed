#pragma once
#include "core/evaluation/evaluation.hpp"
#include "core/project/document.hpp"

#include <string>

namespace fulmox::cli {

/// All results and limits of a document, as JSON with ids, SI values and units.
std::string size_json(const Document& document, const std::vector<Evaluation>& evaluations);
/// The same for people.
std::string size_text(const Document& document, const std::vector<Evaluation>& evaluations);

/// The chain behind one result in every axis that has it, as JSON; "" when none has.
std::string explain_json(const Document& document, const std::vector<Evaluation>& evaluations,
                         std::string_view result);
/// The same for people, of one axis.
std::string explain_text(const Evaluation& evaluation, std::string_view result, UnitSet units);

/// All formulas.
std::string book_json();
std::string book_text();

/// One formula worked alone.
std::string eval_json(const Formula& formula, const Step& step);

/// The findings of a check.
std::string problems_json(const std::vector<Problem>& problems);

} // namespace fulmox::cli
