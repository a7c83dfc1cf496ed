#include "core/form/section_json.hpp"

namespace fulmox {

const std::string* text_of(const Json& value) {
  return value.is_string() ? value.get_ptr<const std::string*>() : nullptr;
}

[[noreturn]] void expect(const std::string& pointer, const std::string& wanted, const Json& found) {
  throw BadJson{pointer, "this should be " + wanted + ", but is " + found.type_name() + ".",
                "Compare with the published schema."};
}

namespace {

Json entry_json(const Entry& entry) {
  if (entry.origin == Origin::given && entry.note.empty()) return entry.text;
  Json out;
  out["typed"] = entry.text;
  if (entry.origin != Origin::given) out["origin"] = id_of(entry.origin);
  if (!entry.note.empty()) out["note"] = entry.note;
  return out;
}

/// What a field holds that a file does not mention: nothing where it may stay blank. A choice takes its usual
/// one, so that files from before the choice existed still mean the same; anything else that is needed takes
/// what is usual.
Entry absent_entry(const SectionSpec& spec, const FieldSpec& field) {
  const bool usual = field.type == FieldType::choice || field.required;
  return usual ? preset_of(spec, field) : make_entry(field, "");
}

Entry read_entry(const FieldSpec& spec, const Json& value, const std::string& pointer) {
  if (const std::string* text = text_of(value)) return make_entry(spec, *text);
  if (!value.is_object()) expect(pointer, "a text like \"5 mm\"", value);
  std::string typed;
  Origin origin = Origin::given;
  std::string note;
  for (const auto& [key, member] : value.items()) {
    if (key != "typed" && key != "note" && key != "origin")
      throw BadJson{pointer + "/" + key, "an input has no \"" + key + "\".",
                    "It has \"typed\", \"origin\" and \"note\"."};
    const std::string* text = text_of(member);
    if (text == nullptr) expect(pointer + "/" + key, "a text", member);
    if (key == "typed") typed = *text;
    if (key == "note") note = *text;
    if (key != "origin") continue;
    const auto known = origin_from(*text);
    if (!known)
      throw BadJson{pointer + "/origin", "unknown origin '" + *text + "'.",
                    "Use given, measured, data sheet or guess."};
    origin = *known;
  }
  Entry entry = make_entry(spec, typed);
  entry.origin = origin;
  entry.note = std::move(note);
  return entry;
}

} // namespace

void put_unknown(Json& out, const std::map<std::string, std::string>& unknown) {
  for (const auto& [name, text] : unknown) out[name] = Json::parse(text);
}

/// A needed field that was cleared must not come back filled with what is usual.
static bool left_open(const Section& section, std::size_t i) {
  return section.field(i).required && !section.field(i).preset.empty();
}

Json section_json(const Section& section, bool with_kind) {
  Json out = Json::object();
  if (with_kind) out["kind"] = section.spec().id;
  for (std::size_t i = 0; i < section.size(); ++i)
    if (!section.entry(i).blank() || !section.entry(i).note.empty() || left_open(section, i))
      out[std::string(section.field(i).id)] = entry_json(section.entry(i));
  put_unknown(out, section.unknown);
  return out;
}

void read_section(Section& section, const Json& value, const std::string& pointer) {
  if (!value.is_object()) expect(pointer, "an object", value);
  std::vector<std::pair<std::size_t, Entry>> entries;
  for (std::size_t i = 0; i < section.size(); ++i) {
    if (value.contains(section.field(i).id)) continue;
    if (Entry usual = absent_entry(section.spec(), section.field(i)); !(section.entry(i) == usual))
      entries.emplace_back(i, std::move(usual));
  }
  for (const auto& [key, member] : value.items()) {
    if (key == "kind") continue;
    if (const auto index = section.spec().index_of(key))
      entries.emplace_back(*index, read_entry(section.field(*index), member, pointer + "/" + key));
    else
      section.unknown[key] = member.dump();
  }
  section.put(std::move(entries));
}

} // namespace fulmox
