#include "core/project/document.hpp"

#include "core/form/section_json.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/motion/cycle.hpp"
#include "core/project/json_line.hpp"
#include "core/project/json_shape.hpp"
#include "core/project/migrate.hpp"
#include "core/project/typed_speed.hpp"
#include "core/rules/house_rules.hpp"
#include "core/support/text_file.hpp"

#include <algorithm>
#include <utility>

namespace fulmox {
namespace {

constexpr std::size_t most_axes = 200;
constexpr std::size_t most_listed = 5000; ///< segments, stages or pieces of one axis

Json list_json(const std::vector<Section>& sections) {
  Json all = Json::array();
  for (const Section& section : sections) all.push_back(section_json(section, true));
  return all;
}

Json axis_json(const Axis& axis) {
  Json out;
  out["name"] = axis.name;
  for (const SlotSpec* slot : axis_slots()) {
    const Section& section = axis[slot->id];
    out[section.path] = section_json(section, names_kind(*slot, section));
  }
  for (const ListInfo& list : section_lists()) {
    if ((axis.*list.member).empty() && list.id != "cycle") continue;
    out[std::string(list.id)] = list_json(axis.*list.member);
  }
  put_unknown(out, axis.unknown);
  return out;
}

const std::string& kind_of(const Json& value, const std::string& pointer) {
  if (!value.is_object()) expect(pointer, "an object", value);
  const auto kind = value.find("kind");
  if (kind == value.end()) throw BadJson{pointer, "\"kind\" is missing.", "Say which kind this is."};
  const std::string* text = text_of(*kind);
  if (text == nullptr) expect(pointer + "/kind", "a text", *kind);
  return *text;
}

/// The kind a section of a file names; the usual one where it need not.
const SectionSpec& kind_of(const SlotSpec& slot, const Json& value, const std::string& pointer) {
  const auto kinds = slot.kinds();
  if (slot.chosen_by != ChosenBy::list && (!value.is_object() || !value.contains("kind")))
    return *kinds.front().form;
  const std::string& wanted = kind_of(value, pointer);
  std::string known;
  for (const SlotKind& kind : kinds) {
    if (kind.form->id == wanted) return *kind.form;
    known += (known.empty() ? "" : ", ") + std::string(kind.form->id);
  }
  throw BadJson{pointer + "/kind", "unknown " + std::string(slot.id) + " '" + wanted + "'.",
                "This version knows: " + known + "."};
}

/// Reads a list of sections, each of one of some kinds.
std::vector<Section> read_list(const std::vector<const SectionSpec*>& kinds, std::string_view what,
                               const Json& value, const std::string& pointer) {
  if (!value.is_array()) expect(pointer, "a list", value);
  if (value.size() > most_listed)
    throw BadJson{pointer, "this list is longer than " + std::to_string(most_listed) + ".",
                  "Use repeats, or a recorded profile for a long motion."};
  std::vector<Section> sections;
  for (std::size_t i = 0; i < value.size(); ++i) {
    const std::string at = pointer + "/" + std::to_string(i);
    const std::string& wanted = kind_of(value[i], at);
    std::string known;
    for (const SectionSpec* kind : kinds) {
      if (kind->id == wanted) {
        sections.emplace_back(*kind);
        break;
      }
      known += (known.empty() ? "" : ", ") + std::string(kind->id);
    }
    if (sections.size() == i)
      throw BadJson{at + "/kind", "unknown kind of " + std::string(what) + " '" + wanted + "'.",
                    "Use " + known + "."};
    read_section(sections.back(), value[i], at);
  }
  return sections;
}

Axis read_axis(const Json& value, const std::string& pointer) {
  if (!value.is_object()) expect(pointer, "an object", value);
  Axis axis = new_axis("");
  // the mechanism says in which terms load and cycle are written
  if (const auto mechanism = value.find("mechanism"); mechanism != value.end()) {
    const SectionSpec& kind = kind_of(mechanism_slot(), *mechanism, pointer + "/mechanism");
    choose_mechanism(axis, *find_mechanism(kind.id));
    read_section(axis["mechanism"], *mechanism, pointer + "/mechanism");
  }
  for (const auto& [key, member] : value.items()) {
    const std::string here = pointer + "/" + key;
    const ListInfo* list = find_list(key);
    if (key == "name") {
      const std::string* name = text_of(member);
      if (name == nullptr) expect(here, "a text", member);
      axis.name = *name;
    } else if (key == "mechanism") {
      continue;
    } else if (list != nullptr) {
      axis.*list->member = read_list(list->kinds(axis), list->what, member, here);
    } else if (const SlotSpec* slot = find_slot(key)) {
      if (slot->chosen_by == ChosenBy::part) choose_kind(axis, *slot, kind_of(*slot, member, here));
      read_section(axis[key], member, here);
    } else {
      axis.unknown[key] = member.dump();
    }
  }
  read_steps(axis);
  return axis;
}

/// Gives the version of the file.
int read_header(const Json& root) {
  if (!root.is_object()) expect("", "an object", root);
  const auto format = root.find("format");
  if (format == root.end() || text_of(*format) == nullptr || *text_of(*format) != document_format)
    throw BadJson{"/format", "this is not a Fulmox machine.", "\"format\" must be \"fulmox-machine\"."};
  const auto version = root.find("version");
  if (version == root.end() || !version->is_number_integer())
    throw BadJson{"/version", "the version of the file is missing.", "\"version\" must be a whole number."};
  if (version->is_number_unsigned() && version->get<std::uint64_t>() > std::uint64_t{document_version})
    throw BadJson{"/version", "the file was written by a newer Fulmox (version " + version->dump() + ").",
                  "Update Fulmox."};
  if (!version->is_number_unsigned() || version->get<std::uint64_t>() < 1)
    throw BadJson{"/version", "there is no such version.", "The first is 1."};
  return version->get<int>();
}

Document read_document(Json& root) {
  migrate(root, read_header(root));
  Document document;
  document.name.clear();
  for (const auto& [key, member] : root.items()) {
    const std::string here = "/" + key;
    if (key == "format" || key == "version") continue;
    if (key == "name") {
      if (text_of(member) == nullptr) expect(here, "a text", member);
      document.name = *text_of(member);
    } else if (key == "units") {
      const std::string* units = text_of(member);
      if (units == nullptr || (*units != "SI" && *units != "inch"))
        throw BadJson{here, "unknown unit set.", "Use \"SI\" or \"inch\"."};
      document.units = *units == "inch" ? UnitSet::inch : UnitSet::si;
    } else if (key == "house_rules") {
      read_section(document.house_rules, member, here);
    } else if (key == "duty") {
      read_section(document.duty, member, here);
    } else if (key == "pace") {
      read_section(document.pace, member, here);
    } else if (key == "axes") {
      if (!member.is_array()) expect(here, "a list", member);
      if (member.size() > most_axes)
        throw BadJson{here, "there are more than " + std::to_string(most_axes) + " axes.",
                      "Split the machine into several."};
      for (std::size_t i = 0; i < member.size(); ++i)
        document.axes.push_back(read_axis(member[i], here + "/" + std::to_string(i)));
    } else if (const MachineListSpec* list = find_machine_list(key)) {
      document.lists[key] = read_list(list->kinds(), list->what, member, here);
    } else {
      document.unknown[key] = member.dump();
    }
  }
  number_sections(document);
  return document;
}

Problem parse_problem(const nlohmann::json::parse_error& error, std::string_view text) {
  // the library numbers lines inside its message only; count up to the byte it names
  const auto byte = std::min(error.byte, text.size());
  const auto line = 1 + std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(byte), '\n');
  const bool cut_off = error.byte >= text.size();
  return {"line " + std::to_string(line),
          cut_off ? "the file ends too early: it is truncated."
                  : "this is not valid JSON: unexpected character.",
          cut_off ? "Take an earlier copy, or the autosaved one."
                  : "Look for a missing comma, quote or bracket just before."};
}

template <class Read>
auto guarded(std::string_view text, Read read) -> Expected<decltype(read(std::declval<Json&>()))> {
  Json root;
  const JsonShape shape = shape_of(text);
  if (shape.too_much) return *shape.too_much;
  try {
    root = Json::parse(text);
  } catch (const nlohmann::json::parse_error& error) {
    return parse_problem(error, text);
  } catch (const nlohmann::json::exception&) {
    return Problem{"", "this is not valid JSON.", "Numbers must fit into double precision."};
  }
  if (shape.doubled) return *shape.doubled;
  try {
    return read(root);
  } catch (const BadJson& bad) {
    const int line = json_line(text, bad.pointer);
    std::string where = bad.pointer.empty() ? "/" : bad.pointer;
    if (line > 0) where = "line " + std::to_string(line) + ", " + where;
    return Problem{where, bad.what, bad.remedy};
  }
}

} // namespace

