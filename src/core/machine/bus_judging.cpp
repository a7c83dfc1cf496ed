#include "core/machine/bus_judging.hpp"

#include "core/support/intern.hpp"

#include <limits>

namespace fulmox {
namespace {

std::string_view label_of(std::string_view id) {
  for (const BusLimitSpec& spec : bus_limit_specs())
    if (spec.id == id) return spec.label;
  return {};
}

} // namespace

Limit compare(const BusContext& c, std::string_view id, const Side& demand, const Side& capacity, Kind kind,
              std::string rule, std::optional<double> time, std::string_view input) {
  Limit limit;
  limit.demand = demand;
  limit.capacity = capacity;
  limit.kind = kind;
  limit.rule = std::move(rule);
  limit.input = input;
  const Term used =
      c.recorder.apply(book::used_share, {intern("limit.", id), label_of(id)}, {demand, capacity});
  c.recorder.plain_numbers_are(kind);
  c.recorder.note(limit.rule);
  limit.used = used;
  limit.step = used.ref;
  limit.state = state_of(limit.used, c.rules.term("attention"));
  if (time) limit.moment = Moment{0, *time, *time, demand};
  return limit;
}

Limit collapsed(const BusContext& c, std::string rule) {
  Limit limit;
  limit.used = std::numeric_limits<double>::infinity();
  limit.state = LimitState::over;
  limit.kind = Kind::voltage;
  limit.demand = limit.capacity = std::nan("");
  limit.rule = std::move(rule);
  const double at = c.state.low->collapsed_at;
  limit.moment = Moment{0, at, at, 0.0};
  return limit;
}

Borne least_borne(const BusContext& c) {
  Borne least{c.power().over, "drive of " + c.power().over_of};
  const auto narrow = [&](double value, const char* whose) {
    if (told(value) && !(value >= least.volts)) least = {value, whose};
  };
  narrow(c.data().backfed_trip, "supply");
  narrow(c.data().capacitor_volts, "capacitors");
  return least;
}

} // namespace fulmox
