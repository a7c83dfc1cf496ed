#include "core/quantity/parse.hpp"

#include "core/quantity/constants.hpp"
#include "core/quantity/expression.hpp"

#include <cmath>

namespace fulmox {
namespace {

using Value = ExpressionValue;

Problem at_column(std::size_t at, std::string what, std::string remedy) {
  return {"column " + std::to_string(at + 1), std::move(what), std::move(remedy)};
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

/// A lead may be typed per turn ("5 mm/rev"): turned into the plain length per revolution.
void accept_per_turn(Value& value, Kind kind) {
  if (kind != Kind::lead) return;
  Dimension per_turn = info(Kind::lead).dimension;
  per_turn[5] = -1;
  if (value.dimension != per_turn) return;
  value.dimension = info(Kind::lead).dimension;
  value.number *= constants::tau;
}

Expected<Value> read(std::string_view text, Kind kind, std::string_view fallback, std::string& unit) {
  try {
    Value value = evaluate_expression(text, unit);
    if (value.bare && !fallback.empty()) {
      unit = fallback;
      value = evaluate_in_unit(text, fallback);
    }
    accept_per_turn(value, kind);
    if (const std::string wrong = mismatch(value, kind); !wrong.empty())
      return Problem{"", wrong, "Write " + example(kind) + "."};
    if (!std::isfinite(value.number)) return Problem{"", "the value is not finite.", "Check the expression."};
    return value;
  } catch (const ExpressionFailure& failure) {
    return at_column(failure.at, failure.what, failure.remedy);
  }
}

} // namespace

Expected<Quantity> parse_quantity(std::string_view text, Kind kind, std::string_view fallback_unit) {
  std::string_view main = text;
  std::string_view spread;
  for (std::string_view mark : {std::string_view("±"), std::string_view("+-"), std::string_view("+/-")})
    if (const auto at = text.find(mark); at != std::string_view::npos) {
      main = text.substr(0, at);
      spread = text.substr(at + mark.size());
      break;
    }
  const std::string clean = trimmed(main);
  if (clean.empty()) return Problem{"", "nothing is given.", "Write a number and a unit, like 5 mm."};

  Quantity quantity;
  const auto value = read(clean, kind, fallback_unit, quantity.unit);
  if (!value) return value.problem();
  quantity.value = value->number;
  if (spread.empty()) return quantity;

  const std::string width = trimmed(spread);
  std::string ignored;
  double half = 0.0;
  if (width.ends_with("%")) {
    const auto share = read(width, Kind::share, "", ignored);
    if (!share) return Problem{"tolerance", share.problem().what, share.problem().remedy};
    half = std::abs(quantity.value) * share->number;
  } else {
    const Kind spread_kind = kind == Kind::temperature ? Kind::temperature_rise : kind;
    const auto absolute = read(width, spread_kind, kind == Kind::temperature ? "K" : quantity.unit, ignored);
    if (!absolute) return Problem{"tolerance", absolute.problem().what, absolute.problem().remedy};
    half = absolute->number;
  }
  if (half < 0.0) return Problem{"tolerance", "it cannot be negative.", "Write ±20 %."};
  quantity.tolerance.half_width = half;
  return quantity;
}

} // namespace fulmox
