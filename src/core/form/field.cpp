#include "core/form/field.hpp"

#include "core/quantity/format.hpp"
#include "core/support/text_lines.hpp"

#include <algorithm>
#include <bit>
#include <cmath>
#include <functional>

namespace fulmox {
namespace {

constexpr std::size_t most_points = 200'000; ///< of a curve: more takes seconds to read

constexpr std::array<std::string_view, 4> origin_ids{"given", "measured", "data sheet", "guess"};

bool is_choice(const FieldSpec& spec, std::string_view text) {
  return std::any_of(spec.choices.begin(), spec.choices.end(), [&](const Choice& c) { return c.id == text; });
}

Problem choice_problem(const FieldSpec& spec) {
  std::string list;
  for (const Choice& choice : spec.choices) list += (list.empty() ? "" : ", ") + std::string(choice.id);
  return {"", "this is none of the choices.", "Use one of: " + list + "."};
}

/// "0 rpm: 1.3 N.m; 3000 rpm: 1.27 N.m", first values rising.
Entry read_curve(const FieldSpec& spec, Entry entry) {
  if (std::count(entry.text.begin(), entry.text.end(), ';') >= static_cast<std::ptrdiff_t>(most_points)) {
    entry.fault = {"", "these are more than " + std::to_string(most_points) + " points.",
                   "Keep every second or tenth of them."};
    return entry;
  }
  std::string_view rest = entry.text;
  std::size_t number = 0;
  while (!rest.empty()) {
    ++number;
    const auto end = rest.find(';');
    const std::string_view point = rest.substr(0, end);
    rest = end == rest.npos ? std::string_view{} : rest.substr(end + 1);
    const std::string place = "point " + std::to_string(number);
    const auto colon = point.find(':');
    if (colon == point.npos) {
      entry.fault = {place, "a curve point needs two values.", "Write it like 3000 rpm: 1.27 N.m; …"};
      return entry;
    }
    const auto x = parse_quantity(point.substr(0, colon), spec.curve_kind);
    const auto y = parse_quantity(point.substr(colon + 1), spec.kind);
    if (!x || !y) {
      const Problem& cause = x ? y.problem() : x.problem();
      entry.fault = {place, cause.what, cause.remedy};
      return entry;
    }
    if (spec.range.low >= 0.0 && x->value < 0.0) {
      entry.fault = {place, "values of this curve cannot be negative.", "Give the motoring quadrant only."};
      return entry;
    }
    if (const auto problem = implausible(x->value, spec.curve_kind)) {
      entry.fault = {place, problem->what, problem->remedy};
      return entry;
    }
    if (const auto problem = implausible(y->value, spec.kind)) {
      entry.fault = {place, problem->what, problem->remedy};
      return entry;
    }
    if (!spec.range.contains(y->value)) {
      entry.fault = {place, "the second value " + describe(spec.range, spec.kind), "Type another value."};
      return entry;
    }
    if (!entry.curve.empty() && x->value <= entry.curve.back()[0]) {
      entry.fault = {place, "the points must have rising first values.", "Sort them, each once."};
      return entry;
    }
    entry.curve.push_back({x->value, y->value});
  }
  return entry;
}

Entry read_quantity(const FieldSpec& spec, Entry entry, std::string_view fallback_unit) {
  // what is kept must mean the same when it is read again: the value is that of the kept text
  if (!fallback_unit.empty()) {
    const auto kept = with_unit(entry.text, spec.kind, fallback_unit);
    if (!kept) {
      entry.fault = kept.problem();
      return entry;
    }
    entry.text = trimmed(*kept);
  }
  const auto quantity = parse_quantity(entry.text, spec.kind);
  if (!quantity) {
    entry.fault = quantity.problem();
    return entry;
  }
  if (!spec.range.contains(quantity->value)) {
    entry.fault = {"", std::string(spec.label) + " " + describe(spec.range, spec.kind),
                   "Type another value."};
    return entry;
  }
  if (const auto problem = implausible(quantity->value, spec.kind)) {
    entry.fault = *problem;
    return entry;
  }
  entry.value = quantity->value;
  entry.tolerance = quantity->tolerance;
  return entry;
}

} // namespace

FieldSpec needed(std::string_view id, std::string_view label, std::string_view symbol, Kind kind, Range range,
                 std::string_view preset, std::string_view help) {
  return {id, label, symbol, FieldType::quantity, kind, range, true, preset, help, {}};
}

FieldSpec optional(std::string_view id, std::string_view label, std::string_view symbol, Kind kind,
                   Range range, std::string_view help) {
  return {id, label, symbol, FieldType::quantity, kind, range, false, "", help, {}};
}

FieldSpec usually(std::string_view id, std::string_view label, std::string_view symbol, Kind kind,
                  Range range, std::string_view preset, std::string_view help) {
  return {id, label, symbol, FieldType::quantity, kind, range, false, preset, help, {}};
}

FieldSpec one_of(std::string_view id, std::string_view label, std::vector<Choice> choices,
                 std::string_view help) {
  const std::string_view first = choices.front().id;
  return {id, label, "", FieldType::choice, Kind::number, range::any, true, first, help, std::move(choices)};
}

FieldSpec maybe_one_of(std::string_view id, std::string_view label, std::vector<Choice> choices,
                       std::string_view help) {
  return {id, label, "", FieldType::choice, Kind::number, range::any, false, "", help, std::move(choices)};
}

FieldSpec points(std::string_view id, std::string_view label, std::string_view symbol, Kind x, Kind y,
                 Range range, std::string_view help) {
  return {id, label, symbol, FieldType::curve, y, range, false, "", help, {}, x};
}

FieldSpec written(std::string_view id, std::string_view label, std::string_view preset,
                  std::string_view help) {
  return {id, label, "", FieldType::text, Kind::number, range::any, !preset.empty(), preset, help, {}};
}

FieldSpec part_number_field() { return written("part_number", "Part number", "", ""); }

FieldSpec maker_field() { return written("maker", "Maker", "", ""); }

std::vector<FieldSpec> trade_fields() {
  return {
      optional("mass", "Mass", "m", Kind::mass, range::positive, ""),
      optional("price", "Price", "", Kind::number, range::not_negative,
               "Per piece, in the money of your lists. Nothing is judged by it; shipped ones are invented."),
      optional("length", "Length", "", Kind::length, range::positive,
               "Along the shaft, without the shaft's end; of a drive or supply its depth."),
      optional("lead_time", "Lead time", "", Kind::time, range::not_negative,
               "From order to delivery, like 6 wk or 10 d."),
      optional("stock", "In stock", "", Kind::number, range::not_negative,
               "Pieces at hand. Blank: not known."),
      written("source", "Data from", "", "Where the data come from: a sheet and its date, a measurement.")};
}

std::vector<FieldSpec> with_trade_fields(std::vector<FieldSpec> own) {
  for (FieldSpec& field : trade_fields()) own.push_back(std::move(field));
  return own;
}

FieldTable::FieldTable(std::vector<FieldSpec> fields)
    : fields_(std::move(fields)), buckets_(std::bit_ceil(2 * fields_.size() + 1)) {
  for (std::size_t i = 0; i < fields_.size(); ++i) {
    if (find(fields_[i].id)) continue;
    std::size_t bucket = bucket_of(fields_[i].id);
    while (buckets_[bucket] != 0) bucket = (bucket + 1) & (buckets_.size() - 1);
    buckets_[bucket] = static_cast<std::uint16_t>(i + 1);
  }
}

std::size_t FieldTable::bucket_of(std::string_view id) const {
  return std::hash<std::string_view>{}(id) & (buckets_.size() - 1);
}

std::optional<std::size_t> FieldTable::find(std::string_view id) const {
  if (buckets_.empty()) return std::nullopt;
  for (std::size_t bucket = bucket_of(id); buckets_[bucket] != 0;
       bucket = (bucket + 1) & (buckets_.size() - 1))
    if (const std::size_t place = buckets_[bucket] - 1U; fields_[place].id == id) return place;
  return std::nullopt;
}

std::string_view id_of(Origin origin) { return origin_ids[static_cast<std::size_t>(origin)]; }

std::optional<Origin> origin_from(std::string_view id) {
  const auto found = std::find(origin_ids.begin(), origin_ids.end(), id);
  if (found == origin_ids.end()) return std::nullopt;
  return static_cast<Origin>(found - origin_ids.begin());
}

Entry make_entry(const FieldSpec& spec, std::string_view text, std::string_view fallback_unit) {
  Entry entry;
  entry.text = trimmed(text);
  if (entry.blank()) {
    if (spec.required)
      entry.fault = {"", std::string(spec.label) + " is missing.",
                     std::string("Type a value. ") + std::string(spec.help)};
    return entry;
  }
  switch (spec.type) {
  case FieldType::quantity:
    return read_quantity(spec, std::move(entry), fallback_unit);
  case FieldType::curve:
    return read_curve(spec, std::move(entry));
  case FieldType::choice:
    if (!is_choice(spec, entry.text)) entry.fault = choice_problem(spec);
    return entry;
  case FieldType::text:
    return entry;
  }
  return entry;
}

std::string_view words_of(const FieldSpec& spec, std::string_view text) {
  for (const Choice& choice : spec.choices)
    if (choice.id == text) return choice.label;
  return text;
}

std::string usual_unit(const FieldSpec& spec, const Entry& last) {
  if (spec.type != FieldType::quantity) return "";
  if (!last.blank())
    if (const auto quantity = parse_quantity(last.text, spec.kind); quantity && !quantity->unit.empty())
      return quantity->unit;
  if (spec.kind == Kind::share) return "";
  const auto preset = parse_quantity(spec.preset, spec.kind);
  if (preset && !preset->unit.empty()) return preset->unit;
  return std::string(info(spec.kind).metric.back().symbol);
}

} // namespace fulmox
