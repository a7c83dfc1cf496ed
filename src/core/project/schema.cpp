#include "core/project/document.hpp"

#include "core/mechanism/mechanism.hpp"
#include "core/motion/segments.hpp"
#include "core/plan/pace.hpp"
#include "core/requirements/duty.hpp"
#include "core/rules/house_rules.hpp"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace fulmox {
namespace {

using Json = nlohmann::ordered_json;

/// Either the typed text alone or an object with origin and note.
Json entry_schema(const FieldSpec& field) {
  Json text = {{"type", "string"}};
  if (field.type == FieldType::choice) {
    Json ids = Json::array();
    for (const Choice& choice : field.choices) ids.push_back(choice.id);
    text["enum"] = std::move(ids);
  }
  Json object;
  object["type"] = "object";
  object["required"] = {"typed"};
  object["properties"]["typed"] = text;
  object["properties"]["origin"]["enum"] = {"given", "measured", "data sheet", "guess"};
  object["properties"]["note"]["type"] = "string";
  std::string about(field.label);
  if (field.type == FieldType::quantity) about += ": " + std::string(info(field.kind).name);
  if (field.type == FieldType::curve) about += ": points like \"3000 rpm: 1.27 N.m\" separated by ;";
  if (!field.help.empty()) about += ". " + std::string(field.help);
  return {{"description", about}, {"anyOf", {text, object}}};
}

Json section_schema(const SectionSpec& spec, bool with_kind) {
  Json out;
  out["title"] = spec.title;
  out["type"] = "object";
  if (with_kind) {
    out["required"] = {"kind"};
    out["properties"]["kind"]["const"] = spec.id;
  }
  for (const FieldSpec& field : spec.fields) out["properties"][std::string(field.id)] = entry_schema(field);
  return out;
}

/// One form, or a choice of them: those that a file must name, and the usual one, which it need not.
Json slot_schema(const SlotSpec& slot) {
  const auto kinds = slot.kinds();
  if (slot.chosen_by == ChosenBy::part && kinds.size() == 1)
    return section_schema(*kinds.front().form, false);
  Json all = Json::array();
  for (const SlotKind& kind : kinds)
    all.push_back(
        section_schema(*kind.form, slot.chosen_by == ChosenBy::list || kind.form != kinds.front().form));
  Json out;
  out[slot.chosen_by == ChosenBy::list ? "oneOf" : "anyOf"] = std::move(all);
  return out;
}

Json axis_schema() {
  Json axis;
  axis["type"] = "object";
  axis["required"] = {"name", "mechanism", "cycle"};
  axis["properties"]["name"]["type"] = "string";
  const Axis sample = new_axis("");
  for (const SlotSpec* slot : axis_slots())
    if (slot->chosen_by != ChosenBy::mechanism)
      axis["properties"][std::string(slot->id)] = slot_schema(*slot);
  // the form of the load goes with the mechanism
  std::vector<const SectionSpec*> loads;
  Json variants = Json::array();
  for (const MechanismSpec* spec : mechanism_specs()) {
    const SectionSpec* load = &spec->load();
    const auto known = std::find(loads.begin(), loads.end(), load);
    const auto index = static_cast<std::size_t>(known - loads.begin());
    if (known == loads.end()) {
      loads.push_back(load);
      Json variant;
      variant["properties"]["mechanism"]["properties"]["kind"]["enum"] = Json::array();
      variant["properties"]["load"] = section_schema(*load, false);
      variants.push_back(std::move(variant));
    }
    variants[index]["properties"]["mechanism"]["properties"]["kind"]["enum"].push_back(spec->section.id);
  }
  axis["anyOf"] = std::move(variants);
  for (const ListInfo& list : section_lists()) {
    Json kinds = Json::array();
    if (list.id == "cycle")
      for (const MotionKinds& motion : {along_a_line, about_an_axis, turning_against_force})
        for (const SectionSpec& spec : segment_specs(motion)) kinds.push_back(section_schema(spec, true));
    else
      for (const SectionSpec* spec : list.kinds(sample)) kinds.push_back(section_schema(*spec, true));
    Json& property = axis["properties"][std::string(list.id)];
    property["type"] = "array";
    property["items"]["anyOf"] = std::move(kinds);
  }
  return axis;
}

} // namespace

std::string document_schema() {
  Json root;
  root["$schema"] = "http://json-schema.org/draft-07/schema#";
  root["title"] = "Fulmox machine, version " + std::to_string(document_version);
  root["description"] =
      "Values are kept as they were typed, with their unit. Members that are not listed are kept untouched.";
  root["type"] = "object";
  root["required"] = {"format", "version", "axes"};
  Json& properties = root["properties"];
  properties["format"]["const"] = document_format;
  properties["version"] = {{"type", "integer"}, {"minimum", 1}, {"maximum", document_version}};
  properties["name"]["type"] = "string";
  properties["units"]["enum"] = {"SI", "inch"};
  properties["house_rules"] = section_schema(house_rules_section(), false);
  properties["duty"] = section_schema(duty_section(), false);
  properties["pace"] = section_schema(pace_section(), false);
  properties["axes"] = {{"type", "array"}, {"items", axis_schema()}};
  for (const MachineListSpec* list : machine_lists()) {
    Json kinds = Json::array();
    for (const SectionSpec* kind : list->kinds()) kinds.push_back(section_schema(*kind, true));
    properties[std::string(list->id)] = {{"type", "array"}, {"items", {{"anyOf", std::move(kinds)}}}};
  }
  return root.dump(2) + "\n";
}

} // namespace fulmox
