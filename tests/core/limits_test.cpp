// Each rung by itself, with numbers worked by hand from an axis that is easy to work by hand.

#include "support/axes.hpp"

#include "core/evaluation/part_fit.hpp"
#include "core/quantity/constants.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

constexpr double g = 9.80665;

/// Upright, frictionless, lossless, 10 kg on 10 mm; up 100 mm in 1 s by thirds, back, 1 s of rest. A motor of
/// round data.
Axis simple_axis() {
  Axis axis = new_axis("Simple");
  axis["load"].type("moved_mass", "10 kg");
  axis["load"].type("angle", "90 deg");
  axis["load"].type("friction", "0");
  axis["mechanism"].type("efficiency", "1");
  Section& motor = axis["motor"];
  for (const auto& [field, text] : std::initializer_list<std::pair<const char*, const char*>>{
           {"inertia", "0.2 kg.cm2"},
           {"max_speed", "3000 rpm"},
           {"continuous_curve", "0 rpm: 0.5 N.m; 3000 rpm: 0.5 N.m"},
           {"peak_curve", "0 rpm: 1.5 N.m; 3000 rpm: 1.5 N.m"},
           {"kt", "0.1 N.m/A"},
           {"kt_per", "rms"},
           {"resistance", "1 Ohm"},
           {"inductance", "2 mH"},
           {"winding_as", "terminal"},
           {"pole_pairs", "4"}})
    motor.type(field, text);
  Section& drive = axis["drive"];
  drive.type("continuous_current", "5 A");
  drive.type("peak_current", "20 A");
  drive.type("peak_time", "2 s");
  drive.type("overvoltage", "70 V");
  drive.type("capacitance", "2 mF");
  axis["surroundings"].type("bus", "48 V");
  add_move(axis, "100 mm", "1 s", "1/3", "1/3");
  add_move(axis, "-100 mm", "1 s", "1/3", "1/3");
  add_dwell(axis, "1 s");
  return axis;
}

const double arm = 0.01 / (2.0 * M_PI);
const double screw_inertia = M_PI / 32.0 * 7850.0 * 0.5 * std::pow(0.016, 4);
const double acceleration = 0.45; // 4.5·0.1/1²
const double inertia_torque = (10.0 * arm * arm + screw_inertia + 0.2e-4) * acceleration / arm;
const double weight_torque = 10.0 * g * arm;

} // namespace

TEST_CASE("peak and rms torque, worked by hand") {
  const Evaluation e = evaluated(simple_axis());
  const double peak = weight_torque + inertia_torque;
  CHECK(value(e, "demand.peak_torque") == Approx(peak).epsilon(1e-12));
  CHECK(limit(e, "motor.peak").used == Approx(peak / 1.5).epsilon(1e-9));
  // each move: a third at weight + inertia, a third at weight, a third at weight − inertia; then a second of
  // weight
  const double squares = 2.0 *
                         (std::pow(weight_torque + inertia_torque, 2) + std::pow(weight_torque, 2) +
                          std::pow(weight_torque - inertia_torque, 2)) /
                         3.0;
  const double rms = std::sqrt((squares + weight_torque * weight_torque) / 3.0);
  CHECK(value(e, "demand.rms_torque") == Approx(rms).epsilon(1e-12));
  CHECK(limit(e, "motor.rms").used == Approx(rms / 0.5).epsilon(1e-9));
}

TEST_CASE("speeds, worked by hand") {
  Axis axis = simple_axis();
  const Evaluation e = evaluated(axis);
  const double top = 0.15 / arm; // 1.5·0.1/1 s
  CHECK(value(e, "demand.max_speed") == Approx(top).epsilon(1e-12));
  CHECK(limit(e, "motor.speed").used == Approx(top / (3000.0 * constants::rpm)).epsilon(1e-9));
  // 100 mm up, 100 mm down in 3 s: 20 turns
  CHECK(value(e, "demand.mean_speed") == Approx(20.0 * 2.0 * M_PI / 3.0).epsilon(1e-12));
  axis["surroundings"].type("bus", "10 V");
  // the back-EMF uses up the voltage below the mechanical limit
  const double k = 0.1 / std::sqrt(1.5) / std::sqrt(3.0);
  CHECK(limit(evaluated(axis), "motor.speed").capacity ==
        Approx(0.95 * 10.0 / std::sqrt(3.0) / k).epsilon(1e-9));
}

