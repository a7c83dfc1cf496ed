#include "core/evaluation/stop_results.hpp"

#include "core/limits/emergency.hpp"
#include "core/limits/protection.hpp"
#include "core/stops/formulas.hpp"

#include <cmath>

namespace fulmox {
namespace {

class Adder {
public:
  explicit Adder(std::vector<ResultValue>& results) : results_(results) {}
  void operator()(std::string_view id, std::string_view label, std::string_view symbol, std::string_view help,
                  Kind kind, const Term& value) {
    if (std::isfinite(value.value))
      results_.push_back({id, label, symbol, help, kind, value, value.ref, ResultGroup::train});
  }

private:
  std::vector<ResultValue>& results_;
};

/// Leads shorted: it brakes best at one speed, and holds nothing at rest.
void add_shorted(const AxisModel& model, const Demand& demand, Recorder& recorder, Adder& add) {
  const auto cold = model.motor->shorted(false), hot = model.motor->shorted(true);
  if (!cold || !hot || !(demand.total_inertia > 0.0) || demand.max_speed == 0.0) return;
  const double speed = demand.max_speed;
  const auto angle = [&](const ShortedMotor& m) {
    return short_angle(demand.total_inertia, speed, m.c, m.resistance, m.along, m.across);
  };
  const ShortedMotor& longer = angle(*cold) > angle(*hot) ? *cold : *hot;
  const Term c{longer.c, ""}, r{longer.resistance, ""}, d{longer.along, ""}, q{longer.across, ""};
  add("stop.short_torque", "Leads shorted, torque", "T_k",
      "Greatest braking torque of the motor with its leads shorted, below the top speed of the cycle. At "
      "rest it is "
      "nothing: it does not hold.",
      Kind::torque, recorder.apply(book::short_peak, "stop.short_torque", {c, r, d, q, demand.max_speed}));
  const Term to_rest = recorder.apply(book::short_angle, "stop.short_angle",
                                      {demand.total_inertia, demand.max_speed, c, r, d, q});
  const Term lever{travel_per_radian(model), ""};
  const Term creep = demand.holding.torque == 0.0
                         ? Term{0.0, ""}
                         : recorder.apply(book::short_creep, "stop.short_creep",
                                          {{std::abs(demand.holding.torque), ""}, c, r, d, q});
  if (creep == 0.0) {
    const bool turning = model.load->mechanism->travel() == Kind::angle;
    add("stop.short_travel", "Leads shorted, travel", "x_k",
        "From top speed to rest with the motor's leads shorted, friction no help.",
        turning ? Kind::angle : Kind::length,
        recorder.apply(turning ? book::load_turn : book::load_travel, "stop.short_travel",
                       {{0.0, ""}, to_rest, lever}));
    return;
  }
  add("stop.short_creep", "Leads shorted, sinks at", "n_k",
      "Speed of the motor at which the load goes on sinking with the leads shorted: it brakes, it does not "
      "hold.",
      Kind::angular_speed, creep);
}

} // namespace

void add_stop_results(const AxisModel& model, const Demand& demand, Recorder& recorder,
                      std::vector<ResultValue>& results) {
  Adder add(results);
  if (demand.stops) {
    const Kind travel = model.load->mechanism->travel();
    add("stop.travel", "Power lost, travel", "x_s",
        "How far the load still goes when power is lost at top speed: the brake's delay and its torque in "
        "motion, "
        "friction no help, the load pulling on.",
        travel, demand.stops->moving.travel);
    if (demand.stops->pull > 0.0)
      add("stop.drop", "Power lost at rest, drop", "x_d",
          "How far it drops when power is lost while standing, until the brake has caught it. Play and "
          "wind-up come on "
          "top. Nobody belongs below.",
          travel, demand.stops->rest.travel);
    add("stop.brake_energy", "Energy into the brake", "E_b", "In that stop from top speed.", Kind::energy,
        demand.stops->energy);
  }
  if (const Term back = returned_by_stop(model, demand, recorder); !std::isnan(back))
    add("stop.returned", "Comes back in a stop", "E_s",
        "What an emergency stop from top speed may return to the bus: all that moves and what falls "
        "meanwhile, "
        "losses no help.",
        Kind::energy, back);
  if (const auto spared = protecting_current(model, recorder))
    add("protect.current", "Current limit proposed", "I_set",
        "Set on the drive, it keeps the motor below what gearhead and coupling bear again and again.",
        Kind::current, spared->current);
  add_shorted(model, demand, recorder, add);
}

} // namespace fulmox
