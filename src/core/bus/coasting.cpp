#include "core/bus/runner.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox::bus {

/// A stretch in which nothing flows in: V² is a polynomial of the time, with a bleeder as good as one.
struct Runner::Coasting {
  double start = 0.0, half = 0.0; ///< s, half its length
  Series square;                  ///< V²

  [[nodiscard]] double time(double u) const { return start + half * (u + 1.0); }
  [[nodiscard]] double volts(double u) const { return std::sqrt(std::max(0.0, square(u))); }
};

Runner::Coasting Runner::coasting_to(double end) const {
  const PowerPiece& piece = power_.pieces[piece_];
  const Series power = piece.watts.part(std::max(-1.0, piece.share(time_)), std::min(1.0, piece.share(end)));
  Coasting out{time_, 0.5 * (end - time_), power.antiderivative()};
  out.square *= -2.0 / bus_.capacitance * out.half;
  out.square += volts_ * volts_;
  // y′ = −2P/C − 2y/(RC), each round of y = y₀ − ∫(2P/C + 2y/(RC)) one term closer (Picard)
  const double leak = 2.0 * out.half / (bus_.bleeder * bus_.capacitance);
  const Series drawn = out.square;
  constexpr double rounding = 1e-16;
  int round = 1;
  for (double left = 2.0 * leak; left > rounding && out.square.size() < Series::most_terms;
       left *= 2.0 * leak / ++round) {
    Series bled = out.square.antiderivative();
    bled *= -leak;
    out.square = drawn;
    out.square += bled;
  }
  return out;
}

/// Where a coasting bus first meets a level from the event's side, before `stop`.
std::optional<double> Runner::meets(const Coasting& coasting, const Event& event, double stop) const {
  Series over = coasting.square;
  over += -event.level * event.level;
  over *= event.sign;
  for (const double u : over.crossings()) {
    if (u >= stop) break;
    if (over.derivative()(u) > 0.0) return u; // else met from the other side
  }
  return std::nullopt;
}

/// Where the mains rises above a coasting bus, before `stop`: looked for at eighths of a pulse, of which one
/// is its crest.
std::optional<double> Runner::conducts(const Coasting& coasting, double stop) const {
  const auto above = [&](double u) { return bus_.supply.open(coasting.time(u)) - coasting.volts(u); };
  const double eighth = bus_.supply.pulse() / 8.0;
  const double shift = bus_.supply.phase / (2.0 * std::numbers::pi * bus_.supply.frequency);
  double before = -1.0, value_before = std::min(0.0, above(-1.0));
  for (double k = std::floor((coasting.start + shift) / eighth + 1e-9) + 1.0; before < stop; k += 1.0) {
    const double u = std::min(stop, (k * eighth - shift - coasting.start) / coasting.half - 1.0);
    const double value = above(u);
    if (value > 0.0) return met_within(above, {before, value_before}, {u, value}, 1e-10 * scale_, 1e-13);
    before = u;
    value_before = value;
  }
  return std::nullopt;
}

/// Notes and samples a coasting bus up to a place.
void Runner::follow(const Coasting& coasting, double stop) {
  // for the picture; between pulses it falls nearly straight
  const int looks = bus_.supply.kind == BusSupply::Kind::rectifier ? 1 : 6;
  const Series::Places places = coasting.square.turning_points();
  std::vector<double> seen(places.begin(), places.end());
  for (int i = 1; i < looks; ++i) seen.push_back(-1.0 + (stop + 1.0) * i / looks);
  std::sort(seen.begin(), seen.end());
  const auto go_to = [&](double u) {
    time_ = coasting.time(u);
    volts_ = coasting.volts(u);
    note_extreme(volts_, time_);
  };
  for (const double u : seen) {
    if (u >= stop || u <= -1.0) continue;
    go_to(u);
    sample(0.0);
  }
  go_to(stop);
}

void Runner::note_bled(const Coasting& coasting, double stop) {
  const double bled = coasting.half * coasting.square.antiderivative()(stop) / bus_.bleeder;
  counted.bled += bled;
  counted.balance += -bled - drawn(coasting.start, coasting.time(stop)) -
                     0.5 * bus_.capacitance * (coasting.square(stop) - coasting.square(-1.0));
}

/// Nothing flows in: V² falls and rises with the energy drawn, exactly. false: no stretch of this kind.
bool Runner::coast(double until) {
  const double end = next_border(until);
  const Coasting coasting = coasting_to(end);
  const Series& square = coasting.square;
  double stop = 1.0;
  std::optional<Event> met;
  list_events();
  for (const Event& event : events_) {
    const bool conduction = event.what == Event::What::conduction;
    if (conduction && crossed(event, volts_, time_) > conduction_within * scale_) return false;
    if (const auto u = conduction ? conducts(coasting, stop) : meets(coasting, event, stop)) {
      stop = *u;
      met = event;
    }
    // it leaves its level at once
    if (!met && event.what == Event::What::supply && square(1.0) < event.level * event.level) return false;
  }
  for (const double u : square.crossings())
    if (u < stop) { // a bus without a supply runs empty
      time_ = coasting.time(u);
      volts_ = 0.0;
      return true;
    }
  if (coasting.half * (stop + 1.0) < moment) return false;
  const double start = time_;
  if (!std::isinf(bus_.bleeder)) note_bled(coasting, stop);
  follow(coasting, stop);
  if (!met) time_ = end;
  if (met && met->what != Event::What::conduction) volts_ = met->level;
  note_power(start, 0.0, 0.0);
  if (met) apply(*met);
  if (on_.supply_off) note_limit(start, time_);
  sample(0.0);
  return true;
}

} // namespace fulmox::bus
