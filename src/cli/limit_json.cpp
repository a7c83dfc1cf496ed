#include "cli/limit_json.hpp"

#include <cmath>
#include <fmt/format.h>

namespace fulmox::cli {

using Json = nlohmann::ordered_json;

Json number(double value) {
  if (std::isinf(value)) return value > 0.0 ? "unbounded" : "-unbounded";
  return std::isnan(value) ? Json(nullptr) : Json(value);
}

Json limit_json(const Limit& limit) {
  Json out;
  out["id"] = limit.id;
  out["label"] = limit.label;
  out["state"] = word(limit.state);
  if (limit.state == LimitState::not_judged) {
    out["reason"] = limit.reason;
    out["input"] = limit.input;
    return out;
  }
  out["used"] = number(limit.used);
  out["demand"] = number(limit.demand);
  out["capacity"] = number(limit.capacity);
  out["unit"] = info(limit.kind).si;
  if (limit.moment) out["time"] = limit.moment->time;
  out["rule"] = limit.rule;
  return out;
}

Json finite(double value) { return std::isfinite(value) ? Json(value) : Json(); }

std::string percent_used(double used) {
  return std::isfinite(used) && used < 1e4 ? fmt::format("{:.0f} %", 100.0 * used) : "none left";
}

} // namespace fulmox::cli
