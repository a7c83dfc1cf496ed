#include "core/project/document.hpp"

#include "core/limits/house_rules.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/motion/cycle.hpp"
#include "core/project/json_lines.hpp"
#include "core/support/text_file.hpp"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace fulmox {
namespace {

using Json = nlohmann::ordered_json;

// ---- writing

Json entry_json(const Entry& entry) {
  if (entry.origin == Origin::given && entry.note.empty()) return entry.text;
  Json out;
  out["typed"] = entry.text;
  if (entry.origin != Origin::given) out["origin"] = id_of(entry.origin);
  if (!entry.note.empty()) out["note"] = entry.note;
  return out;
}

void put_unknown(Json& out, const std::map<std::string, std::string>& unknown) {
  for (const auto& [name, text] : unknown) out[name] = Json::parse(text);
}

Json section_json(const Section& section, bool with_kind) {
  Json out = Json::object();
  if (with_kind) out["kind"] = section.spec().id;
  for (std::size_t i = 0; i < section.size(); ++i)
    if (!section.entry(i).blank() || !section.entry(i).note.empty())
      out[std::string(section.field(i).id)] = entry_json(section.entry(i));
  put_unknown(out, section.unknown);
  return out;
}

Json axis_json(const Axis& axis) {
  Json out;
  out["name"] = axis.name;
  for (std::size_t i = 0; i < given_count; ++i) {
    const Section& section = axis.givens[i];
    out[section.path] = section_json(section, static_cast<Given>(i) == Given::mechanism);
  }
  Json cycle = Json::array();
  for (const Section& segment : axis.cycle) cycle.push_back(section_json(segment, true));
  out["cycle"] = std::move(cycle);
  put_unknown(out, axis.unknown);
  return out;
}

// ---- reading

/// Thrown inside this file only, at the first thing that keeps a file from being a document.
struct Bad {
  std::string pointer, what, remedy;
};

const std::string* text_of(const Json& value) {
  return value.is_string() ? value.get_ptr<const std::string*>() : nullptr;
}

[[noreturn]] void expect(const std::string& pointer, const std::string& wanted, const Json& found) {
  throw Bad{pointer, "this should be " + wanted + ", but is " + found.type_name() + ".",
            "Compare with the published schema."};
}

Entry read_entry(const FieldSpec& spec, const Json& value, const std::string& pointer) {
  if (const std::string* text = text_of(value)) return make_entry(spec, *text);
  if (!value.is_object()) expect(pointer, "a text like \"5 mm\"", value);
  std::string typed;
  Origin origin = Origin::given;
  std::string note;
  for (const auto& [key, member] : value.items()) {
    const std::string* text = text_of(member);
    if (text == nullptr) expect(pointer + "/" + key, "a text", member);
    if (key == "typed") typed = *text;
    if (key == "note") note = *text;
    if (key != "origin") continue;
    const auto known = origin_from(*text);
    if (!known)
      throw Bad{pointer + "/origin", "unknown origin '" + *text + "'.",
                "Use given, measured, data sheet or guess."};
    origin = *known;
  }
  Entry entry = make_entry(spec, typed);
  entry.origin = origin;
  entry.note = std::move(note);
  return entry;
}

void read_section(Section& section, const Json& value, const std::string& pointer) {
  if (!value.is_object()) expect(pointer, "an object", value);
  for (std::size_t i = 0; i < section.size(); ++i) section.put(i, make_entry(section.field(i), ""));
  for (const auto& [key, member] : value.items()) {
    if (key == "kind") continue;
    if (const auto index = section.spec().index_of(key))
      section.put(*index, read_entry(section.field(*index), member, pointer + "/" + key));
    else
      section.unknown[key] = member.dump();
  }
}

const std::string& kind_of(const Json& value, const std::string& pointer) {
  if (!value.is_object()) expect(pointer, "an object", value);
  const auto kind = value.find("kind");
  if (kind == value.end()) throw Bad{pointer, "\"kind\" is missing.", "Say which kind this is."};
  const std::string* text = text_of(*kind);
  if (text == nullptr) expect(pointer + "/kind", "a text", *kind);
  return *text;
}

Section read_mechanism(const Json& value, const std::string& pointer) {
  const std::string& kind = kind_of(value, pointer);
  const MechanismSpec* spec = find_mechanism(kind);
  if (spec == nullptr)
    throw Bad{pointer + "/kind", "unknown mechanism '" + kind + "'.", "This version knows: screw."};
  Section section(spec->section);
  section.path = "mechanism";
  read_section(section, value, pointer);
  return section;
}

Axis read_axis(const Json& value, const std::string& pointer) {
  if (!value.is_object()) expect(pointer, "an object", value);
  Axis axis = new_axis("");
  for (const auto& [key, member] : value.items()) {
    const std::string here = pointer + "/" + key;
    if (key == "name") {
      const std::string* name = text_of(member);
      if (name == nullptr) expect(here, "a text", member);
      axis.name = *name;
    } else if (key == "mechanism") {
      axis[Given::mechanism] = read_mechanism(member, here);
    } else if (key == "cycle") {
      if (!member.is_array()) expect(here, "a list", member);
      for (std::size_t i = 0; i < member.size(); ++i) {
        const std::string at = here + "/" + std::to_string(i);
        const std::string& kind = kind_of(member[i], at);
        const SectionSpec* spec = find_segment_spec(kind);
        if (spec == nullptr)
          throw Bad{at + "/kind", "unknown kind of segment '" + kind + "'.", "Use move or dwell."};
        axis.cycle.emplace_back(*spec);
        read_section(axis.cycle.back(), member[i], at);
      }
    } else if (Section* section = find_section(axis, key)) {
      read_section(*section, member, here);
    } else {
      axis.unknown[key] = member.dump();
    }
  }
  number_segments(axis);
  return axis;
}

void read_header(const Json& root) {
  if (!root.is_object()) expect("", "an object", root);
  const auto format = root.find("format");
  if (format == root.end() || text_of(*format) == nullptr || *text_of(*format) != document_format)
    throw Bad{"/format", "this is not a Fulmox machine.", "\"format\" must be \"fulmox-machine\"."};
  const auto version = root.find("version");
  if (version == root.end() || !version->is_number_integer())
    throw Bad{"/version", "the version of the file is missing.", "\"version\" must be a whole number."};
  if (version->get<int>() > document_version)
    throw Bad{"/version", "the file was written by a newer Fulmox (version " + version->dump() + ").",
              "Update Fulmox."};
  if (version->get<int>() < 1) throw Bad{"/version", "there is no such version.", "The first is 1."};
}

Document read_document(const Json& root) {
  read_header(root);
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
        throw Bad{here, "unknown unit set.", "Use \"SI\" or \"inch\"."};
      document.units = *units == "inch" ? UnitSet::inch : UnitSet::si;
    } else if (key == "house_rules") {
      read_section(document.house_rules, member, here);
    } else if (key == "axes") {
      if (!member.is_array()) expect(here, "a list", member);
      for (std::size_t i = 0; i < member.size(); ++i)
        document.axes.push_back(read_axis(member[i], here + "/" + std::to_string(i)));
    } else {
      document.unknown[key] = member.dump();
    }
  }
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

