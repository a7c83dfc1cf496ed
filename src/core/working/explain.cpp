#include "core/working/explain.hpp"

#include "core/quantity/format.hpp"

namespace fulmox {

std::string explain(const std::vector<Step>& steps, std::string_view result_id, UnitSet set) {
  std::string out;
  for (const Step* step : chain_of(steps, result_id)) {
    const Formula& formula = *step->formula;
    out += std::string(step->title) + "  [" + std::string(step->id) + "]\n";
    out += "  " + in_symbols(formula) + "\n";
    out += "  " + std::string(formula.symbol) + " = " + in_numbers(*step, set) + " = " +
           format(step->value, formula.kind, set, 4).text() + "\n";
    for (std::size_t i = 0; i < step->terms.size(); ++i) {
      const Term& term = step->terms[i];
      const Parameter& parameter = parameter_of(formula, i);
      out += "    " + std::string(parameter.symbol) + " = " +
             format(term.value, kind_of(*step, i), set, 4).text() + "  " +
             std::string(meaning_of(*step, i, steps));
      if (!term.ref.empty()) out += "  ← " + std::string(term.ref);
      out += "\n";
    }
    out += "  source: " + std::string(formula.source) + "  (" + std::string(formula.id) + ")\n";
    if (!step->note.empty()) out += "  note: " + step->note + "\n";
    out += "\n";
  }
  return out;
}

} // namespace fulmox
