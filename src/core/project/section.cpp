#include "core/project/section.hpp"

#include "core/support/intern.hpp"

#include <algorithm>
#include <stdexcept>

namespace fulmox {

Section::Section(const SectionSpec& spec) : path(spec.id), spec_(&spec) {
  entries_.reserve(spec.fields.size());
  for (const FieldSpec& field : spec.fields) entries_.push_back(make_entry(field, field.preset));
}

std::size_t Section::index(std::string_view field) const {
  const auto found = spec_->index_of(field);
  if (!found) throw std::out_of_range(path + " has no field " + std::string(field));
  return *found;
}

const Entry& Section::entry(std::string_view field) const { return entries_[index(field)]; }

void Section::put(std::string_view field, Entry entry) { entries_[index(field)] = std::move(entry); }

void Section::type(std::string_view field, std::string_view text, Origin origin) {
  const std::size_t i = index(field);
  entries_[i] = make_entry(spec_->fields[i], text);
  entries_[i].origin = origin;
}

Term Section::term(std::string_view field) const { return {entry(field).value, intern(path, field, ".")}; }

Term Section::term_if(std::string_view field) const {
  return has(field) ? term(field) : Term{std::numeric_limits<double>::quiet_NaN(), ""};
}

Term Section::term_or(std::string_view field, double otherwise) const {
  const Term given = term(field);
  return blank(field) ? Term{otherwise, given.ref} : given;
}

bool Section::all_blank() const {
  return std::all_of(entries_.begin(), entries_.end(), [](const Entry& e) { return e.blank(); });
}

} // namespace fulmox