template <class Read> auto guarded(std::string_view text, Read read) -> Expected<decltype(read(Json()))> {
  Json root;
  try {
    root = Json::parse(text);
  } catch (const nlohmann::json::parse_error& error) {
    return parse_problem(error, text);
  } catch (const nlohmann::json::exception&) {
    return Problem{"", "this is not valid JSON.", "Numbers must fit into double precision."};
  }
  try {
    return read(root);
  } catch (const Bad& bad) {
    const auto lines = json_lines(text);
    const auto line = lines.find(bad.pointer);
    std::string where = bad.pointer.empty() ? "/" : bad.pointer;
    if (line != lines.end()) where = "line " + std::to_string(line->second) + ", " + where;
    return Problem{where, bad.what, bad.remedy};
  }
}

/// Deeply nested input would exhaust the stack when the parsed value is destroyed.
bool too_deep(std::string_view text) {
  constexpr int limit = 200;
  int depth = 0;
  bool quoted = false;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (quoted) {
      if (c == '\\')
        ++i;
      else if (c == '"')
        quoted = false;
      continue;
    }
    if (c == '"') quoted = true;
    if (c == '{' || c == '[') ++depth;
    if (c == '}' || c == ']') --depth;
    if (depth > limit) return true;
  }
  return false;
}

} // namespace

std::string to_json(const Document& document) {
  Json root;
  root["format"] = document_format;
  root["version"] = document_version;
  root["name"] = document.name;
  root["units"] = document.units == UnitSet::inch ? "inch" : "SI";
  root["house_rules"] = section_json(document.house_rules, false);
  Json axes = Json::array();
  for (const Axis& axis : document.axes) axes.push_back(axis_json(axis));
  root["axes"] = std::move(axes);
  put_unknown(root, document.unknown);
  return root.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

Expected<Document> from_json(std::string_view text) {
  if (too_deep(text)) return Problem{"", "the file is nested too deeply.", "This is no Fulmox machine."};
  return guarded(text, [](const Json& root) { return read_document(root); });
}

Expected<Section> house_rules_from_json(std::string_view text) {
  if (too_deep(text)) return Problem{"", "the file is nested too deeply.", "These are no house rules."};
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

std::optional<Problem> save_document(const Document& document, const std::filesystem::path& path) {
  return write_text_file(path, to_json(document));
}

} // namespace fulmox
