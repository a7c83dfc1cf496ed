#include "cli/report.hpp"

#include "cli/limit_json.hpp"

#include "core/evaluation/book.hpp"
#include "core/quantity/format.hpp"
#include "core/report/worksheet.hpp"
#include "core/working/explain.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <cmath>

namespace fulmox::cli {
namespace {

using Json = nlohmann::ordered_json;

Json axis_json(const Axis& axis, const Evaluation& evaluation) {
  Json out;
  out["name"] = axis.name;
  Json results = Json::array();
  for (const ResultValue& r : evaluation.results)
    results.push_back({{"id", r.id},
                       {"label", r.label},
                       {"symbol", r.symbol},
                       {"value", number(r.value)},
                       {"unit", info(r.kind).si}});
  out["results"] = std::move(results);
  // at the motor shaft, J per cycle; what accelerates and lifts comes back on a closed cycle
  Json energy = Json::object();
  for (std::size_t i = 0; i < torque_part_count; ++i)
    energy[std::string(torque_part_info[i].id)] = evaluation.demand.integrals.energy.values[i];
  out["energy_by_part"] = std::move(energy);
  Json limits = Json::array();
  for (const Limit& limit : evaluation.limits) limits.push_back(limit_json(limit));
  out["limits"] = std::move(limits);
  Json warnings = Json::array();
  for (const Warning& w : evaluation.warnings)
    warnings.push_back({{"id", w.id}, {"title", w.title}, {"reason", w.reason}, {"input", w.input}});
  out["second_look"] = std::move(warnings);
  return out;
}

Json problem_json(const Problem& p) { return {{"where", p.where}, {"what", p.what}, {"remedy", p.remedy}}; }

std::string axis_text(const Evaluation& e, UnitSet units) {
  std::string out;
  for (const ResultValue& r : e.results)
    out += fmt::format("  {:<24} {:>12}   {}\n", r.label, format(r.value, r.kind, units).text(), r.id);
  out += "\n";
  for (const Limit& l : e.limits) {
    if (l.state == LimitState::not_judged)
      out += fmt::format("  {:<10}        {:<24} {}\n", word(l.state), l.label, l.reason);
    else
      out +=
          fmt::format("  {:<10} {:>5.0f} % {:<24} {} of {}   {}\n", word(l.state), 100.0 * l.used, l.label,
                      format(l.demand, l.kind, units).text(), format(l.capacity, l.kind, units).text(), l.id);
  }
  if (!e.warnings.empty()) out += "\n  Second look\n";
  for (const Warning& w : e.warnings) out += "  - " + w.title + ": " + w.reason + "\n";
  return out;
}

Json step_json(const Step& step) {
  Json out;
  out["id"] = step.id;
  out["formula"] = step.formula->id;
  out["title"] = step.formula->title;
  out["expression"] = in_symbols(*step.formula);
  out["numbers"] = in_numbers(step, UnitSet::si);
  out["value"] = number(step.value);
  out["unit"] = info(step.formula->kind).si;
  out["source"] = step.formula->source;
  if (!step.note.empty()) out["note"] = step.note;
  Json terms = Json::array();
  for (std::size_t i = 0; i < step.terms.size(); ++i) {
    const Parameter& p = parameter_of(*step.formula, i);
    Json term = {{"symbol", p.symbol},
                 {"meaning", p.meaning},
                 {"value", number(step.terms[i].value)},
                 {"unit", info(p.kind).si}};
    if (!step.terms[i].ref.empty()) term["from"] = step.terms[i].ref;
    terms.push_back(std::move(term));
  }
  out["terms"] = std::move(terms);
  return out;
}

} // namespace

std::string size_json(const Document& document, const std::vector<AxisResult>& results) {
  Json out;
  out["machine"] = document.name;
  out["house_rules"] = document.house_rules.text("name");
  Json axes = Json::array();
  for (std::size_t i = 0; i < results.size(); ++i)
    axes.push_back(results[i].evaluation != nullptr ? axis_json(document.axes[i], *results[i].evaluation)
                                                    : Json{{"name", document.axes[i].name},
                                                           {"problem", problem_json(results[i].problem)}});
  out["axes"] = std::move(axes);
  return out.dump(2) + "\n";
}

std::string size_text(const Document& document, const std::vector<AxisResult>& results) {
  std::string out = document.name + "  (house rules: " + document.house_rules.text("name") + ")\n";
  for (std::size_t i = 0; i < results.size(); ++i) {
    out += "\n" + document.axes[i].name + "\n";
    out += results[i].evaluation != nullptr ? axis_text(*results[i].evaluation, document.units)
                                            : "  not worked out: " + results[i].problem.text() + "\n";
  }
  return out;
}

Explained explained(const std::string& axis, const Evaluation& evaluation, std::string_view name) {
  Explained out{axis, &evaluation, nullptr, nullptr, {}};
  const auto named = [&](std::string_view head, std::string_view id) {
    return name == id || (name.starts_with(head) && name.substr(head.size()) == id);
  };
  const Step* step = evaluation.step_behind(name);
  if (step == nullptr || name.starts_with("limit"))
    for (const Limit& limit : evaluation.limits)
      if (named("limit ", limit.id) || named("limit.", limit.id)) {
        out.limit = &limit;
        step = evaluation.step(limit.step);
      }
  for (const Warning& warning : evaluation.warnings)
    if (named("warning ", warning.id)) out.warning = &warning;
  if (step != nullptr) out.chain = chain_of(evaluation.steps, step->id);
  return out;
}

std::string explain_json(std::string_view name, const std::vector<Explained>& all) {
  Json axes = Json::array();
  for (const Explained& one : all) {
    Json steps = Json::array();
    for (const Step* step : one.chain) steps.push_back(step_json(*step));
    axes.push_back({{"name", one.axis}, {"steps", steps}});
    if (one.limit != nullptr) axes.back()["limit"] = limit_json(*one.limit);
    if (one.warning != nullptr)
      axes.back()["warning"] = {{"id", one.warning->id},
                                {"title", one.warning->title},
                                {"reason", one.warning->reason},
                                {"input", one.warning->input}};
  }
  return Json{{"result", name}, {"axes", axes}}.dump(2) + "\n";
}

std::string explain_text(const std::vector<Explained>& all, UnitSet units) {
  std::string out;
  for (const Explained& one : all) {
    if (all.size() > 1) out += one.axis + "\n\n";
    if (one.limit != nullptr) {
      const Limit& l = *one.limit;
      if (l.state == LimitState::not_judged)
        out += fmt::format("{}: not judged. {} ({})\n\n", l.label, l.reason, l.input);
      else
        out += fmt::format("{}: {}, {:.0f} % used. {}\n\n", l.label, word(l.state), 100.0 * l.used, l.rule);
    }
    if (one.warning != nullptr)
      out +=
          one.warning->title + ": " + one.warning->reason + "  ← " + std::string(one.warning->input) + "\n\n";
    if (!one.chain.empty()) out += explain(one.evaluation->steps, one.chain.front()->id, units);
  }
  return out;
}

std::string book_json() {
  Json all = Json::array();
  for (const Formula* f : formula_book()) {
    Json parameters = Json::array();
    for (const Parameter& p : f->parameters)
      parameters.push_back(
          {{"name", p.name}, {"symbol", p.symbol}, {"unit", info(p.kind).si}, {"meaning", p.meaning}});
    all.push_back({{"id", f->id},
                   {"title", f->title},
                   {"symbol", f->symbol},
                   {"expression", in_symbols(*f)},
                   {"unit", info(f->kind).si},
                   {"parameters", parameters},
                   {"source", f->source}});
  }
  return all.dump(2) + "\n";
}

std::string book_text() {
  std::string out;
  for (const Formula* f : formula_book()) {
    out += fmt::format("{}  {}\n  {}   [{}]\n", f->id, f->title, in_symbols(*f), info(f->kind).si);
    for (const Parameter& p : f->parameters)
      out += fmt::format("    {:<10} {} [{}]: {}\n", p.name, p.symbol, info(p.kind).si, p.meaning);
    out += fmt::format("  source: {}\n\n", f->source);
  }
  return out;
}

std::string worksheet_json(const Document& document) {
  return Json{{"machine", document.name}, {"worksheet", worksheet(document)}}.dump(2) + "\n";
}

std::string problems_json(const std::vector<Problem>& problems) {
  Json all = Json::array();
  for (const Problem& p : problems) all.push_back(problem_json(p));
  return Json{{"valid", problems.empty()}, {"problems", all}}.dump(2) + "\n";
}

std::string eval_json(const Formula& formula, const Step& step) {
  Json out = step_json(step);
  out.erase("id");
  out["result"] = formula.symbol;
  return out.dump(2) + "\n";
}

} // namespace fulmox::cli
