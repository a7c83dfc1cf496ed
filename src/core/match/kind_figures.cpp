// What is told of a kind of motor in the table: each line a figure of the full evaluation, or common
// practice.

#include "core/brake/brake.hpp"
#include "core/match/kinds.hpp"

#include "core/quantity/format.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

constexpr double unknown = std::numeric_limits<double>::quiet_NaN();

std::string rounded(double value) { return format(value, Kind::number).text(); }

const Limit* limit_in(const KindCandidate& c, std::string_view id) {
  for (const Limit& limit : c.evaluation->limits)
    if (limit.id == id && limit.state != LimitState::not_judged) return &limit;
  return nullptr;
}

/// The limit that says how near its torque the motor gets: pull-out of an open stepper, else peak torque.
const Limit* torque_limit(const KindCandidate& c) {
  const Limit* worst = nullptr;
  for (const std::string_view id : {"stepper.pullout", "stepper.pullout_low", "motor.peak", "motor.peak_low"})
    if (const Limit* limit = limit_in(c, id);
        limit != nullptr && (worst == nullptr || limit->used > worst->used))
      worst = limit;
  return worst;
}

KindFigure parts(const KindCandidate& c, const Duty&, UnitSet) {
  return {c.parts(),
          c.fits ? rounded(c.combinations) + " combinations of the kind fit." : "The nearest miss."};
}

KindFigure margin(const KindCandidate& c, const Duty&, UnitSet) {
  const double used = c.trial.used;
  if (!std::isfinite(used)) return {std::string(c.trial.worst) + ": no fit", "", unknown};
  const double left = 1.0 / used - 1.0;
  return {used > 1.0 ? whole_percent(used) + " of " + std::string(c.trial.worst)
                     : whole_percent(left) + " left",
          std::string(c.trial.worst) + " is used to " + whole_percent(used) + ".", left};
}

KindFigure torque_left(const KindCandidate& c, const Duty&, UnitSet units) {
  const Limit* limit = torque_limit(c);
  if (limit == nullptr || limit->used <= 0.0) return {};
  const double times = limit->capacity / limit->demand;
  std::string more = std::string(limit->label) + ": " + format(limit->demand, limit->kind, units).text() +
                     " asked of " + format(limit->capacity, limit->kind, units).text();
  if (limit->moment)
    more += " at " +
            format(std::abs(c.evaluation->at(limit->moment->time).speed), Kind::angular_speed, units).text();
  return {rounded(times) + " times", more + ".", times};
}

KindFigure hold(const KindCandidate& c, const Duty&, UnitSet units) {
  const AxisModel& model = *c.evaluation->model;
  const double pull = std::abs(c.evaluation->demand.holding.free);
  const double detent = model.motor->keeps_current() ? c.axis["motor"].term_if("detent").value : unknown;
  const double torque = model.brake.fitted ? model.brake.torque.value : detent;
  if (pull == 0.0) return {"nothing pulls", "At rest the load stays by itself.", unknown};
  const std::string asked = format(pull, Kind::torque, units).text() + " pull at the motor.";
  if (std::isnan(torque) && model.brake.fitted)
    return {"brake of unknown torque", asked + " Its sheet tells no brake: ask whether there is one.", 0.0};
  if (std::isnan(torque)) return {"none", asked + " Plan a brake: the load goes when power does.", 0.0};
  return {std::string(model.brake.fitted ? "brake" : "detent") + ", " + rounded(torque / pull) + " times",
          asked + " Neither brake nor detent is personnel protection.", torque / pull};
}

KindFigure lost_steps(const KindCandidate& c, const Duty&, UnitSet units) {
  const MotorTraits* traits = c.kind->traits;
  if (traits == nullptr) return {};
  if (!traits->loses_steps) return {"none", "Its encoder tells where it is.", 0.0};
  std::string text, more = "Open loop: where more is asked than the pull-out torque it loses steps.";
  if (const Limit* limit = torque_limit(c)) text = "pull-out used to " + whole_percent(limit->used);
  if (const Limit* limit = limit_in(c, "stepper.start"))
    more += " Start speed used to " + whole_percent(limit->used) + ".";
  if (c.evaluation->resonance)
    more += " Resonance from " + format(c.evaluation->resonance->low, Kind::angular_speed, units).text() +
            " to " + format(c.evaluation->resonance->high, Kind::angular_speed, units).text() + ".";
  const Limit* limit = torque_limit(c);
  return {text, more, limit != nullptr ? limit->used : unknown};
}

KindFigure overload(const KindCandidate& c, const Duty&, UnitSet) {
  if (c.kind->traits == nullptr) return {};
  const Limit* limit = torque_limit(c);
  return {std::string(c.kind->traits->overload),
          limit != nullptr && limit->used > 0.0
              ? "At " + rounded(1.0 / limit->used) + " times what the cycle asks at its worst moment."
              : ""};
}