TEST_CASE("currents, worked by hand") {
  const Evaluation e = evaluated(simple_axis());
  CHECK(value(e, "drive.peak_current") == Approx((weight_torque + inertia_torque) / 0.1).epsilon(1e-9));
  CHECK(value(e, "drive.rms_current") == Approx(value(e, "demand.rms_torque") / 0.1).epsilon(1e-9));
  CHECK(limit(e, "drive.peak").used == Approx(value(e, "drive.peak_current") / 20.0).epsilon(1e-9));
  CHECK(limit(e, "drive.rms").used == Approx(value(e, "drive.rms_current") / 5.0).epsilon(1e-9));
}

TEST_CASE(
    "the overload integrator counts only what is above the continuous current, and forgets in the rest") {
  Axis axis = simple_axis();
  axis["load"].type("moved_mass", "20 kg");
  axis.cycle[0].type("time", "0.12 s");
  axis.cycle[1].type("time", "0.12 s");
  axis["drive"].type("continuous_current", "12 A");
  const Evaluation e = evaluated(axis);
  const Limit& overload = limit(e, "drive.peak_time");
  CHECK(overload.capacity == Approx((400.0 - 144.0) * 2.0));
  CHECK(overload.demand > 0.0);
  // no more than the peak current held through both moves
  CHECK(overload.demand < (std::pow(value(e, "drive.peak_current"), 2) - 144.0) * 0.24);
  axis["drive"].type("continuous_current", "30 A");
  CHECK(limit(evaluated(axis), "drive.peak_time").demand == 0.0);
}

TEST_CASE("drive voltage is judged at the lowest bus") {
  Axis axis = simple_axis();
  const Evaluation usual = evaluated(axis);
  CHECK(limit(usual, "drive.voltage").capacity == Approx(0.95 * 0.9 * 48.0 / std::sqrt(3.0)));
  axis["surroundings"].type("bus_low", "40 V");
  CHECK(limit(evaluated(axis), "drive.voltage").capacity == Approx(0.95 * 40.0 / std::sqrt(3.0)));
}

TEST_CASE("bus power adds up: mechanical, copper, nothing else here") {
  const Evaluation e = evaluated(simple_axis());
  // holding through the dwell takes only copper loss: 1.5·I²·R
  const double hold = weight_torque / 0.1;
  CHECK(e.at(2.5).bus_power == Approx(1.5 * hold * hold * 1.0).epsilon(1e-9));
  // a closed cycle without friction: what is drawn and not returned has heated the winding
  const double current = value(e, "drive.rms_current");
  const CycleIntegrals& sums = e.demand.integrals;
  CHECK(sums.bus_drawn - sums.bus_returned == Approx(1.5 * current * current * 1.0 * 3.0).epsilon(1e-9));
  CHECK(value(e, "supply.mean_power") == Approx(sums.bus_drawn / 3.0));
}

TEST_CASE("returned energy lifts the bus by the capacitor's law") {
  Axis axis = simple_axis();
  axis["load"].type("moved_mass", "40 kg");
  axis["motor"].type("resistance", "0.01 Ohm");
  const Evaluation e = evaluated(axis);
  const double energy = e.demand.integrals.reflected;
  REQUIRE(energy > 1.0);
  const double high = 1.1 * 48.0;
  CHECK(limit(e, "supply.overvoltage").demand ==
        Approx(std::sqrt(high * high + 2.0 * energy / 2e-3)).epsilon(1e-9));
  // lowering gives back the potential energy less what the copper takes
  CHECK(energy < 40.0 * g * 0.1);
  CHECK(energy > 0.9 * 40.0 * g * 0.1);
}

