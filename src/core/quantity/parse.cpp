#include "core/quantity/parse.hpp"

#include "core/quantity/constants.hpp"
#include "core/quantity/expression.hpp"
#include "core/quantity/trade_units.hpp"
#include "core/support/utf8.hpp"

#include <algorithm>
#include <cmath>
#include <optional>

namespace fulmox {
namespace {

using Value = ExpressionValue;

/// No-break and thin spaces, as they come in with pasted text, made plain ones: one character each.
std::string with_plain_spaces(std::string_view text) {
  const auto is_ascii = [](char c) { return static_cast<unsigned char>(c) < 0x80; };
  if (std::all_of(text.begin(), text.end(), is_ascii)) return std::string(text); // nearly always
  std::string out;
  out.reserve(text.size());
  while (!text.empty()) {
    std::size_t width = 0;
    for (const std::string_view space : {"\u00a0", "\u2007", "\u2009", "\u202f"})
      if (text.starts_with(space)) width = space.size();
    out += width > 0 ? ' ' : text.front();
    text.remove_prefix(std::max<std::size_t>(width, 1));
  }
  return out;
}

/// A text cut at the mark of its spread.
struct Parts {
  std::string_view main, mark, spread; ///< no mark: no spread
  std::size_t spread_at = 0;           ///< byte in the text
};

Parts cut(std::string_view text) {
  Parts parts{text, {}, {}};
  for (const std::string_view mark : {"±", "+-", "+/-", "+−"})
    if (const auto at = text.find(mark); at < parts.main.size())
      parts = {text.substr(0, at), mark, text.substr(at + mark.size()), at + mark.size()};
  return parts;
}

std::string example(Kind kind) {
  const KindInfo& about = info(kind);
  return about.metric.back().symbol.empty()
             ? std::string("a plain number")
             : "it in " + std::string(about.metric[about.metric.size() / 2].symbol) + ", for example";
}

/// Wrong dimension, or right dimension but another kind (joule for a torque): a message, else "".
std::string mismatch(const Value& value, Kind kind) {
  const KindInfo& about = info(kind);
  const Dimension none{};
  if (value.dimension != about.dimension) {
    if (value.dimension == none) return "a unit is missing: this should be " + std::string(about.name) + ".";
    return "the unit does not fit: this should be " + std::string(about.name) + ".";
  }
  if (value.only != Kind::count_ && value.only != kind) {
    if (value.only == Kind::temperature)
      return "a temperature difference is given in K, not on a scale with its own zero.";
    return "the unit names " + std::string(info(value.only).name) + ", but this should be " +
           std::string(about.name) + ".";
  }
  return "";
}

/// Turns per length: a lead told by its threads.
bool counts_threads(const Value& value) {
  return value.dimension == Dimension{-1, 0, 0, 0, 0, 0} || value.dimension == Dimension{-1, 0, 0, 0, 0, 1};
}

/// A lead may be typed per turn ("5 mm/rev") or by its threads ("5 tpi", "5/in", "2 rev/in"): turned into the
/// plain length per revolution.
void accept_per_turn(Value& value, Kind kind) {
  if (kind != Kind::lead) return;
  Dimension per_turn = info(Kind::lead).dimension;
  per_turn[5] = -1;
  if (value.dimension == per_turn)
    value.number *= constants::tau;
  else if (counts_threads(value))
    value.number = (value.dimension[5] == 1 ? constants::tau : 1.0) / value.number;
  else
    return;
  value.dimension = info(Kind::lead).dimension;
}

/// Reads part of a text, which begins at byte `from` of it, with units as the table has them.
Expected<Value> read_plainly(std::string_view whole, std::size_t from, std::string_view part, Kind kind,
                             std::string_view fallback, std::string& unit) {
  try {
    Value value = evaluate_expression(part, unit);
    if (value.bare && !fallback.empty()) {
      unit = fallback;
      value = evaluate_in_unit(part, fallback);
      value.bare = true;
    }
    accept_per_turn(value, kind);
    if (const std::string wrong = mismatch(value, kind); !wrong.empty())
      return Problem{"", wrong, "Write " + example(kind) + "."};
    if (!std::isfinite(value.number)) return Problem{"", "the value is not finite.", "Check the expression."};
    return value;
  } catch (const ExpressionFailure& failure) {
    return Problem{"column " + std::to_string(column_of(whole, from + failure.at)), failure.what,
                   failure.remedy};
  }
}

/// The same; what makes no sense as it stands is read as the trade writes it in a field of this kind.
Expected<Value> read(std::string_view whole, std::size_t from, std::string_view part, Kind kind,
                     std::string_view fallback, std::string& unit) {
  auto plain = read_plainly(whole, from, part, kind, fallback, unit);
  if (plain) return plain;
  const std::string meant = as_trade_writes(part, kind), meant_fallback = as_trade_writes(fallback, kind);
  if (meant == part && meant_fallback == fallback) return plain;
  std::string meant_unit;
  auto again = read_plainly(whole, from, meant, kind, meant_fallback, meant_unit);
  if (!again) return plain; // told in the words that were typed
  unit = meant_unit;
  return again;
}

bool relative(std::string_view spread) { return trimmed(spread).ends_with('%'); }

/// The value of a text and its unit; nothing where it cannot be read, which is told elsewhere.
std::optional<Value> tried(std::string_view text, std::string& unit) {
  try {
    return evaluate_expression(text, unit);
  } catch (const ExpressionFailure&) {
    return std::nullopt;
  }
}

/// The unit in which the spread is told; "" when it is a share of the value or a bare number.
std::string unit_of_spread(const Parts& parts, Kind kind) {
  if (parts.mark.empty() || relative(parts.spread)) return "";
  for (const std::string& text : {std::string(parts.spread), as_trade_writes(parts.spread, kind)}) {
    std::string unit;
    if (const auto value = tried(text, unit)) return value->bare ? "" : unit;
  }
  return "";
}

/// Whether a lead or its spread is told by threads: then a width of the one is none of the other.
bool by_threads(const Parts& parts, const std::string& unit) {
  std::string ignored;
  for (const std::string& text : {std::string(parts.main), std::string(parts.spread), "1 " + unit})
    if (const auto value = tried(text, ignored); value && counts_threads(*value)) return true;
  return false;
}

Problem bad_spread(std::string what, std::string remedy = "Write ±20 %.") {
  return {"tolerance", std::move(what), std::move(remedy)};
}

Expected<Tolerance> read_spread(std::string_view text, const Parts& parts, Kind kind, const Quantity& of) {
  std::string ignored;
  Tolerance out;
  const bool share = relative(parts.spread);
  const Kind spread_kind = share ? Kind::share : kind == Kind::temperature ? Kind::temperature_rise : kind;
  const std::string fallback = share ? "" : kind == Kind::temperature ? "K" : of.unit;
  if (kind == Kind::lead && !share && by_threads(parts, of.unit))
    return bad_spread("of a thread count it is told as a share.", "Write ±2 %.");
  const auto width = read(text, parts.spread_at, parts.spread, spread_kind, fallback, ignored);
  if (!width) return bad_spread(width.problem().what, width.problem().remedy);
  out.half_width = share ? std::abs(of.value) * width->number : width->number;
  if (!std::isfinite(out.half_width)) return bad_spread("it is not finite.");
  if (out.half_width < 0.0) return bad_spread("it cannot be negative.");
  return out;
}

} // namespace

/// The root of a watt has no place among whole powers of units: this one unit is taken off as it is written.
static Expected<Quantity> parse_motor_constant(std::string_view typed) {
  std::string text(typed);
  bool bare = true;
  for (const std::string_view unit : {"N·m/√W", "N.m/√W", "Nm/√W", "N.m/sqrt(W)", "Nm/sqrt(W)"})
    if (const auto at = text.find(unit); bare && at != std::string::npos) {
      text.erase(at, unit.size());
      bare = false;
    }
  const auto number = parse_quantity(text, Kind::number);
  if (!number)
    return Problem{number.problem().where, number.problem().what, "Write a number, like 0.09 N·m/√W."};
  Quantity quantity = *number;
  quantity.unit = info(Kind::motor_constant).si;
  quantity.bare = bare;
  return quantity;
}

Expected<Quantity> parse_quantity(std::string_view typed, Kind kind, std::string_view fallback_unit) {
  if (kind == Kind::motor_constant) return parse_motor_constant(typed);
  const std::string text = with_plain_spaces(typed);
  const Parts parts = cut(text);
  if (trimmed(parts.main).empty())
    return Problem{"", "nothing is given.", "Write a number and a unit, like 5 mm."};
  if (!parts.mark.empty()) {
    if (trimmed(parts.spread).empty())
      return bad_spread("it is missing.", "Write ±20 %, or remove the mark.");
    if (!cut(parts.spread).mark.empty())
      return bad_spread("there are two of them.", "Write one, like ±20 %.");
  }
  const std::string from_spread = unit_of_spread(parts, kind);

  Quantity quantity;
  const auto value =
      read(text, 0, parts.main, kind, from_spread.empty() ? fallback_unit : from_spread, quantity.unit);
  if (!value) return value.problem();
  quantity.value = value->number;
  quantity.bare = value->bare && from_spread.empty();
  if (parts.mark.empty()) return quantity;
  const auto spread = read_spread(text, parts, kind, quantity);
  if (!spread) return spread.problem();
  quantity.tolerance = *spread;
  return quantity;
}

Expected<std::string> with_unit(std::string_view typed, Kind kind, std::string_view fallback_unit) {
  const auto meant = parse_quantity(typed, kind, fallback_unit);
  if (!meant) return meant.problem();
  if (!meant->bare || fallback_unit.empty()) return std::string(typed);
  const std::string text = with_plain_spaces(typed);
  const Parts parts = cut(text);
  const std::string main = trimmed(parts.main), unit(fallback_unit);
  const std::string spread = parts.mark.empty() ? "" : " " + std::string(parts.mark) + trimmed(parts.spread);
  for (const std::string& told : {main + " " + unit, "(" + main + ") " + unit}) {
    const auto again = parse_quantity(told + spread, kind);
    // the same but for the order in which factors are multiplied
    const auto same = [](double a, double b) { return std::abs(a - b) <= 1e-14 * std::abs(b); };
    if (again && same(again->value, meant->value) && again->unit == meant->unit &&
        same(again->tolerance.half_width, meant->tolerance.half_width))
      return told + spread;
  }
  return Problem{"", "the unit is not clear.", "Write it behind the number."};
}

} // namespace fulmox
