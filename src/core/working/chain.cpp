#include "core/working/chain.hpp"

#include "core/quantity/format.hpp"

#include <algorithm>
#include <array>
#include <functional>
#include <unordered_map>

namespace fulmox {
namespace {

/// Replaces each {name} by what `fill` gives for it; `raised` tells whether a power follows.
std::string fill_in(std::string_view expression,
                    const std::function<std::string(std::string_view name, bool raised)>& fill) {
  constexpr std::array<std::string_view, 5> powers{"²", "³", "⁴", "^", "⁻"};
  std::string out;
  std::size_t pos = 0;
  while (pos < expression.size()) {
    const std::size_t open = expression.find('{', pos);
    if (open == std::string_view::npos) break;
    const std::size_t close = expression.find('}', open);
    out += expression.substr(pos, open - pos);
    const std::string_view after = expression.substr(close + 1);
    const bool raised =
        std::any_of(powers.begin(), powers.end(), [&](auto p) { return after.starts_with(p); });
    out += fill(expression.substr(open + 1, close - open - 1), raised);
    pos = close + 1;
  }
  out += expression.substr(pos);
  return out;
}

std::string shown_value(double value, Kind kind, UnitSet set) {
  return format(value, kind == Kind::share ? Kind::number : kind, set, 4).text();
}

} // namespace

const Parameter& parameter_of(const Formula& formula, std::size_t term) {
  return formula.parameters[std::min(term, formula.parameters.size() - 1)];
}

Kind kind_of(const Step& step, std::size_t term) {
  const Kind kind = parameter_of(*step.formula, term).kind;
  return kind == Kind::number ? step.plain_as : kind;
}

std::vector<const Step*> chain_of(const std::vector<Step>& steps, std::string_view result_id) {
  std::unordered_map<std::string_view, const Step*> by_id;
  for (const Step& step : steps) by_id.emplace(step.id, &step);
  std::vector<const Step*> chain;
  const std::function<void(std::string_view)> visit = [&](std::string_view id) {
    const auto found = by_id.find(id);
    if (found == by_id.end() || std::find(chain.begin(), chain.end(), found->second) != chain.end()) return;
    chain.push_back(found->second);
    // a zero in a sum needs no explanation beyond the input it may name
    for (const Term& term : found->second->terms)
      if (!found->second->formula->list || term.value != 0.0) visit(term.ref);
  };
  visit(result_id);
  return chain;
}

std::string_view meaning_of(const Step& step, std::size_t term, const std::vector<Step>& steps) {
  const Parameter& parameter = parameter_of(*step.formula, term);
  if (!step.formula->list || term + 1 < step.formula->parameters.size()) return parameter.meaning;
  for (const Step& other : steps)
    if (other.id == step.terms[term].ref) return other.title;
  return parameter.meaning;
}

std::string in_symbols(const Formula& formula) {
  const auto symbol = [&](std::string_view name, bool) {
    for (const Parameter& parameter : formula.parameters)
      if (parameter.name == name) return std::string(parameter.symbol);
    return std::string(name);
  };
  return std::string(formula.symbol) + " = " + fill_in(formula.expression, symbol);
}

std::string in_numbers(const Step& step, UnitSet set) {
  const Formula& formula = *step.formula;
  const auto number = [&](std::string_view name, bool raised) {
    std::vector<std::string> parts;
    for (std::size_t i = 0; i < step.terms.size(); ++i) {
      const Parameter& parameter = parameter_of(formula, i);
      if (parameter.name == name) parts.push_back(shown_value(step.terms[i].value, kind_of(step, i), set));
    }
    std::string joined;
    for (const std::string& part : parts) joined += (joined.empty() ? "" : " + ") + part;
    const bool negative = joined.starts_with("−");
    const bool wrap = parts.size() > 1 || negative || (raised && joined.find(' ') != std::string::npos);
    return wrap ? "(" + joined + ")" : joined;
  };
  return fill_in(formula.expression, number);
}

} // namespace fulmox
