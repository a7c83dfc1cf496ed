#include "cli/validate.hpp"

#include "cli/input.hpp"
#include "cli/report.hpp"
#include "core/evaluation/evaluation.hpp"
#include "core/evaluation/guarded.hpp"
#include "core/project/names.hpp"
#include "core/project/unread.hpp"

#include <iostream>
#include <map>

namespace fulmox::cli {
namespace {

std::vector<Problem> problems_of(const Document& document, const std::vector<Unread>& unread) {
  std::vector<Problem> problems;
  for (const Unread& member : unread)
    if (!member.another_kinds) problems.push_back(problem_of(member));
  for (const auto& faults_of : {machine_faults(document), name_faults(document)})
    problems.insert(problems.end(), faults_of.begin(), faults_of.end());
  const bool rules_are_good = faults(document.house_rules).empty();
  for (std::size_t i = 0; i < document.axes.size(); ++i) {
    const Axis& axis = document.axes[i];
    const std::string head = "axes[" + std::to_string(i) + "].";
    const auto wrong = faults(axis);
    for (const Problem& fault : wrong) problems.push_back({head + fault.where, fault.what, fault.remedy});
    if (!wrong.empty() || !rules_are_good) continue;
    const auto evaluation = guarded(axis, [&] { return evaluate(axis, document.house_rules); });
    if (evaluation) continue;
    const Problem& problem = evaluation.problem();
    problems.push_back({head + problem.where, problem.what, problem.remedy});
  }
  return problems;
}

/// "axes[1].mechanism: density, held": inputs of other kinds, a line for each form.
void tell_kept(const std::vector<Unread>& unread) {
  std::map<std::string, std::string> by_section;
  for (const Unread& member : unread)
    if (member.another_kinds) {
      std::string& names = by_section[member.section];
      names += (names.empty() ? "" : ", ") + member.name;
    }
  if (by_section.empty()) return;
  std::cout << "Not used by the kinds that are chosen, kept for when they change:\n";
  for (const auto& [section, names] : by_section) std::cout << "  " << section << ": " << names << "\n";
}

} // namespace

int validate_command(const std::string& file, bool json) {
  const auto document = load_document(file);
  if (!document) return fail(document.problem());
  const std::vector<Unread> unread = unread_members(*document);
  const std::vector<Problem> problems = problems_of(*document, unread);
  if (json) {
    std::cout << problems_json(problems);
  } else {
    for (const Problem& problem : problems) std::cerr << problem.text() << "\n";
    if (problems.empty()) std::cout << file << ": good\n";
    tell_kept(unread);
  }
  return problems.empty() ? good : bad_input;
}

} // namespace fulmox::cli
