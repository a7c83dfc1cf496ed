#pragma once
#include "core/form/field.hpp"
#include "core/working/recorder.hpp"

#include <map>
#include <memory>
#include <string>
#include <utility>
#include <vector>

namespace fulmox {

/// What a field of a form holds before anybody typed into it.
Entry preset_of(const SectionSpec& spec, const FieldSpec& field);

/// A filled-in form: one entry per field of its spec. A plain value: copy it, compare it. Copies share their
/// entries until one of them is changed, so that five hundred states of a machine take little more room than
/// one.
class Section {
public:
  /// As new: every field holds its preset, a quantity as a guess unless the form's presets are decided.
  explicit Section(const SectionSpec& spec);
  /// Every field blank, as a part begins that is read from a table.
  static Section blank_of(const SectionSpec& spec);

  [[nodiscard]] const SectionSpec& spec() const { return *spec_; }
  /// Whether it is of the kind `id`: "move", "dwell", "regulated".
  [[nodiscard]] bool is(std::string_view id) const { return spec_->id == id; }
  [[nodiscard]] std::size_t size() const { return entries_->size(); }
  [[nodiscard]] const FieldSpec& field(std::size_t i) const { return spec_->fields[i]; }
  [[nodiscard]] const Entry& entry(std::size_t i) const { return *(*entries_)[i]; }
  /// By name; std::out_of_range when the form has no such field: a mistake of the program, not of the user.
  [[nodiscard]] const Entry& entry(std::string_view field) const;
  [[nodiscard]] bool has(std::string_view field) const { return spec_->index_of(field).has_value(); }
  void put(std::size_t i, Entry entry);
  void put(std::string_view field, Entry entry);
  /// Several at once, of one field the last counts: put one by one they copy the list of all for each.
  void put(std::vector<std::pair<std::size_t, Entry>> entries);
  /// Types a text into a field, as the user would.
  void type(std::string_view field, std::string_view text, Origin origin = Origin::given);

  [[nodiscard]] const std::string& text(std::string_view field) const { return entry(field).text; }
  [[nodiscard]] bool blank(std::string_view field) const { return entry(field).blank(); }
  /// The value as a term that remembers the input; NaN when blank.
  [[nodiscard]] Term term(std::string_view field) const;
  /// The same for a field that only some forms have; NaN without a ref where there is none.
  [[nodiscard]] Term term_if(std::string_view field) const;
  /// The value, or the given one when the field is blank.
  [[nodiscard]] Term term_or(std::string_view field, double otherwise) const;
  [[nodiscard]] bool all_blank() const;

  /// Path of this section in a document, "mechanism" or "cycle[2]"; heads the refs of its terms.
  std::string path;
  /// Members of the file that this version does not know, kept as they were (name → JSON text).
  std::map<std::string, std::string> unknown;

  bool operator==(const Section& other) const;
  /// The same for forms that share all their entries.
  [[nodiscard]] const void* content() const { return entries_.get(); }
  /// Bytes this form takes beyond what it shares with another one.
  [[nodiscard]] std::size_t own_size(const Section& shared) const;

private:
  [[nodiscard]] std::size_t index(std::string_view field) const;

  using Entries = std::vector<std::shared_ptr<const Entry>>;

  Section(const SectionSpec& spec, std::shared_ptr<const Entries> entries);
  enum class Start { preset, blank };
  static std::shared_ptr<const Entries> start_of(const SectionSpec& spec, Start start);

  const SectionSpec* spec_;
  std::shared_ptr<const Entries> entries_;
};

} // namespace fulmox