TEST_CASE("a return that goes on over the end of the cycle counts as one") {
  Axis axis = simple_axis();
  axis["load"].type("moved_mass", "40 kg");
  axis["motor"].type("resistance", "0.01 Ohm");
  axis.cycle.pop_back();
  const double whole = evaluated(axis).demand.integrals.reflected;
  // the same cycle entered half way down, in full run: the second half of lowering, up, the first half of
  // lowering
  Axis turned = axis;
  turned.cycle.clear();
  const auto half = [&](const char* fast_end) {
    add_segment(turned, "move",
                {{"distance", "-50 mm"},
                 {"time", ""},
                 {"peak_speed", "0.15 m/s"},
                 {"acceleration", "0.45 m/s2"},
                 {fast_end, "0.15 m/s"}});
  };
  half("start_speed");
  add_move(turned, "100 mm", "1 s", "1/3", "1/3");
  half("end_speed");
  CHECK(value(evaluated(turned), "demand.peak_torque") ==
        Approx(value(evaluated(axis), "demand.peak_torque")));
  CHECK(evaluated(turned).demand.integrals.reflected == Approx(whole).epsilon(1e-9));
  CHECK(evaluated(turned).demand.integrals.bus_returned == Approx(whole).epsilon(1e-9));
}

TEST_CASE("brake: gravity without help from friction, over the house factor") {
  Axis axis = simple_axis();
  axis["load"].type("friction", "0.5");
  axis["load"].type("seal_drag", "500 N");
  axis["brake"].type("fitted", "yes");
  axis["brake"].type("torque", "0.4 N.m");
  CHECK(limit(evaluated(axis), "brake.hold").used == Approx(weight_torque / 0.2).epsilon(1e-9));
  axis["brake"].type("torque", "");
  CHECK(limit(evaluated(axis), "brake.hold").state == LimitState::not_judged);
  axis["brake"].type("fitted", "no");
  for (const Limit& l : evaluated(axis).limits) CHECK(l.id != "brake.hold");
}

TEST_CASE("a braked dwell costs no torque and no current") {
  Axis axis = simple_axis();
  axis["brake"].type("fitted", "yes");
  axis.cycle[2].type("held_by", "brake");
  const Evaluation e = evaluated(axis);
  CHECK(e.at(2.5).torque == 0.0);
  CHECK(e.at(2.5).current == 0.0);
  const double squares = 2.0 *
                         (std::pow(weight_torque + inertia_torque, 2) + std::pow(weight_torque, 2) +
                          std::pow(weight_torque - inertia_torque, 2)) /
                         3.0;
  CHECK(value(e, "demand.rms_torque") == Approx(std::sqrt(squares / 3.0)).epsilon(1e-9));
}

TEST_CASE("holding by motor or by brake: the heating of the other way is told beside") {
  Axis axis = simple_axis();
  CHECK(evaluated(axis).find("hold.rms_braked") == nullptr); // no brake to close
  axis["brake"].type("fitted", "yes");
  const Evaluation motor_holds = evaluated(axis);
  axis.cycle[2].type("held_by", "brake");
  const Evaluation brake_holds = evaluated(axis);
  // each tells what the other is
  CHECK(value(motor_holds, "hold.rms_braked") ==
        Approx(value(brake_holds, "demand.rms_torque")).epsilon(1e-9));
  CHECK(value(brake_holds, "hold.rms_unbraked") ==
        Approx(value(motor_holds, "demand.rms_torque")).epsilon(1e-9));
  CHECK(value(motor_holds, "hold.rms_braked") < value(motor_holds, "demand.rms_torque"));
  CHECK(motor_holds.step("hold.rms_braked") != nullptr);
  // a force that changes while the brake is closed is held too
  axis.cycle[2].type("process", "40 N");
  axis.cycle[2].type("process_end", "160 N");
  const double opened = value(evaluated(axis), "hold.rms_unbraked");
  axis.cycle[2].type("held_by", "motor");
  CHECK(opened == Approx(value(evaluated(axis), "demand.rms_torque")).epsilon(1e-9));
  // nothing to hold on a level axis
  axis.cycle[2].type("process", "");
  axis.cycle[2].type("process_end", "");
  axis["load"].type("angle", "0 deg");
  CHECK(evaluated(axis).find("hold.rms_braked") == nullptr);
  CHECK(evaluated(axis).find("hold.rms_unbraked") == nullptr);
}

