#include "core/form/section.hpp"

#include "core/support/intern.hpp"

#include <algorithm>
#include <mutex>
#include <stdexcept>

namespace fulmox {

Entry preset_of(const SectionSpec& spec, const FieldSpec& field) {
  Entry entry = make_entry(field, field.preset);
  if (!spec.decided && field.type == FieldType::quantity && !entry.blank()) entry.origin = Origin::guess;
  return entry;
}

/// A form as it starts, made once for each kind: reading the presets takes longer than all else about a form.
std::shared_ptr<const Section::Entries> Section::start_of(const SectionSpec& spec, Start start) {
  static std::mutex mutex;
  static std::map<std::pair<const SectionSpec*, Start>, std::shared_ptr<const Entries>> known;
  const std::lock_guard lock(mutex);
  auto& entries = known[{&spec, start}];
  if (!entries) {
    auto made = std::make_shared<Entries>();
    for (const FieldSpec& field : spec.fields)
      made->push_back(std::make_shared<const Entry>(start == Start::preset ? preset_of(spec, field)
                                                                           : make_entry(field, "")));
    entries = std::move(made);
  }
  return entries;
}

Section::Section(const SectionSpec& spec, std::shared_ptr<const Entries> entries)
    : path(spec.id), spec_(&spec), entries_(std::move(entries)) {}

Section::Section(const SectionSpec& spec) : Section(spec, start_of(spec, Start::preset)) {}

Section Section::blank_of(const SectionSpec& spec) { return {spec, start_of(spec, Start::blank)}; }

std::size_t Section::index(std::string_view field) const {
  const auto found = spec_->index_of(field);
  if (!found) throw std::out_of_range(path + " has no field " + std::string(field));
  return *found;
}

const Entry& Section::entry(std::string_view field) const { return entry(index(field)); }

void Section::put(std::size_t i, Entry entry) {
  auto changed = std::make_shared<Entries>(*entries_);
  (*changed)[i] = std::make_shared<const Entry>(std::move(entry));
  entries_ = std::move(changed);
}

void Section::put(std::vector<std::pair<std::size_t, Entry>> entries) {
  if (entries.empty()) return;
  auto changed = std::make_shared<Entries>(*entries_);
  for (auto& place : entries)
    (*changed)[place.first] = std::make_shared<const Entry>(std::move(place.second));
  entries_ = std::move(changed);
}

void Section::put(std::string_view field, Entry entry) { put(index(field), std::move(entry)); }

void Section::type(std::string_view field, std::string_view text, Origin origin) {
  const std::size_t i = index(field);
  Entry entry = make_entry(spec_->fields[i], text);
  entry.origin = origin;
  put(i, std::move(entry));
}

bool Section::operator==(const Section& other) const {
  if (spec_ != other.spec_ || unknown != other.unknown) return false;
  return entries_ == other.entries_ ||
         std::equal(entries_->begin(), entries_->end(), other.entries_->begin(), other.entries_->end(),
                    [](const auto& a, const auto& b) { return a == b || *a == *b; });
}

std::size_t Section::own_size(const Section& shared) const {
  std::size_t bytes = sizeof(Section) + path.capacity();
  for (const auto& [name, text] : unknown) bytes += name.capacity() + text.capacity() + 96;
  if (entries_ == shared.entries_) return bytes;
  bytes += size() * sizeof(Entries::value_type);
  for (std::size_t i = 0; i < size(); ++i) {
    if (i < shared.size() && (*entries_)[i] == (*shared.entries_)[i]) continue;
    const Entry& entry = *(*entries_)[i];
    bytes += sizeof(Entry) + entry.text.capacity() + entry.note.capacity() +
             entry.curve.capacity() * sizeof(CurvePoint);
  }
  return bytes;
}

Term Section::term(std::string_view field) const { return {entry(field).value, intern(path, field, ".")}; }

Term Section::term_if(std::string_view field) const {
  const auto found = spec_->index_of(field);
  if (!found) return {std::numeric_limits<double>::quiet_NaN(), ""};
  return {entry(*found).value, intern(path, field, ".")};
}

Term Section::term_or(std::string_view field, double otherwise) const {
  const Entry& given = entry(field);
  return {given.blank() ? otherwise : given.value, intern(path, field, ".")};
}

bool Section::all_blank() const {
  return std::all_of(entries_->begin(), entries_->end(), [](const auto& e) { return e->blank(); });
}

} // namespace fulmox
