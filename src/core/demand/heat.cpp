#include "core/demand/heat.hpp"

#include "core/heat/formulas.hpp"
#include "core/motor/envelope.hpp"
#include "core/quantity/constants.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

constexpr double alpha = constants::copper_temperature_coefficient;

/// Winding resistance at a temperature over that at 20 °C.
double warmth(double temperature) { return 1.0 + alpha * (temperature - constants::copper_reference); }

/// Sums losses until they would lift the winding too far.
class Spans {
public:
  Spans(const ThermalNetwork& n, double warm)
      : most_(quarter_kelvin * n.winding_capacity / warm),
        longest_(short_share * n.winding_to_case * n.winding_capacity) {}

  void add(const HeatSpan& s, bool varies) {
    const double energy = s.worst_phase * s.time;
    if (open_ && (gathered_ + energy > most_ || sum_.time + s.time > longest_)) close();
    if (!open_) {
      sum_ = {};
      gathered_ = 0.0;
      parts_ = 0;
      varies_ = false;
      open_ = true;
    }
    sum_.time += s.time;
    sum_.copper += s.copper * s.time;
    sum_.worst_phase += energy;
    sum_.body += s.body * s.time;
    gathered_ += energy;
    ++parts_;
    varies_ = varies_ || varies;
    if (gathered_ > most_ || sum_.time > longest_) close();
  }
  std::vector<HeatSpan> take() {
    if (open_) close();
    return std::move(spans_);
  }
  /// How many cells losses that vary are to be cut into.
  [[nodiscard]] int cells(const HeatSpan& all) const {
    constexpr int most_cells = 32;
    const double wanted = std::max(all.worst_phase * all.time / most_, all.time / longest_);
    if (!(wanted > 1.0)) return 1; // nor where it is no number
    return wanted < most_cells ? static_cast<int>(std::ceil(wanted)) : most_cells;
  }

private:
  static constexpr double quarter_kelvin = 0.25, short_share = 0.05; ///< K; of the winding's time constant
  void close() {
    open_ = false;
    if (!(sum_.time > 0.0)) return;
    spans_.push_back({sum_.time, sum_.copper / sum_.time, sum_.worst_phase / sum_.time, sum_.body / sum_.time,
                      varies_ || parts_ > 1});
  }
  double most_, longest_, gathered_ = 0.0;
  HeatSpan sum_;
  int parts_ = 0;
  bool varies_ = false, open_ = false;
  std::vector<HeatSpan> spans_;
};

/// Loss of the winding at 20 °C and of the case at a place of a stretch.
HeatSpan losses_at(const AxisModel& model, const Stretch& s, double u, double cold, double coil) {
  const double speed = s.speed(u);
  const double copper = cold * model.motor->copper(model.current(s.air_gap(u), speed, s.direction));
  const double crest = s.direction == 0.0 ? model.motor->phases().at_crest : 1.0;
  return {0.0, copper, copper * crest, model.motor->drag(speed) * std::abs(speed) + coil};
}

/// The same as a mean over a stretch, by its integrals.
HeatSpan mean_losses(const AxisModel& model, const Stretch& s, double cold, double coil) {
  const Motor& motor = *model.motor;
  const double per_second = s.length() > 0.0 ? 1.0 / s.length() : 0.0;
  const double copper = cold * s.sums.copper * per_second;
  const double crest = s.direction == 0.0 ? motor.phases().at_crest : 1.0;
  const double iron = motor.hysteresis * s.sums.turns + motor.eddy * s.sums.speed_squared;
  return {s.length(), copper, copper * crest, iron * per_second + coil};
}

