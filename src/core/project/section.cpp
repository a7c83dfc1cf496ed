#include "core/project/section.hpp"

#include "core/support/intern.hpp"

#include <algorithm>
#include <cassert>

namespace fulmox {

Section::Section(const SectionSpec& spec) : path(spec.id), spec_(&spec) {
  entries_.reserve(spec.fields.size());
  for (const FieldSpec& field : spec.fields) entries_.push_back(make_entry(field, field.preset));
}

const Entry& Section::entry(std::string_view field) const {
  const auto index = spec_->index_of(field);
  assert(index);
  return entries_[*index];
}

void Section::put(std::string_view field, Entry entry) {
  const auto index = spec_->index_of(field);
  assert(index);
  entries_[*index] = std::move(entry);
}

void Section::type(std::string_view field, std::string_view text, Origin origin) {
  const auto index = spec_->index_of(field);
  assert(index);
  entries_[*index] = make_entry(spec_->fields[*index], text);
  entries_[*index].origin = origin;
}

Term Section::term(std::string_view field) const {
  return {entry(field).value, intern(path + "." + std::string(field))};
}

Term Section::term_or(std::string_view field, double otherwise) const {
  const Term given = term(field);
  return blank(field) ? Term{otherwise, given.ref} : given;
}

bool Section::all_blank() const {
  return std::all_of(entries_.begin(), entries_.end(), [](const Entry& e) { return e.blank(); });
}

} // namespace fulmox
