// What an axis draws and gives back in a controlled stop: against the energy of a load by hand, and against
// stops from random moments followed in small steps.

#include "core/power/stop_power.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

AxisModel model_of(const Axis& axis) {
  Recorder silent(false);
  auto model = AxisModel::build(axis, silent);
  if (!model) FAIL(model.problem().text());
  return *std::move(model);
}

/// A stop by the midpoint rule, from the definitions.
struct Followed {
  double drawn = 0.0, back = 0.0, pushed = 0.0, effort = 0.0;
};
Followed follow_stop(const AxisModel& model, std::size_t piece, double tau, double ramp) {
  Recorder silent(false);
  const LoadState begin = model.load->at(piece, tau, silent).load;
  const double v = begin.speed, a = -v / ramp;
  const double bus =
      std::isnan(model.surroundings.bus_low) ? model.surroundings.bus : model.surroundings.bus_low;
  Followed out;
  constexpr int steps = 4000;
  for (int i = 0; i < steps; ++i) {
    const double t = ramp * (i + 0.5) / steps;
    LoadState now = begin;
    now.position = begin.position + v * t + 0.5 * a * t * t;
    now.speed = {v + a * t, ""};
    now.acceleration = {a, ""};
    const LoadInstant load = model.load->moved(now, silent);
    const ShaftState input = model.gear.input(load.output, silent);
    const double torque = input.torque + model.rotor * input.acceleration;
    const double watts = model.electrical(torque, input.speed, input.direction).bus_power;
    (watts > 0.0 ? out.drawn : out.back) += std::abs(watts) * ramp / steps;
    out.pushed = std::max(out.pushed, -watts);
    if (model.motor->has_peak())
      out.effort = std::max(
          out.effort, std::abs(torque) / model.motor->peak_torque(std::abs(input.speed), model.supply_at(bus),
                                                                  torque * input.direction < 0.0));
  }
  return out;
}

} // namespace

TEST_CASE("a falling load gives a stop's energy back, a rising one needs it") {
  // 10 kg at 0.8 m/s stopped with 4 m/s²: ½mv²(g/a − 1) upwards, ½mv²(g/a + 1) back downwards (balance of
  // energy)
  Axis axis = plain_axis();
  axis.cycle.clear();
  axis["load"].type("angle", "90 deg");
  axis["load"].type("friction", "0");
  axis["mechanism"].type("efficiency", "100 %");
  axis["mechanism"].type("diameter", "1 mm");
  axis["mechanism"].type("length", "1 mm");
  add_move(axis, "320 mm", "0.6 s", "1/3", "1/3");
  add_move(axis, "-320 mm", "0.6 s", "1/3", "1/3");
  const AxisModel model = model_of(axis);
  const StopPower stops = stop_power(model, 0.2);
  const double up = 0.5 * 10.0 * 0.64 * (9.80665 / 4.0 - 1.0),
               down = 0.5 * 10.0 * 0.64 * (9.80665 / 4.0 + 1.0);
  CHECK(up == Approx(4.65).epsilon(2e-3));
  CHECK(down == Approx(11.05).epsilon(2e-3));
  CHECK(stops.needed.at(0.3) == Approx(up).epsilon(3e-3));
  CHECK(stops.returned.at(0.3) == Approx(0.0).margin(0.03));
  CHECK(stops.needed.at(0.9) == Approx(0.0).margin(0.03));
  CHECK(stops.returned.at(0.9) == Approx(down).epsilon(3e-3));
  CHECK(stops.pushed.at(0.9) == Approx(10.0 * (9.80665 + 4.0) * 0.8).epsilon(3e-3));
  CHECK(stops.needed.period() == Approx(1.2));
  CHECK(std::isnan(stops.effort)); // no motor, no peak torque
  // harder than its weight: even the rising load gives back
  CHECK(stop_power(model, 0.02).needed.at(0.3) == Approx(0.0).margin(0.05));
}

TEST_CASE("no stop of a random axis asks for more than is told, and little less does") {
  RandomAxes random(71);
  int looked = 0;
  for (const std::string_view mechanism : all_mechanisms())
    for (int round = 0; round < rounds(2); ++round) {
      const Axis axis = random.next_on(mechanism);
      Recorder silent(false);
      auto built = AxisModel::build(axis, silent);
      if (!built) continue;
      const AxisModel& model = *built;
      const double ramp = random.between(0.02, 0.5);
      const StopPower stops = stop_power(model, ramp);
      CAPTURE(mechanism, ramp);
      double effort = 0.0;
      for (int i = 0; i < 40; ++i) {
        const auto& pieces = model.load->cycle.pieces;
        const std::size_t p =
            static_cast<std::size_t>(random.between(0.0, static_cast<double>(pieces.size()) - 1e-9));
        if (pieces[p].rest() || pieces[p].duration <= 0.0) continue;
        const double tau = random.between(0.0, pieces[p].duration), time = pieces[p].start + tau;
        const Followed stop = follow_stop(model, p, tau, ramp);
        const double all = greatest_power(stops.needed).watts + greatest_power(stops.returned).watts;
        CHECK(stop.drawn <= stops.needed.at(time) + 2e-3 * all);
        CHECK(stop.back <= stops.returned.at(time) + 2e-3 * all);
        CHECK(stop.pushed <= stops.pushed.at(time) + 2e-3 * greatest_power(stops.pushed).watts + 1e-9);
        CHECK(stops.needed.at(time) <= stop.drawn + 0.25 * all);
        CHECK(stops.returned.at(time) <= stop.back + 0.25 * all);
        effort = std::max(effort, stop.effort);
        ++looked;
      }
      if (!std::isnan(stops.effort)) CHECK(stops.effort >= 0.97 * effort);
    }
  CHECK(looked >= rounds(200));
}

TEST_CASE("at rest an axis needs what holds it, and nothing behind a closed brake") {
  Axis axis = demo().axes[0];
  const AxisModel model = model_of(axis);
  const StopPower stops = stop_power(model, 0.1);
  Recorder silent(false);
  bool rested = false;
  for (std::size_t p = 0; p < model.load->cycle.pieces.size(); ++p) {
    const MotionPiece& piece = model.load->cycle.pieces[p];
    if (!piece.rest()) continue;
    rested = true;
    const double held = model.at(p, 0.5 * piece.duration, silent).bus_power;
    CHECK(stops.needed.at(piece.start + 0.5 * piece.duration) == Approx(0.1 * std::max(0.0, held)));
    CHECK(stops.returned.at(piece.start + 0.5 * piece.duration) == 0.0);
  }
  CHECK(rested);
}