TEST_CASE("coupling: greatest torque times service factor, and shafts within the bores") {
  Axis axis = simple_axis();
  choose_part(axis, "coupling", *library().find("coupling", "DS12-0020"));
  axis["coupling"].type("inertia", "0 g.cm2");
  axis["motor"].type("shaft", "8 mm");
  axis["mechanism"].type("journal", "10 mm");
  const Evaluation e = evaluated(axis);
  const double at_coupling = weight_torque + (10.0 * arm * arm + screw_inertia) * acceleration / arm;
  CHECK(limit(e, "coupling.torque").used == Approx(1.5 * at_coupling / 2.0).epsilon(1e-9));
  CHECK(limit(e, "coupling.bore").used == Approx(10.0 / 12.0));
  CHECK(limit(e, "coupling.bore").state == LimitState::clear);
  axis["mechanism"].type("journal", "14 mm");
  CHECK(limit(evaluated(axis), "coupling.bore").state == LimitState::over);
  axis["mechanism"].type("journal", "4 mm");
  CHECK(limit(evaluated(axis), "coupling.bore").state == LimitState::over);
}

TEST_CASE("gearhead: fatigue torque, starts per hour, speeds") {
  Axis axis = simple_axis();
  choose_part(axis, "gearhead", *library().find("gearhead", "TP40-5"));
  const Evaluation e = evaluated(axis);
  const double out = weight_torque + (10.0 * arm * arm + screw_inertia) * acceleration / arm;
  // two moves in 3 s make 2400 starts an hour: factor 1.6
  CHECK(limit(e, "gear.peak").demand == Approx(1.6 * out).epsilon(1e-9));
  CHECK(limit(e, "gear.equivalent").demand < out);
  CHECK(limit(e, "gear.equivalent").demand > weight_torque);
  CHECK(limit(e, "gear.speed_max").demand == Approx(5.0 * 0.15 / arm).epsilon(1e-9));
  CHECK(value(e, "demand.ratio") > 0.0);
  // it turns two thirds of the time: the continuous torque counts, and only that
  CHECK(limit(e, "gear.equivalent").capacity == Approx(axis["gearhead"].term("continuous_torque")));
  axis["gearhead"].type("continuous_torque", "");
  CHECK(limit(evaluated(axis), "gear.equivalent").capacity ==
        Approx(axis["gearhead"].term("nominal_torque")));
  axis["gearhead"].type("nominal_torque", "");
  CHECK(limit(evaluated(axis), "gear.equivalent").state == LimitState::not_judged);
}

TEST_CASE("supply: this axis alone against what is given, or said to be missing") {
  Axis axis = simple_axis();
  CHECK_THAT(std::string(limit(evaluated(axis), "supply.mean").reason), Contains("not given"));
  axis["surroundings"].type("supply_current", "2 A");
  axis["surroundings"].type("supply_peak", "4 A");
  const Evaluation e = evaluated(axis);
  CHECK(limit(e, "supply.mean").demand == Approx(value(e, "supply.mean_power") / 48.0));
  CHECK(limit(e, "supply.peak").demand == Approx(value(e, "supply.peak_power") / 43.2));
  CHECK(value(e, "supply.mean_current") == Approx(limit(e, "supply.mean").demand));
  CHECK(value(e, "supply.peak_current") == Approx(limit(e, "supply.peak").demand));
}

TEST_CASE("thermal speed is a house rule") {
  Axis axis = simple_axis();
  axis["motor"].type("continuous_curve", "0 rpm: 0.5 N.m; 3000 rpm: 0.1 N.m");
  Section rules = house_rules();
  const auto at_mean = evaluate(axis, rules);
  rules.type("thermal_speed", "rms");
  const auto at_rms = evaluate(axis, rules);
  REQUIRE(at_mean);
  REQUIRE(at_rms);
  CHECK(limit(*at_rms, "motor.rms").capacity < limit(*at_mean, "motor.rms").capacity);
}