KindFigure resolution(const KindCandidate& c, const Duty&, UnitSet units) {
  const ResultValue* step = c.evaluation->find("accuracy.resolution");
  if (step == nullptr) return {"not told", "Encoder or steps are missing on the sheet."};
  const ResultValue* off = c.evaluation->find("accuracy.worst");
  return {format(step->value, step->kind, units).text(),
          off != nullptr
              ? "All known errors the same way: " + format(off->value, off->kind, units).text() + "."
              : "",
          step->value};
}

/// W in the winding while it holds what pulls at rest.
double heat_at_rest(const KindCandidate& c) {
  const AxisModel& model = *c.evaluation->model;
  const Motor& motor = *model.motor;
  if (!motor.electric() || !motor.knows_copper()) return unknown;
  const double torque =
      model.brake.fitted && !motor.keeps_current() ? 0.0 : c.evaluation->demand.holding.torque.value;
  return motor.copper(model.current(std::abs(torque), 0.0, 0.0));
}

KindFigure rest_heat(const KindCandidate& c, const Duty&, UnitSet units) {
  const double watts = heat_at_rest(c);
  if (std::isnan(watts)) return {"not known", "Torque constant or resistance are missing."};
  return {format(watts, Kind::power, units).text(),
          c.evaluation->model->motor->keeps_current() ? "The current that is kept at rest, whatever it holds."
          : c.evaluation->model->brake.fitted         ? "The brake holds."
                                                      : "What the motor holds at rest.",
          watts};
}

KindFigure winding(const KindCandidate& c, const Duty&, UnitSet units) {
  if (c.evaluation->demand.heat.gap) return {"not known", std::string(c.evaluation->demand.heat.gap->reason)};
  const double hottest = c.evaluation->demand.heat.hottest;
  return {format(hottest, Kind::temperature, units).text(),
          "Case " + format(c.evaluation->demand.heat.body, Kind::temperature, units).text() +
              ": above 60 °C it burns skin.",
          hottest};
}

KindFigure energy(const KindCandidate& c, const Duty& duty, UnitSet units) {
  const double year = energy_a_year(c, duty);
  if (std::isnan(year)) return {"not known", ""};
  const double money = year / 3.6e6 * duty.energy_price;
  std::string text = rounded(year / 3.6e6) + " kWh a year";
  if (!std::isnan(money)) text += ", " + rounded(money);
  return {text,
          format(c.evaluation->demand.integrals.bus_drawn, Kind::energy, units).text() +
              " from the bus in a cycle; what comes back counts as lost, hours without work count nothing.",
          year};
}

KindFigure life(const KindCandidate& c, const Duty& duty, UnitSet) {
  const MotorTraits* traits = c.kind->traits;
  if (traits == nullptr) return {};
  const auto hours = life_of(c);
  std::string text = rounded(hours[0]) + " to " + rounded(hours[1]) + " h";
  if (duty.hours > 0.0)
    text += ", " + rounded(hours[0] / duty.hours) + " to " + rounded(hours[1] / duty.hours) + " years";
  return {text, "Of " + std::string(traits->life) + ": common practice, a range and no date.", hours[0]};
}

KindFigure noise(const KindCandidate& c, const Duty&, UnitSet) {
  return {c.kind->traits != nullptr ? std::string(c.kind->traits->noise) : "", "Common practice."};
}

KindFigure tuning(const KindCandidate& c, const Duty&, UnitSet) {
  if (c.kind->traits == nullptr) return {};
  return {std::string(c.kind->traits->tuning),
          "Load over rotor inertia: " + rounded(c.evaluation->demand.inertia_ratio) + "."};
}

KindFigure place(const KindCandidate& c, const Duty& duty, UnitSet) {
  if (c.kind->traits == nullptr) return {};
  std::string text, more;
  bool any = false, out = false;
  for (std::size_t i = 0; i < place_count; ++i) {
    if (!duty.is_there[i]) continue;
    any = true;
    const PlaceWord& word = c.kind->traits->place[i];
    out = out || word.bears == Bears::no;
    const std::string where(word_of(static_cast<Place>(i)));
    const std::string how = word.bears == Bears::yes ? "yes" : word.bears == Bears::no ? "no" : "only with";
    text += (text.empty() ? "" : "; ") + where + ": " + how;
    more += where + ": " + how + (word.reason.empty() ? "" : " – " + std::string(word.reason)) + ". ";
  }
  if (!any) return {"nothing special", "Say under Duty and place where it stands."};
  return {text, more + "Common practice; rated parts and local codes decide.", out ? 1.0 : 0.0};
}

KindFigure wires(const KindCandidate& c, const Duty&, UnitSet) {
  const MotorTraits* traits = c.kind->traits;
  if (traits == nullptr) return {};
  const Section& sheet = c.axis["motor"];
  int power = traits->wires;
  if (power == 0 && sheet.has("leads") && !sheet.blank("leads"))
    power = c.axis["drive"].is("unipolar_drive") ? 6 : 4;
  const int brake = c.evaluation->model->brake.fitted ? 2 : 0;
  const int all = power + traits->feedback_wires + brake;
  std::string more = std::to_string(power) + " of power";
  if (traits->feedback_wires > 0) more += ", " + std::to_string(traits->feedback_wires) + " of its encoder";
  if (brake > 0) more += ", 2 of the brake";
  return {std::to_string(all) + " and earth", more + "; usual numbers.", static_cast<double>(all)};
}