/// What a stretch adds, cut where it would lift the winding too far at once.
void add_stretch(const AxisModel& model, const Stretch& s, double cold, Spans& spans) {
  const double coil = model.brake.fitted && !s.braked ? model.brake.power.value : 0.0;
  if (s.braked) return spans.add({s.length(), 0.0, 0.0, coil}, false);
  if (s.direction == 0.0 && s.torque.size() <= 1) {
    HeatSpan rest = losses_at(model, s, 0.0, cold, coil);
    rest.time = s.length();
    return spans.add(rest, false);
  }
  constexpr std::size_t points = 5;
  const auto mean = [&](double from, double to) {
    HeatSpan sum{(to - from) * 0.5 * s.length(), 0.0, 0.0, 0.0};
    for (const auto& [node, weight] : gauss_rule(points)) {
      const HeatSpan here = losses_at(model, s, 0.5 * (from + to) + 0.5 * (to - from) * node, cold, coil);
      sum.copper += 0.5 * weight * here.copper;
      sum.worst_phase += 0.5 * weight * here.worst_phase;
      sum.body += 0.5 * weight * here.body;
    }
    return sum;
  };
  const HeatSpan all =
      model.motor->speed_shapes_current() ? mean(-1.0, 1.0) : mean_losses(model, s, cold, coil);
  const int cells = spans.cells(all);
  if (cells == 1) return spans.add(all, true);
  for (int k = 0; k < cells; ++k) spans.add(mean(-1.0 + 2.0 * k / cells, -1.0 + 2.0 * (k + 1) / cells), true);
}

std::optional<HeatGap> gap_of(const AxisModel& model) {
  const Motor& motor = *model.motor;
  if (!motor.electric()) return HeatGap{"The heat needs the motor's torque constant.", "motor.kt"};
  if (!motor.knows_copper()) return HeatGap{"The heat needs the winding's resistance.", "motor.resistance"};
  if (std::isnan(motor.winding_limit))
    return HeatGap{"The winding's limit (insulation class) is missing.", "motor.winding_limit"};
  const bool resistances = !std::isnan(motor.winding_to_case) && !std::isnan(motor.case_to_ambient);
  if (!resistances && !(motor.rated_loss() > 0.0))
    return HeatGap{"The heat needs thermal resistances, or the continuous torque or rated current to "
                   "estimate them from.",
                   "motor.r_winding_case"};
  if ((std::isnan(motor.winding_time) || std::isnan(motor.case_time)) && std::isnan(motor.mass))
    return HeatGap{"The heat needs thermal time constants, or the motor's mass to estimate them from.",
                   "motor.winding_time"};
  if (motor.winding_limit <= motor.catalogue_ambient)
    return HeatGap{"The winding's limit lies below the catalogue's ambient.", "motor.winding_limit"};
  return std::nullopt;
}

bool has_resistances(const Motor& m) {
  return !std::isnan(m.winding_to_case) && !std::isnan(m.case_to_ambient);
}
bool has_times(const Motor& m) { return !std::isnan(m.winding_time) && !std::isnan(m.case_time); }

/// R_wc and R_ca from what the data sheet allows at standstill, R_wc with a share of both.
std::array<Term, 2> estimated_resistances(const AxisModel& model, double share, Recorder& recorder) {
  const Motor& motor = *model.motor;
  const Term all = recorder.apply(book::rated_thermal_resistance, "heat.rated_resistance",
                                  {motor.winding_limit, motor.catalogue_ambient, {motor.rated_loss(), ""}});
  return {recorder.apply(book::resistance_share, "heat.winding_to_case", {all, {share, ""}}),
          recorder.apply(book::resistance_share, "heat.case_to_air", {all, {1.0 - share, ""}})};
}

/// The network with what is typed, or estimated with a share of the resistance between winding and case.
void lay_out(MotorHeat& heat, const AxisModel& model, double share, Recorder& recorder) {
  const Motor& motor = *model.motor;
  std::array<Term, 2> r{motor.winding_to_case, motor.case_to_ambient};
  if (!has_resistances(motor)) r = estimated_resistances(model, share, recorder);
  Term winding, body;
  if (has_times(motor)) {
    winding = recorder.apply(book::heat_capacity, "heat.winding_capacity", {motor.winding_time, r[0]});
    body = recorder.apply(book::heat_capacity, "heat.case_capacity", {motor.case_time, r[1]});
  } else { // the little copper that motors have: it heats fast
    constexpr double copper = 390.0, other = 450.0, copper_share = 0.1;
    winding = recorder.apply(book::part_capacity, "heat.winding_capacity",
                             {{copper, ""}, {copper_share, ""}, motor.mass});
    body = recorder.apply(book::part_capacity, "heat.case_capacity",
                          {{other, ""}, {1.0 - copper_share, ""}, motor.mass});
  }
  const Surroundings& s = model.surroundings;
  const Term thin = recorder.apply(book::altitude_derating, "heat.altitude", {s.altitude});
  const Term air = recorder.apply(book::worse_cooling, "heat.case_to_ambient", {r[1], s.mounting, thin});
  heat.network = {winding, body, r[0], air, s.ambient, motor.phases().number};
  heat.winding_to_case = r[0];
  heat.case_to_ambient = air;
  heat.winding_capacity = winding;
}