TEST_CASE("a hot room and thin air derate the continuous torque, and the plane with it") {
  Axis axis = demo().axes[0];
  axis["surroundings"].type("ambient", "40 degC");
  axis["surroundings"].type("altitude", "0 m");
  const Evaluation cool = evaluated(axis);
  axis["surroundings"].type("ambient", "70 degC");
  axis["surroundings"].type("altitude", "2000 m");
  const Evaluation hot = evaluated(axis);
  const double factor = limit(hot, "motor.rms").capacity / limit(cool, "motor.rms").capacity;
  // √((155 − 70)/(155 − 40)) = 0.860 without iron loss, a little less with it; 1 % per 100 m above 1000 m
  CHECK(factor == Approx(0.9 * std::sqrt(85.0 / 115.0)).epsilon(0.01));
  CHECK(factor < 0.9 * std::sqrt(85.0 / 115.0));
  Axis same_room = axis;
  same_room["surroundings"].type("ambient", "40 degC");
  same_room["surroundings"].type("altitude", "0 m");
  CHECK(plots_of(hot).envelope.front().continuous / plots_of(cool).envelope.front().continuous ==
        Approx(factor).epsilon(1e-9));
  CHECK_THAT(limit(hot, "motor.rms").rule, Contains("derated"));
  CHECK_THAT(limit(cool, "motor.rms").rule, !Contains("derated"));
}

TEST_CASE("a missing bus voltage leaves voltage limits unjudged and the rest as they are") {
  Axis axis = demo().axes[0];
  for (const char* field : {"bus", "bus_low", "bus_high"}) axis["surroundings"].type(field, "");
  const Evaluation e = evaluated(axis);
  CHECK(limit(e, "drive.voltage").state == LimitState::not_judged);
  CHECK(limit(e, "drive.voltage").input == "surroundings.bus");
  CHECK(limit(e, "motor.rms").state != LimitState::not_judged);
  CHECK(limit(e, "motor.peak").state != LimitState::not_judged);
  CHECK(e.find("supply.mean_current") == nullptr);
  CHECK(e.find("supply.mean_power") != nullptr);
}

TEST_CASE("the worst moment of the peak torque is worst, and the fastest where nothing is left") {
  const Section rules_section = house_rules();
  const Rules rules(rules_section);
  Recorder silent(false);
  int finite = 0, without = 0;
  for (const std::size_t index : {0U, 1U, 2U, 3U, 4U})
    for (const double reach : {0.3, 0.6, 0.95, 1.05, 1.5}) { // of the top speed the catalogue's curve goes
      Axis axis = demo().axes[index];
      const auto before = AxisModel::build(axis, silent);
      REQUIRE(before);
      const double top = judge_all(*before, axis, rules).demand.max_speed;
      const auto rpm = [](double speed) {
        return std::to_string(speed * 30.0 / std::numbers::pi) + " rpm: ";
      };
      axis["motor"].type("peak_curve", "0 rpm: 3 N.m; " + rpm(0.5 * reach * top) + "2.5 N.m; " +
                                           rpm(reach * top) + "0.9 N.m");
      const auto model = AxisModel::build(axis, silent);
      REQUIRE(model);
      const JudgedAxis judged = judge_all(*model, axis, rules);
      const LimitContext context{axis, *model, judged.course, judged.demand, rules, silent};
      const auto specs = limit_specs();
      const auto spec =
          std::find_if(specs.begin(), specs.end(), [](auto* s) { return s->id == "motor.peak"; });
      const auto told = (*spec)->judge(context);
      REQUIRE(told);
      REQUIRE(told->moment);
      const Instant there = model->at(told->moment->piece, told->moment->tau, silent);
      const MotorSupply supply = model->supply_at(model->surroundings.bus);
      INFO(axis.name << ", " << reach);
      double worst = 0.0, fastest = 0.0;
      for (std::size_t piece = 0; piece < model->load->cycle.pieces.size(); ++piece)
        for (int i = 1; i < 500; ++i) {
          const double tau = model->load->cycle.pieces[piece].duration * i / 500.0;
          const Instant now = model->at(piece, tau, silent);
          const double most = model->motor->peak_torque(now.speed, supply, now.braking());
          const double torque = std::abs(now.torque);
          if (most <= 0.0 && torque > 0.0)
            fastest = std::max(fastest, std::abs(now.speed));
          else if (torque > 0.0)
            worst = std::max(worst, torque / most);
        }
      if (fastest > 0.0) {
        ++without;
        CHECK(std::isinf(told->used));
        CHECK(std::abs(there.speed) >= fastest * (1.0 - 1e-6));
      } else {
        ++finite;
        CHECK(told->used >= worst * (1.0 - 1e-6));
        CHECK(told->used == Approx(worst).epsilon(0.02));
      }
    }
  CHECK(finite > 3);
  CHECK(without > 3);
}
