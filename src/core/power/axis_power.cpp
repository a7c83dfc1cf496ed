#include "core/power/axis_power.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// Fits the power over parts of a stretch, halved until it is close.
class Fit {
public:
  Fit(const AxisModel& model, const Stretch& stretch, double start, double fine, std::vector<PowerPiece>& out)
      : model_(model), stretch_(stretch), start_(start), fine_(fine), out_(out) {}

  void over(double from, double to, int depth = 0) {
    // what runs straight in torque and speed is a square at most; the rest takes more
    for (const std::size_t nodes : {std::size_t{3}, std::size_t{5}, std::size_t{7}}) {
      std::array<double, 7> values{};
      const auto rule = gauss_rule(nodes);
      for (std::size_t j = 0; j < nodes; ++j) values[j] = at(from, to, rule[j].at);
      Series fit = Series::through({values.data(), nodes});
      if (close(fit, from, to) || (nodes == 7 && depth == deepest)) {
        out_.push_back({start_ + stretch_.tau(from), start_ + stretch_.tau(to), std::move(fit)});
        return;
      }
    }
    const double middle = 0.5 * (from + to);
    over(from, middle, depth + 1);
    over(middle, to, depth + 1);
  }

private:
  static constexpr int deepest = 8;

  [[nodiscard]] double at(double from, double to, double u) const {
    const double place = 0.5 * (from + to) + 0.5 * (to - from) * u;
    return model_.electrical(stretch_.torque(place), stretch_.speed(place), stretch_.direction).bus_power;
  }
  [[nodiscard]] bool close(const Series& fit, double from, double to) const {
    constexpr std::array<double, 4> looks{-0.97, -0.35, 0.31, 0.93};
    return std::all_of(looks.begin(), looks.end(),
                       [&](double u) { return std::abs(fit(u) - at(from, to, u)) <= fine_; });
  }

  const AxisModel& model_;
  const Stretch& stretch_;
  double start_, fine_;
  std::vector<PowerPiece>& out_;
};

} // namespace

PowerCurve power_of(const AxisModel& model, const Course& course) {
  double peak = 0.0;
  for (const Stretch& s : course.stretches)
    for (const double u : {-1.0, 0.0, 1.0})
      peak = std::max(peak, std::abs(model.electrical(s.torque(u), s.speed(u), s.direction).bus_power));
  PowerCurve out;
  for (const Stretch& s : course.stretches) {
    if (!(s.length() > 1e-12)) continue;
    Fit(model, s, model.load->cycle.pieces[s.piece].start, 1e-6 * peak, out.pieces).over(-1.0, 1.0);
  }
  if (out.pieces.empty()) return out;
  out.pieces.front().from = 0.0;
  out.pieces.back().to = model.load->cycle.duration;
  for (std::size_t i = 1; i < out.pieces.size(); ++i) out.pieces[i].from = out.pieces[i - 1].to;
  return out;
}

double waiting_power(const AxisModel& model, double hold, Waiting waiting) {
  const double torque = waiting == Waiting::holding ? hold : 0.0;
  if (waiting == Waiting::off && model.motor->electric()) return model.drive->loss(0.0);
  return model.electrical(torque, 0.0, 0.0).bus_power;
}

} // namespace fulmox