std::string to_json(const Document& document) {
  Json root;
  root["format"] = document_format;
  root["version"] = document_version;
  root["name"] = document.name;
  root["units"] = document.units == UnitSet::inch ? "inch" : "SI";
  root["house_rules"] = section_json(document.house_rules, false);
  root["duty"] = section_json(document.duty, false);
  root["pace"] = section_json(document.pace, false);
  Json axes = Json::array();
  for (const Axis& axis : document.axes) axes.push_back(axis_json(axis));
  root["axes"] = std::move(axes);
  for (const auto& [id, sections] : document.lists)
    if (!sections.empty()) root[id] = list_json(sections);
  put_unknown(root, document.unknown);
  return root.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

Expected<Document> from_json(std::string_view text) {
  return guarded(text, [](Json& root) { return read_document(root); });
}

Expected<Section> house_rules_from_json(std::string_view text) {
  return guarded(text, [](const Json& root) {
    Section rules(house_rules_section());
    read_section(rules, root, "");
    return rules;
  });
}

Expected<Document> load_document(const std::filesystem::path& path) {
  const auto text = read_text_file(path, document_size_limit);
  if (!text) return text.problem();
  auto document = from_json(*text);
  if (document) return document;
  Problem problem = document.problem();
  problem.where = path.string() + (problem.where.empty() ? "" : ": " + problem.where);
  return problem;
}

std::optional<Problem> write_readable(const std::string& text, const std::filesystem::path& path,
                                      std::uintmax_t limit) {
  if (text.size() > limit)
    return Problem{path.string(),
                   "the machine would take " + std::to_string(text.size() / 1000000) + " MB, more than the " +
                       std::to_string(limit / 1000000) + " MB that can be read back.",
                   "Shorten long records, or split it into two machines. The file is left as it was."};
  if (const auto again = from_json(text); !again)
    return Problem{path.string(), "the machine could not be read back: " + again.problem().text(),
                   "The file is left as it was."};
  return write_text_file(path, text);
}

std::optional<Problem> save_document(const Document& document, const std::filesystem::path& path) {
  return write_readable(to_json(document), path, document_size_limit);
}

} // namespace fulmox
