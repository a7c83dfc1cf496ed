#include "core/demand/resting.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// ∫T²dt of the torque that would hold the load over a piece at rest, were the brake open.
double square_at_rest(const AxisModel& model, const MotionPiece& piece) {
  Recorder silent(false);
  const double half = 0.5 * piece.duration;
  double sum = 0.0;
  for (const auto& [x, w] : gauss_rule(3)) { // squared, a force that runs straight is of the second degree
    // what reaches the gearhead's input is all the motor must hold: the rotor stands still
    const double torque = model.at(piece.index, half * (1.0 + x), silent).input.torque;
    sum += half * w * torque * torque;
  }
  return sum;
}

} // namespace

double other_rms(double rms, double resting, double cycle_time) {
  // rounding may leave a hair less than nothing
  return std::sqrt(std::max(rms * rms + resting / cycle_time, 0.0));
}

namespace book {
const Formula other_rms{
    "hold.rms",
    "Rms torque, held the other way",
    "T_rms",
    "√({T_rms}² + {Q}/{t})",
    Kind::torque,
    {{"T_rms", "T_rms", Kind::torque, "as the cycle is", range::not_negative},
     {"Q", "ΔQ", Kind::torque_squared_time, "squared torque at rest: saved below 0, added above"},
     {"t", "t_c", Kind::time, "cycle time, dwells included", range::positive}},
    "equal copper loss over the cycle",
    calling<&fulmox::other_rms>};
} // namespace book

std::span<const Formula* const> resting_formulas() {
  static const std::array list{&book::other_rms};
  return list;
}

std::optional<OtherHold> other_hold(const AxisModel& model, const Demand& demand, Recorder& recorder) {
  if (!model.brake.fitted) return std::nullopt;
  double by_motor = 0.0, by_brake = 0.0;
  for (const MotionPiece& piece : model.load->cycle.pieces)
    if (piece.rest()) (piece.braked ? by_brake : by_motor) += square_at_rest(model, piece);
  const double now = demand.integrals.torque_squared;
  const bool closing = by_motor > 1e-9 * now;
  if (!closing && !(by_brake > 0.0)) return std::nullopt;
  const Term change{closing ? -by_motor : by_brake, ""};
  return OtherHold{closing, recorder.apply(book::other_rms, closing ? "hold.rms_braked" : "hold.rms_unbraked",
                                           {demand.rms_torque, change, {model.load->cycle.duration, ""}})};
}

} // namespace fulmox
