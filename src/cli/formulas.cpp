#include "cli/formulas.hpp"

#include "cli/input.hpp"
#include "cli/report.hpp"
#include "core/evaluation/book.hpp"

#include <cmath>
#include <iostream>

namespace fulmox::cli {

std::string_view bare_unit(Kind kind) {
  const KindInfo& about = info(kind);
  return about.dimension == Dimension{} ? std::string_view{} : about.si;
}

namespace {

Expected<std::vector<Term>> read_arguments(const Formula& formula,
                                           const std::vector<std::string>& arguments) {
  std::vector<std::vector<double>> values(formula.parameters.size());
  for (const std::string& argument : arguments) {
    const auto equals = argument.find('=');
    const std::string name = argument.substr(0, equals);
    std::size_t index = 0;
    while (index < formula.parameters.size() && formula.parameters[index].name != name) ++index;
    if (equals == std::string::npos || index == formula.parameters.size()) {
      std::string names;
      for (const Parameter& p : formula.parameters) names += " " + std::string(p.name);
      return Problem{argument, "this is not a value of " + std::string(formula.id) + ".",
                     "It takes name=value for:" + names + "."};
    }
    const Parameter& parameter = formula.parameters[index];
    const auto value = parse_quantity(argument.substr(equals + 1), parameter.kind, bare_unit(parameter.kind));
    if (!value)
      return Problem{name + (value.problem().where.empty() ? "" : ", " + value.problem().where),
                     value.problem().what, value.problem().remedy};
    if (!parameter.range.contains(value->value))
      return Problem{name, describe(parameter.range, parameter.kind), "Give another value."};
    if (const auto unheard = implausible(value->value, parameter.kind))
      return Problem{name, unheard->what, unheard->remedy};
    const bool repeats = formula.list && index + 1 == formula.parameters.size();
    if (!values[index].empty() && !repeats) return Problem{name, "it is given twice.", "Give it once."};
    values[index].push_back(value->value);
  }
  std::vector<Term> terms;
  for (std::size_t i = 0; i < values.size(); ++i) {
    if (values[i].empty())
      return Problem{std::string(formula.parameters[i].name), "the value is missing.",
                     std::string(formula.parameters[i].meaning) + ", in " +
                         std::string(info(formula.parameters[i].kind).si) + " or with its unit."};
    for (const double value : values[i]) terms.push_back({value, ""});
  }
  return terms;
}

} // namespace

int eval_command(const std::string& id, const std::vector<std::string>& arguments) {
  const Formula* formula = find_formula(id);
  if (formula == nullptr) return fail({id, "there is no such formula.", "fulmox-cli book lists them."});
  const auto terms = read_arguments(*formula, arguments);
  if (!terms) return fail(terms.problem());
  Recorder recorder(true);
  const Term result = recorder.apply(*formula, "eval", std::span<const Term>(*terms));
  if (!std::isfinite(result)) return fail({id, "the result is not a finite number.", "Check the values."});
  std::cout << eval_json(*formula, recorder.steps().front());
  return good;
}

} // namespace fulmox::cli
