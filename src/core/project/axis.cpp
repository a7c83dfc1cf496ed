#include "core/project/axis.hpp"

#include "core/mechanism/mechanism.hpp"
#include "core/motion/segments.hpp"
#include "core/stage/stage.hpp"

#include <array>
#include <cctype>

namespace fulmox {

const MechanismSpec& mechanism_of(const Axis& axis) { return *find_mechanism(axis["mechanism"].spec().id); }

MotionKinds motion_of(const Axis& axis) { return mechanism_of(axis).motion; }

Axis new_axis(std::string name) {
  Axis axis;
  axis.name = std::move(name);
  for (const SlotSpec* slot : axis_slots()) {
    axis.givens.emplace_back(*slot->kinds().front().form);
    axis.givens.back().path = slot->id;
  }
  return axis;
}

std::span<const ListInfo> section_lists() {
  static const std::array lists{
      ListInfo{"cycle",
               "segment",
               "Move",
               "mechanism",
               {"move", "dwell"},
               &Axis::cycle,
               [](const Axis& axis) {
                 std::vector<const SectionSpec*> all;
                 for (const SectionSpec& spec : segment_specs(motion_of(axis))) all.push_back(&spec);
                 return all;
               }},
      ListInfo{"stages",
               "stage",
               "Further stages",
               "gearhead",
               {"gear_pair", "belt_stage"},
               &Axis::stages,
               [](const Axis&) {
                 std::vector<const SectionSpec*> all;
                 for (const StageSpec* spec : stage_specs()) all.push_back(&spec->section);
                 return all;
               }},
      ListInfo{
          "pieces", "piece", "Load pieces", "load", {"cylinder", "cuboid"}, &Axis::pieces, [](const Axis&) {
            std::vector<const SectionSpec*> all;
            for (const PieceSpec* spec : piece_specs()) all.push_back(&spec->section);
            return all;
          }}};
  return lists;
}

const ListInfo* find_list(std::string_view id) {
  for (const ListInfo& list : section_lists())
    if (list.id == id) return &list;
  return nullptr;
}

const SectionSpec* find_kind(const Axis& axis, const ListInfo& list, std::string_view id) {
  for (const SectionSpec* spec : list.kinds(axis))
    if (spec->id == id) return spec;
  return nullptr;
}

void number_sections(Axis& axis) {
  for (const ListInfo& list : section_lists()) {
    auto& sections = axis.*list.member;
    for (std::size_t i = 0; i < sections.size(); ++i)
      sections[i].path = std::string(list.id) + "[" + std::to_string(i) + "]";
  }
}

const Section* find_section(const Axis& axis, std::string_view path) {
  for (const Section& section : axis.givens)
    if (section.path == path) return &section;
  for (const ListInfo& list : section_lists())
    for (const Section& section : axis.*list.member)
      if (section.path == path) return &section;
  return nullptr;
}

Section* find_section(Axis& axis, std::string_view path) {
  return const_cast<Section*>(find_section(std::as_const(axis), path));
}

namespace {

/// A slot goes by its own title: whichever mechanism it is, to the user it is the mechanism.
std::string title_of(const Section& section) {
  const SlotSpec* slot = find_slot(section.path);
  return std::string(slot != nullptr ? slot->title : section.spec().title);
}

} // namespace

std::string describe_path(const Section& section, std::string_view field) {
  const auto space = field.find(' ');
  const auto index = section.spec().index_of(field.substr(0, space));
  if (!index) return {};
  std::string out = title_of(section);
  if (const auto bracket = section.path.find('['); bracket != std::string::npos)
    out += " " + std::to_string(std::stoi(section.path.substr(bracket + 1)) + 1);
  std::string label(section.field(*index).label);
  label.front() = static_cast<char>(std::tolower(static_cast<unsigned char>(label.front())));
  out += ", " + label;
  return space == std::string_view::npos ? out : out + std::string(field.substr(space));
}

std::string describe_path(const Axis& axis, std::string_view path) {
  const auto dot = path.substr(0, path.find(' ')).rfind('.');
  if (dot == std::string_view::npos) return {};
  const Section* section = find_section(axis, path.substr(0, dot));
  return section != nullptr ? describe_path(*section, path.substr(dot + 1)) : std::string();
}

std::vector<Problem> faults(const Section& section) {
  std::vector<Problem> all;
  for (std::size_t i = 0; i < section.size(); ++i) {
    if (!section.entry(i).faulty()) continue;
    const Problem& fault = section.entry(i).fault;
    std::string where = section.path + "." + std::string(section.field(i).id);
    if (!fault.where.empty()) where += " (" + fault.where + ")";
    all.push_back({where, fault.what, fault.remedy});
  }
  return all;
}

std::vector<Problem> faults(const Axis& axis) {
  std::vector<Problem> all;
  const auto collect = [&](const std::vector<Section>& sections) {
    for (const Section& section : sections)
      for (Problem& problem : faults(section)) all.push_back(std::move(problem));
  };
  collect(axis.givens);
  const auto slots = axis_slots();
  for (std::size_t i = 0; i < slots.size(); ++i)
    if (const auto check = kind_in(*slots[i], axis.givens[i]).check; check != nullptr)
      for (Problem& problem : check(axis.givens[i])) all.push_back(std::move(problem));
  for (const ListInfo& list : section_lists()) collect(axis.*list.member);
  return all;
}

} // namespace fulmox
