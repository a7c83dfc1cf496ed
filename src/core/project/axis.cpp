#include "core/project/axis.hpp"

#include "core/brake/brake.hpp"
#include "core/coupling/coupling.hpp"
#include "core/drive/drive.hpp"
#include "core/gearhead/gearhead.hpp"
#include "core/mechanism/linear_load.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/motor/motor.hpp"
#include "core/supply/surroundings.hpp"

#include <cctype>

namespace fulmox {

Axis new_axis(std::string name) {
  Axis axis;
  axis.name = std::move(name);
  axis.givens = {Section(linear_load_section()),  Section(mechanism_specs().front()->section),
                 Section(surroundings_section()), Section(gearhead_section()),
                 Section(servo_motor_section()),  Section(coupling_section()),
                 Section(brake_section()),        Section(drive_section())};
  axis[Given::mechanism].path = "mechanism";
  return axis;
}

void number_segments(Axis& axis) {
  for (std::size_t i = 0; i < axis.cycle.size(); ++i) axis.cycle[i].path = "cycle[" + std::to_string(i) + "]";
}

const Section* find_section(const Axis& axis, std::string_view path) {
  for (const Section& section : axis.givens)
    if (section.path == path) return &section;
  for (const Section& section : axis.cycle)
    if (section.path == path) return &section;
  return nullptr;
}

Section* find_section(Axis& axis, std::string_view path) {
  return const_cast<Section*>(find_section(std::as_const(axis), path));
}

std::string describe_path(const Section& section, std::string_view field) {
  const auto space = field.find(' ');
  const auto index = section.spec().index_of(field.substr(0, space));
  if (!index) return {};
  std::string out = section.path == "mechanism" ? "Mechanism" : std::string(section.spec().title);
  if (section.path.starts_with("cycle[")) out += " " + std::to_string(std::stoi(section.path.substr(6)) + 1);
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
  collect(axis.cycle);
  return all;
}

} // namespace fulmox
