#pragma once
#include "core/form/section.hpp"

#include <nlohmann/json.hpp>

#include <string>

namespace fulmox {

using Json = nlohmann::ordered_json;

/// Thrown while a file is read, at the first thing that keeps it from being a document; caught in json.cpp.
struct BadJson {
  std::string pointer, what, remedy;
};

const std::string* text_of(const Json& value);
[[noreturn]] void expect(const std::string& pointer, const std::string& wanted, const Json& found);

void put_unknown(Json& out, const std::map<std::string, std::string>& unknown);
Json section_json(const Section& section, bool with_kind);
/// Fills the section from an object; members it does not know are kept as they are.
void read_section(Section& section, const Json& value, const std::string& pointer);

} // namespace fulmox