void find_steady(MotorHeat& heat, const AxisModel& model, const Course& course) {
  heat.cycle = heat_spans(model, course, heat.network);
  heat.steady = periodic_heat(heat.network, heat.cycle);
  heat.hottest_time = 0.0;
  for (std::size_t i = 0; i < heat.steady.hottest_span; ++i) heat.hottest_time += heat.cycle[i].time;
}

/// Likely shares of the resistance between winding and case: less where the winding lies in iron, more where
/// it turns or stands in the air gap (from memory).
std::array<double, 3> likely_shares(const Motor& motor) {
  if (motor.phases().number == 1.0) return {0.5, 0.65, 0.8};
  return {0.25, 0.4, 0.55};
}

double severity(const PeriodicHeat& heat) {
  return heat.runs_away ? std::numeric_limits<double>::infinity() : heat.hottest;
}

/// The share that makes the winding hottest.
double worst_share_of(const AxisModel& model, const Course& course) {
  Recorder silent(false);
  double worst = 0.0, most = -1.0;
  for (const double share : likely_shares(*model.motor)) {
    MotorHeat tried;
    lay_out(tried, model, share, silent);
    find_steady(tried, model, course);
    if (severity(tried.steady) > most) {
      most = severity(tried.steady);
      worst = share;
    }
  }
  return worst;
}

void record_steady(MotorHeat& heat, const AxisModel& model, Recorder& recorder) {
  const PeriodicHeat& steady = heat.steady;
  if (steady.runs_away) {
    heat.hottest = heat.body = {std::numeric_limits<double>::infinity(), ""};
    return;
  }
  const Term copper{steady.mean_copper, ""}, body{steady.mean_body, ""}, ambient = model.surroundings.ambient;
  const Term mean = recorder.apply(book::mean_winding_rise, "heat.mean_rise",
                                   {copper, heat.winding_to_case, heat.case_to_ambient, body});
  heat.hottest = recorder.apply(book::hottest_winding, "heat.hottest",
                                {ambient, mean, {steady.hottest - ambient - mean, ""}});
  if (recorder.on())
    recorder.note("The cycle repeated until nothing changes, in " + std::to_string(heat.cycle.size()) +
                  " spans. Where losses vary within a span, their whole swing counts: at most a quarter of a "
                  "kelvin too much, as a rule.");
  const double mean_case = (steady.mean_copper + steady.mean_body) * heat.case_to_ambient;
  heat.body = recorder.apply(
      book::hottest_case, "heat.case",
      {ambient, copper, body, heat.case_to_ambient, {steady.hottest_body - ambient - mean_case, ""}});
}

} // namespace

double cold_share(const Motor& motor) { return 1.0 / warmth(motor.winding_limit); }

std::vector<HeatSpan> heat_spans(const AxisModel& model, const Course& course,
                                 const ThermalNetwork& network) {
  const double cold = cold_share(*model.motor);
  Spans spans(network, 1.0 / cold);
  for (const Stretch& stretch : course.stretches) add_stretch(model, stretch, cold, spans);
  return spans.take();
}

MotorHeat work_out_heat(const AxisModel& model, const Course& course, Recorder& recorder) {
  MotorHeat heat;
  heat.gap = gap_of(model);
  if (heat.gap) return heat;
  heat.estimated = !has_resistances(*model.motor) || !has_times(*model.motor);
  const bool by_share = !has_resistances(*model.motor);
  lay_out(heat, model, by_share ? worst_share_of(model, course) : 0.0, recorder);
  find_steady(heat, model, course);
  record_steady(heat, model, recorder);
  return heat;
}

} // namespace fulmox
