#include "core/demand/resting.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

/// ∫T²dt of the torque that would hold the load over a piece at rest, were the brake open.
double square_at_rest(const AxisModel& model, const Piece& piece) {
  Recorder silent(false);
  const double half = 0.5 * piece.duration;
  double sum = 0.0;
  for (const auto& [x, w] : gauss_rule(3)) {
    // what reaches the gearhead's input is all the motor must hold: the rotor stands still
    const double torque = model.at(piece.index, half * (1.0 + x), silent).input.torque;
    sum += half * w * torque * torque;
  }
  return sum;
}

} // namespace

std::optional<OtherHold> other_hold(const AxisModel& model, const Demand& demand, Recorder& recorder) {
  if (!model.brake.fitted) return std::nullopt;
  double by_motor = 0.0, by_brake = 0.0;
  for (const Piece& piece : model.cycle.pieces)
    if (piece.rest()) (piece.braked ? by_brake : by_motor) += square_at_rest(model, piece);
  const double now = demand.integrals.torque_squared;
  const bool closing = by_motor > 1e-9 * now;
  if (!closing && !(by_brake > 0.0)) return std::nullopt;
  const double other = closing ? std::max(now - by_motor, 0.0) : now + by_brake;
  return OtherHold{closing,
                   recorder.apply(book::rms_torque, closing ? "hold.rms_braked" : "hold.rms_unbraked",
                                  {{model.cycle.duration, ""}, {other, ""}})};
}

} // namespace fulmox