KindFigure controller(const KindCandidate& c, const Duty&, UnitSet units) {
  if (c.kind->traits == nullptr) return {};
  std::string text(c.kind->traits->control);
  const Step* rate = c.evaluation->step("stepper.pulse_rate");
  if (rate == nullptr) return {text, ""};
  constexpr std::string_view pulses = "pulses"; // they come first where they are what it is given
  if (text.starts_with(pulses))
    text.insert(pulses.size(), " up to " + format(rate->value, Kind::frequency, units).text());
  return {text, "At top speed, with the microsteps that are set.", rate->value};
}

KindFigure price(const KindCandidate& c, const Duty&, UnitSet) {
  const double all = price_of_all(c);
  if (std::isnan(all)) return {"not known", "A part or the supply has no price; never taken for nothing."};
  return {
      rounded(all),
      "Motor, gearhead, drive, brake and coupling, and of the supply the share that its power takes. Cables "
      "are not in it.",
      all};
}

KindFigure all_years(const KindCandidate& c, const Duty& duty, UnitSet) {
  const double all = price_of_all(c) + energy_a_year(c, duty) / 3.6e6 * duty.energy_price * duty.years;
  if (std::isnan(all)) return {"not known", ""};
  return {rounded(all), "Price and energy over the years of use; upkeep is not in it.", all};
}

} // namespace

double energy_a_year(const KindCandidate& c, const Duty& duty) {
  const double cycle = c.evaluation->model->load->cycle.duration;
  if (!c.evaluation->model->motor->electric() || !(cycle > 0.0)) return unknown;
  return c.evaluation->demand.integrals.bus_drawn * duty.hours * 3600.0 / cycle;
}

double price_of_all(const KindCandidate& c) {
  const Section& brake = c.axis["brake"];
  double sum = own_brake_price(brake, c.axis["motor"]);
  const bool typed = brake.text("fitted") == "yes" && (!brake.blank("torque") || !brake.blank("price"));
  for (const std::string_view slot : {"motor", "gearhead", "drive", "brake", "coupling"}) {
    const Section& part = c.axis[slot];
    if (!part.blank("part_number") || (slot == "brake" && typed)) sum += part.term("price");
  }
  const Section& supply = c.axis["surroundings"];
  if (supply.blank("part_number")) return sum;
  const double watts = supply.term("supply_current") * supply.term("bus");
  return sum + supply.term("price") * std::min(1.0, c.evaluation->demand.mean_power / watts);
}

std::array<double, 2> life_of(const KindCandidate& c) {
  const MotorTraits& traits = *c.kind->traits;
  if (!traits.has_brushes) return {traits.life_least, traits.life_most};
  const Demand& demand = c.evaluation->demand;
  return brush_life(demand.mean_speed, demand.rms_current / c.axis["motor"].term_if("rated_current"));
}

std::span<const KindFigureSpec> kind_figures() {
  using Better = KindFigureSpec::Better;
  static constexpr std::array list{
      KindFigureSpec{"parts", "Best combination",
                     "By your weights, of those that fit; else the nearest miss.", Better::neither, &parts},
      KindFigureSpec{"margin", "Margin", "What the worst limit leaves.", Better::more, &margin},
      KindFigureSpec{"torque", "Torque at its worst moment", "What it gives over what is asked.",
                     Better::more, &torque_left},
      KindFigureSpec{"hold", "Holds without power", "Brake or detent over what pulls.", Better::more, &hold},
      KindFigureSpec{"lost_steps", "Lost steps", "Whether it can lose its place unnoticed.", Better::less,
                     &lost_steps},
      KindFigureSpec{"overload", "Where more is asked", "", Better::neither, &overload},
      KindFigureSpec{"resolution", "Step at the load", "A count of its encoder or a microstep.", Better::less,
                     &resolution},
      KindFigureSpec{"rest_heat", "Heat at rest", "In the winding, W.", Better::less, &rest_heat},
      KindFigureSpec{"winding", "Winding in the cycle", "Its hottest.", Better::less, &winding},
      KindFigureSpec{"energy", "Energy", "From the bus, in a year of work, and what it costs.", Better::less,
                     &energy},
      KindFigureSpec{"life", "Life", "Of what wears first.", Better::more, &life},
      KindFigureSpec{"noise", "Noise", "", Better::neither, &noise},
      KindFigureSpec{"tuning", "Tuning", "", Better::neither, &tuning},
      KindFigureSpec{"place", "Surroundings", "Whether it may stand where the machine does.", Better::less,
                     &place},
      KindFigureSpec{"wires", "Wires to lay", "", Better::less, &wires},
      KindFigureSpec{"controller", "Controller", "What it must send.", Better::neither, &controller},
      KindFigureSpec{"price", "Price", "Of all parts and their share of the supply.", Better::less, &price},
      KindFigureSpec{"all_years", "With energy, all years", "Price and energy of all years of use.",
                     Better::less, &all_years}};
  return list;
}

} // namespace fulmox
