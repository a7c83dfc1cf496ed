#include "core/report/worksheet.hpp"

#include "core/project/names.hpp"
#include "core/report/machine_sheet.hpp"

#include "core/project/chosen_parts.hpp"
#include "core/quantity/format.hpp"
#include "core/working/chain.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

namespace fulmox {
std::string sheet_cell(std::string_view text) {
  std::string out;
  for (const char c : text) {
    if (std::string_view("|*_`<>\\#[]").find(c) != std::string_view::npos) out += '\\';
    out += c == '\n' ? ' ' : c;
  }
  return out;
}

namespace {

std::string cell(std::string_view text) { return sheet_cell(text); }
std::string code(const std::string& text) { return "`" + text + "`"; }

/// A long record is told by its number of points: nobody reads a thousand.
std::string typed(const FieldSpec& field, const Entry& entry) {
  constexpr std::size_t readable = 40;
  if (entry.curve.size() > readable) return std::to_string(entry.curve.size()) + " points";
  return cell(words_of(field, entry.text));
}

void add_givens(std::string& out, const Axis& axis) {
  out += "### Givens\n\n| | typed | origin |\n|---|---|---|\n";
  const auto add = [&](const Section& section) {
    std::string title(section.spec().title);
    if (const auto number = section.path.find('['); number != std::string::npos)
      title += " " + std::to_string(std::stoi(section.path.substr(number + 1)) + 1);
    for (std::size_t i = 0; i < section.size(); ++i) {
      const Entry& entry = section.entry(i);
      const FieldSpec& field = section.field(i);
      if (entry.blank()) continue;
      std::string origin(id_of(entry.origin));
      if (!entry.note.empty()) origin += ": " + entry.note;
      out += "| " + title + ", " + cell(field.label) + " | " + typed(field, entry) + " | " + cell(origin) +
             " |\n";
    }
    if (section.is("coupling") && section.blank("inertia")) out += "| Coupling, Inertia | neglected | |\n";
  };
  for (const Section& section : axis.givens) add(section);
  for (const auto* list : {&axis.pieces, &axis.stages, &axis.cycle})
    for (const Section& section : *list) add(section);
  out += "\n";
}

void add_results(std::string& out, const Evaluation& e, UnitSet units) {
  out += "### Results\n\n| | | |\n|---|---:|---|\n";
  for (const ResultValue& r : e.results)
    out +=
        "| " + cell(r.label) + " | " + format(r.value, r.kind, units).text() + " | " + cell(r.help) + " |\n";
  out +=
      "\n### Limits\n\n| state | used | limit | demand | capacity | rule |\n|---|---:|---|---:|---:|---|\n";
  for (const Limit& l : e.limits) {
    if (l.state == LimitState::not_judged) {
      out += "| not judged | | " + cell(l.label) + " | | | " + cell(l.reason) + " |\n";
      continue;
    }
    const std::string used = std::isfinite(l.used) ? significant(100.0 * l.used) + " %" : "none left";
    out += "| " + std::string(word(l.state)) + " | " + used + " | " + cell(l.label) + " | " +
           format(l.demand, l.kind, units).text() + " | " + format(l.capacity, l.kind, units).text() + " | " +
           cell(l.rule) + " |\n";
  }
  out += "\n";
  if (e.warnings.empty()) return;
  out += "### Second look\n\n";
  for (const Warning& w : e.warnings) out += "- **" + cell(w.title) + "** " + cell(w.reason) + "\n";
  out += "\n";
}

void add_step(std::string& out, const Step& step, const Evaluation& e, const Axis& axis, UnitSet units) {
  const Formula& f = *step.formula;
  out += "**" + cell(step.title) + "**\n\n" + code(in_symbols(f)) + "\n\n" +
         code(std::string(f.symbol) + " = " + in_numbers(step, units) + " = " +
              format(step.value, f.kind, units, 4).text()) +
         "\n\n";
  for (std::size_t i = 0; i < step.terms.size(); ++i) {
    const Parameter& p = parameter_of(f, i);
    if (f.list && step.terms[i].value == 0.0) continue;
    std::string from = describe_path(axis, step.terms[i].ref);
    if (!from.empty()) from = " (" + from + ")";
    out += "- " + cell(p.symbol) + " = " + format(step.terms[i].value, kind_of(step, i), units, 4).text() +
           ": " + cell(meaning_of(step, i, e.steps)) + cell(from) + "\n";
  }
  if (!step.note.empty()) out += "- " + cell(step.note) + "\n";
  out += "\nSource: " + cell(f.source) + " (" + cell(f.id) + ")\n\n";
}

/// The steps of the peak torque in full, then of the other main numbers what was not shown yet. The rms
/// torque repeats the same chain at every corner of the cycle: its own steps are enough.
void add_working(std::string& out, const Evaluation& e, const Axis& axis, UnitSet units) {
  out += "### Working\n\n";
  std::set<std::string_view> shown;
  constexpr std::array<std::string_view, 6> main{"demand.peak_torque", "demand.rms_torque",
                                                 "demand.max_speed",   "demand.ratio",
                                                 "drive.rms_current",  "hold.torque"};
  for (const std::string_view id : main) {
    const Step* last = e.step_behind(id);
    if (last == nullptr) continue;
    for (const Step* step : chain_of(e.steps, last->id)) {
      const bool corner = step->id.starts_with("rms.") && !step->id.ends_with(".square");
      if (corner || !shown.insert(step->id).second) continue;
      add_step(out, *step, e, axis, units);
    }
  }
}

/// What was chosen for an axis, in the order in which it was chosen.
void add_choices(std::string& out, const Document& document, const Axis& axis) {
  std::string rows;
  for (const Section& choice : document.lists.find(chosen_parts_list().id)->second) {
    if (choice.text("axis") != axis.name) continue;
    rows += "|";
    for (const std::string_view field : {"date", "chosen", "rivals", "weights", "reason"})
      rows += " " + cell(choice.text(field)) + " |";
    rows += "\n";
  }
  if (rows.empty()) return;
  out += "### Choices of parts\n\n| date | chosen | rivals | weights | why |\n|---|---|---|---|---|\n" +
         rows + "\n";
}

} // namespace

std::string worksheet(const Document& document) {
  std::string out = "# " + cell(document.name) +
                    "\n\nHouse rules: " + cell(document.house_rules.text("name")) + ". " +
                    cell(document.house_rules.text("reason")) + "\n\n";
  const MachineResult results = evaluate(document);
  for (std::size_t i = 0; i < document.axes.size(); ++i) {
    const Axis& axis = document.axes[i];
    out += "## " + cell(axis.name) + "\n\n";
    const Evaluation* e = results[i]->evaluation.get();
    if (e == nullptr) {
      out += "This axis cannot be worked out: " + cell(results[i]->problem.text()) + "\n\n";
      add_givens(out, axis);
      continue;
    }
    if (const std::string& bus = axis["surroundings"].text("shared_bus"); !bus.empty())
      out += "On bus " + cell(bus) +
             (bus_exists(document, bus)
                  ? ": its supply is judged with all axes of that bus, see the machine.\n\n"
                  : ": **there is no bus of that name, so nothing judges its supply.**\n\n");
    add_results(out, *e, document.units);
    add_givens(out, axis);
    add_choices(out, document, axis);
    add_working(out, *e, axis, document.units);
  }
  out += machine_sheet(document, results);
  out += "---\n\nA load on an inclined axis can fall when power goes; a holding brake is not personnel "
         "protection. "
         "Wiring, protection and functional safety follow local codes and are for licensed people.\n";
  return out;
}

} // namespace fulmox
