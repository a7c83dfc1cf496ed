#pragma once
#include "core/quantity/kind.hpp"
#include "core/quantity/parse.hpp"
#include "core/quantity/range.hpp"

#include <array>
#include <cstdint>
#include <initializer_list>
#include <limits>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

enum class FieldType : std::uint8_t { quantity, text, choice, curve };

struct Choice {
  std::string_view id;
  std::string_view label;
};

/// One input: what it is called, what it may be. The form, the file, the CSV libraries, the messages and the
/// published schema are all made from these tables.
struct FieldSpec {
  std::string_view id;
  std::string_view label;
  std::string_view symbol;
  FieldType type = FieldType::quantity;
  Kind kind = Kind::number; ///< of a quantity; of the second value of a curve
  Range range = range::any;
  bool required = false;
  std::string_view preset; ///< stands in a new section until the user types
  std::string_view help;
  std::vector<Choice> choices;
  Kind curve_kind = Kind::number; ///< of the first value of a curve
  /// Values that are usual in the trade, with their spread: offered, and marked as guesses where taken. The
  /// id is what is typed.
  std::vector<Choice> usual = {};

  /// Set by the user, not printed on the part: choosing another part leaves it as it is.
  bool setting = false;

  [[nodiscard]] FieldSpec as_setting() const {
    FieldSpec spec = *this;
    spec.setting = true;
    return spec;
  }

  [[nodiscard]] FieldSpec offering(std::vector<Choice> values) const {
    FieldSpec spec = *this;
    spec.usual = std::move(values);
    return spec;
  }
};

/// A quantity that must be given, with what is typed for the user in a new section.
FieldSpec needed(std::string_view id, std::string_view label, std::string_view symbol, Kind kind, Range range,
                 std::string_view preset, std::string_view help);
/// A quantity that may stay blank; the help says what blank means.
FieldSpec optional(std::string_view id, std::string_view label, std::string_view symbol, Kind kind,
                   Range range, std::string_view help);
/// A quantity that may stay blank but is typed for the user, since it usually is that.
FieldSpec usually(std::string_view id, std::string_view label, std::string_view symbol, Kind kind,
                  Range range, std::string_view preset, std::string_view help);
/// A choice of which the first is preset.
FieldSpec one_of(std::string_view id, std::string_view label, std::vector<Choice> choices,
                 std::string_view help);
/// A choice that may be left open; the help says what that means.
FieldSpec maybe_one_of(std::string_view id, std::string_view label, std::vector<Choice> choices,
                       std::string_view help);
/// Points "x: y; x: y" with rising x; may stay blank.
FieldSpec points(std::string_view id, std::string_view label, std::string_view symbol, Kind x, Kind y,
                 Range range, std::string_view help);
/// A free text; required when there is a preset.
FieldSpec written(std::string_view id, std::string_view label, std::string_view preset,
                  std::string_view help);

/// The fields every part of a library has.
FieldSpec part_number_field();
FieldSpec maker_field();
/// What every part of a library has beside its number and maker: mass and price, length, how soon it comes
/// and how many are there, where its data come from.
std::vector<FieldSpec> trade_fields();
/// A form's own fields with these after them.
std::vector<FieldSpec> with_trade_fields(std::vector<FieldSpec> own);

/// The fields of a form in their order, found by name without looking at each: judges ask for some by the
/// microsecond. What is in it does not change.
class FieldTable {
public:
  FieldTable() = default;
  FieldTable(std::vector<FieldSpec> fields);
  FieldTable(std::initializer_list<FieldSpec> fields) : FieldTable(std::vector(fields)) {}

  [[nodiscard]] std::size_t size() const { return fields_.size(); }
  [[nodiscard]] bool empty() const { return fields_.empty(); }
  [[nodiscard]] auto begin() const { return fields_.begin(); }
  [[nodiscard]] auto end() const { return fields_.end(); }
  const FieldSpec& operator[](std::size_t i) const { return fields_[i]; }
  /// Place of the first field of that name.
  [[nodiscard]] std::optional<std::size_t> find(std::string_view id) const;

private:
  [[nodiscard]] std::size_t bucket_of(std::string_view id) const;

  std::vector<FieldSpec> fields_;
  /// By hash of the name, the next free one where two share a bucket: place + 1, or 0. At most half full.
  std::vector<std::uint16_t> buckets_;
};

struct SectionSpec {
  std::string_view id;
  std::string_view title;
  FieldTable fields;
  /// What it presets is decided and reasoned, as house rules are. Otherwise nobody decided it: a preset is a
  /// guess until somebody types it.
  bool decided = false;

  [[nodiscard]] std::optional<std::size_t> index_of(std::string_view field) const {
    return fields.find(field);
  }
};

/// Where a value comes from. A guess is shown as a guess.
enum class Origin : std::uint8_t { given, measured, data_sheet, guess };

std::string_view id_of(Origin origin);
std::optional<Origin> origin_from(std::string_view id);

using CurvePoint = std::array<double, 2>;

/// The content of one field: the text as typed and what it means in SI. A bad text keeps its text and says
/// why.
struct Entry {
  std::string text;
  Origin origin = Origin::given;
  std::string note;

  double value = std::numeric_limits<double>::quiet_NaN(); ///< NaN when blank, faulty or not a quantity
  Tolerance tolerance;
  std::vector<CurvePoint> curve;
  Problem fault; ///< empty `what` = none

  [[nodiscard]] bool blank() const { return text.empty(); }
  [[nodiscard]] bool faulty() const { return !fault.what.empty(); }
  /// Equal as documents: the derived members follow from the text.
  bool operator==(const Entry& other) const {
    return text == other.text && origin == other.origin && note == other.note;
  }
};

/// Reads a text as the content of a field. Never fails: an unusable text comes back with its fault.
/// `fallback_unit` is added to a bare number, and to the stored text, as "9" typed over "6 kg".
Entry make_entry(const FieldSpec& spec, std::string_view text, std::string_view fallback_unit = "");

/// What a text says to a reader: of a choice its words ("at one end" for "one"), else the text itself.
std::string_view words_of(const FieldSpec& spec, std::string_view text);

/// The unit a bare number gets in this field: the one typed last, else the field's usual one.
std::string usual_unit(const FieldSpec& spec, const Entry& last);

} // namespace fulmox
