#include "core/project/unread.hpp"

#include "core/form/nearest_field.hpp"
#include "core/support/nearest_name.hpp"

#include <algorithm>
#include <span>
#include <utility>

namespace fulmox {
namespace {

using Names = std::vector<std::string_view>;
using Forms = std::vector<const SectionSpec*>;
using Members = std::map<std::string, std::string>;

bool a_remark(std::string_view name) {
  return name.starts_with("_") || name.starts_with("$") || name.starts_with("//");
}

/// Those of a section that may take other forms too, which are asked for only where there is one.
template <class OtherForms>
void add(std::vector<Unread>& all, const Section& section, const OtherForms& other_forms) {
  if (section.unknown.empty()) return;
  const Forms forms = other_forms();
  for (const auto& [name, value] : section.unknown) {
    if (a_remark(name)) continue;
    const auto knows = [&, wanted = std::string_view(name)](const SectionSpec* form) {
      return form->index_of(wanted).has_value();
    };
    if (std::any_of(forms.begin(), forms.end(), knows))
      all.push_back({section.path, name, "", true});
    else
      all.push_back({section.path, name, nearest_field(section.spec(), name), false});
  }
}

void add(std::vector<Unread>& all, const Members& unknown, const Names& known) {
  for (const auto& [name, value] : unknown)
    if (!a_remark(name)) all.push_back({"", name, nearest_name(name, known), false});
}

Forms forms_of(const SlotSpec& slot) {
  Forms forms;
  for (const SlotKind& kind : slot.kinds()) forms.push_back(kind.form);
  return forms;
}

} // namespace

std::vector<Unread> unread_members(const Section& section) {
  std::vector<Unread> all;
  add(all, section, [&] { return Forms{&section.spec()}; });
  return all;
}

std::vector<Unread> unread_members(const Axis& axis) {
  std::vector<Unread> all;
  Names known{"name"};
  for (const SlotSpec* slot : axis_slots()) {
    known.push_back(slot->id);
    add(all, axis[slot->id], [&] { return forms_of(*slot); });
  }
  for (const ListInfo& list : section_lists()) {
    known.push_back(list.id);
    for (const Section& section : axis.*list.member) add(all, section, [&] { return list.kinds(axis); });
  }
  add(all, axis.unknown, known);
  return all;
}

std::vector<Unread> unread_members(const Document& document) {
  std::vector<Unread> all;
  Names known{"format", "version", "name", "units", "house_rules", "duty", "pace", "axes"};
  for (const Section* section : {&document.house_rules, &document.duty, &document.pace})
    for (Unread& member : unread_members(*section)) all.push_back(std::move(member));
  for (const MachineListSpec* list : machine_lists()) {
    known.push_back(list->id);
    if (const auto sections = document.lists.find(list->id); sections != document.lists.end())
      for (const Section& section : sections->second) add(all, section, list->kinds);
  }
  add(all, document.unknown, known);
  for (std::size_t i = 0; i < document.axes.size(); ++i)
    for (Unread& member : unread_members(document.axes[i])) {
      const std::string axis = "axes[" + std::to_string(i) + "]";
      member.section = member.section.empty() ? axis : axis + "." + member.section;
      all.push_back(std::move(member));
    }
  return all;
}

void leave_out_unread(Document& document) {
  for (std::size_t i = 0; i < document.axes.size(); ++i)
    for (const Unread& member : unread_members(document.axes[i])) {
      if (member.another_kinds) continue;
      if (member.section.empty())
        document.axes[i].unknown.erase(member.name);
      else
        find_section(document.axes[i], member.section)->unknown.erase(member.name);
    }
  for (const Unread& member : unread_members(document)) {
    if (member.another_kinds) continue;
    if (member.section.empty())
      document.unknown.erase(member.name);
    else
      find_section(document, 0, member.section)->unknown.erase(member.name);
  }
}

Problem problem_of(const Unread& member) {
  return {member.where(), "no input is called that: it counts for nothing.",
          member.meant.empty() ? "fulmox-cli schema lists the names."
                               : "Is \"" + std::string(member.meant) + "\" meant?"};
}

} // namespace fulmox
