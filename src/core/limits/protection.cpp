#include "core/limits/protection.hpp"

#include "core/limits/standing.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

double borne_torque(double torque, double ratio, double efficiency, double back_efficiency) {
  return torque / ratio * std::min(1.0 / efficiency, std::max(0.0, back_efficiency));
}

} // namespace

namespace book {
const Formula borne_torque{"protect.torque",
                           "Motor torque that head and coupling bear",
                           "T_m",
                           "{T}/{i}·min(1/{eta}, {eta_b})",
                           Kind::torque,
                           {{"T", "T_2", Kind::torque, "the lesser rating behind the head", range::positive},
                            {"i", "i", Kind::number, "ratio of the head", range::positive},
                            {"eta", "η", Kind::share, "driving", range::efficiency},
                            {"eta_b", "η_b", Kind::share, "driven back", {-range::infinity, 1.0}}},
                           "statics; the rotor's own share is not counted off",
                           calling<&fulmox::borne_torque>};
} // namespace book

std::optional<Protection> protecting_current(const AxisModel& model, Recorder& recorder) {
  const Motor& motor = *model.motor;
  if (motor.keeps_current() || !motor.electric()) return std::nullopt;
  const Gearhead& gear = model.gear;
  const Coupling& coupling = model.load->coupling;
  const Term head = gear.fitted ? gear.peak_torque : unknown_term;
  const Term joint = coupling.fitted ? coupling.rated_torque : unknown_term;
  const double least = std::fmin(head, joint);
  // a head that locks itself bears what drives it; nothing is told of the way back
  if (!(least > 0.0) || !(gear.back_efficiency > 0.0)) return std::nullopt;
  Protection out;
  out.torque =
      recorder.apply(book::borne_torque, "protect.torque",
                     {least == head.value ? head : joint, gear.ratio, gear.efficiency, gear.back_efficiency});
  const Term most = most_motor_torque(model);
  if (most > 0.0 && most <= out.torque) return std::nullopt;
  out.current = motor.record_current(out.torque, "protect.current", recorder);
  return out;
}

} // namespace fulmox
