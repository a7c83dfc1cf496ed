#include "core/machine/supply_choice.hpp"

#include "core/bus/formulas.hpp"
#include "core/machine/supply_trying.hpp"
#include "core/plan/buses.hpp"
#include "core/plan/supply_parts.hpp"
#include "core/quantity/format.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// A round value not below what is asked: three figures.
std::string typed(double si, Kind kind) { return at_least(si, kind); }

class Trials {
public:
  Trials(const MachineRun& run, std::size_t bus, const Document& document, const Library& library,
         const std::function<bool()>& wanted)
      : run_(run), bus_(bus), now_(run.power.buses[bus]), form_(form_of(document, bus, now_.name)),
        trying_(run, bus, document), library_(library), wanted_(wanted) {
    volts_ = now_.data.feed == BusData::Feed::regulated ? now_.data.nominal.supply.volts
                                                        : now_.data.nominal.supply.highest();
  }

  std::vector<SupplyTrial> run(const std::function<void(const std::vector<SupplyTrial>&)>& known) {
    if (run_.power.buses.empty() || !now_.problem.empty()) return {};
    const auto add = [&](SupplyTrial trial) { all_.push_back(std::move(trial)); };
    add(regulated());
    if (wanted_()) add(hiccup());
    if (wanted_()) add(bidirectional());
    if (wanted_()) add(transformer());
    if (wanted_()) add(mains());
    const std::size_t by_calculation = all_.size();
    if (known) known(all_);
    from_library();
    std::stable_sort(all_.begin() + static_cast<std::ptrdiff_t>(by_calculation), all_.end(),
                     [](const SupplyTrial& a, const SupplyTrial& b) {
                       if (a.fits != b.fits) return a.fits;
                       return a.fits ? a.used > b.used : a.used < b.used; // the smallest that is enough first
                     });
    return std::move(all_);
  }

private:
  static const Section& form_of(const Document& document, std::size_t, const std::string& name) {
    for (const Section& section : document.lists.find("buses")->second)
      if (section.text("name") == name) return section;
    return document.lists.find("buses")->second.front();
  }

  /// The supply without a limit: what it would have to give.
  struct Need {
    double amps = 0.0, mean = 0.0, peak = 0.0;
    double farads = 0.0; ///< beside the drives' own; 0 where what is there is enough for a controlled stop
  };
  Need need() {
    if (need_) return *need_;
    Section form = with_supply_form(form_, regulated_bus_section());
    form.type("volts", shown(volts_, Kind::voltage));
    trying_.judge("", form);
    const BusState& state = trying_.state();
    need_ = Need{std::max(state.low->most_current, amps_to_start()),
                 state.low->supplied / run_.power.schedule.cycle,
                 greatest_power(state.low->supply_power).watts, farads_more(state)};
    return *need_;
  }

  /// A that all loads together ask for at the voltage at which the last of them comes on: what has less
  /// current does not come up.
  [[nodiscard]] double amps_to_start() const {
    const std::vector<ThresholdLoad> loads = starting_loads(run_.power, bus_);
    double most = 0.0;
    for (const ThresholdLoad& load : loads) {
      double watts = 0.0;
      for (const ThresholdLoad& other : loads)
        if (other.on <= load.on) watts += other.power;
      most = std::max(most, watts / load.on);
    }
    return most;
  }

  /// Capacitors on the bus that a controlled stop asks for, a little more than just enough; 0 where those
  /// that are there do.
  [[nodiscard]] double farads_more(const BusState& state) const {
    constexpr double spare = 1.3; // clear of the attention threshold
    const double all = spare * capacitance_for_stop(state);
    return all > state.capacitance ? all - now_.drives : 0.0;
  }
  [[nodiscard]] std::string with_capacitors() {
    return need().farads > 0.0 ? ", with " + at_least(need().farads, Kind::capacitance) : "";
  }

  Section regulated_form(double amps) {
    Section form = with_supply_form(form_, regulated_bus_section());
    const Need n = need();
    constexpr double spare = 1.25; // the attention threshold stays clear
    form.type("volts", shown(volts_, Kind::voltage));
    form.type("limit", typed(amps, Kind::current));
    form.type("power", typed(spare * std::max(n.mean, 1.0), Kind::power));
    form.type("peak", typed(std::max(amps * volts_, 1.0), Kind::power));
    if (n.farads > 0.0) form.type("capacitance", typed(n.farads, Kind::capacitance));
    return form;
  }

  SupplyTrial regulated() {
    const double amps = 1.25 * need().amps;
    SupplyTrial out =
        trying_.judge("Regulated, " + shown(amps * volts_, Kind::power) + " peak, " +
                          shown(1.25 * need().mean, Kind::power) + " continuous" + with_capacitors(),
                      regulated_form(amps));
    out.reasons.emplace_back("For: holds " + shown(trying_.state().low->lowest, Kind::voltage) +
                             " at the least; approvals come with it.");
    out.reasons.emplace_back(
        "Against: takes nothing back, and peaks cost: " + shown(need().peak, Kind::power) +
        " for a mean of " + shown(need().mean, Kind::power) + ".");
    return out;
  }

  SupplyTrial hiccup() {
    // a supply of about the mean, as chosen on rated power
    const double amps = 2.0 * need().mean / volts_;
    Section form = regulated_form(std::max(amps, 0.1));
    form.type("overload", "hiccup");
    form.type("trip_time", "50 ms");
    form.type("off_time", "0.5 s");
    SupplyTrial out = trying_.judge(
        "Regulated for twice the mean, " + shown(amps, Kind::current) + ", switching off in overload", form);
    if (trying_.state().low->limit_time > 0.0)
      out.reasons.emplace_back("Power asks for more than " + shown(volts_, Kind::voltage) + " · " +
                               shown(amps, Kind::current) + " = " + shown(volts_ * amps, Kind::power) +
                               " for " + shown(trying_.state().low->limit_time, Kind::time) + " in all.");
    out.reasons.emplace_back(
        "For: cheap. Against: \"will not start\", and dies on peaks. Switching off after 50 ms "
        "for 0.5 s is assumed: ask.");
    return out;
  }

  SupplyTrial bidirectional() {
    const double back = std::max(0.0, -now_.least.watts) / volts_;
    Section form = regulated_form(1.25 * need().amps);
    form.type("sink", typed(std::max(1.25 * back, 0.01), Kind::current));
    SupplyTrial out = trying_.judge(
        "Regulated, taking back " + shown(1.25 * back, Kind::current) + with_capacitors(), form);
    out.reasons.emplace_back(
        "For: no resistor; " + shown(now_.returned, Kind::energy) +
        " a cycle come back. Against: price; to the mains only where the grid code and the "
        "operator allow it.");
    return out;
  }

  SupplyTrial transformer() {
    constexpr double regulation = 0.1, drop = 1.8, swing = 0.1, below_trip = 0.97;
    // as high as no load and the mains high allow, but no higher than the bus is now
    double crest = volts_ + drop;
    if (now_.over > 0.0) crest = std::min(crest, (below_trip * now_.over + drop) / (1.0 + swing));
    if (now_.data.nominal.chopper) // which must not be held on by the mains
      crest = std::min(crest, (below_trip * now_.data.nominal.chopper->off + drop) / (1.0 + swing));
    const double rated = crest / (std::numbers::sqrt2 * (1.0 + regulation));
    double amps = 1.25 * 1.85 * std::max(now_.rms, 1.0) / (0.936 * std::numbers::sqrt2 * rated);
    double farads = std::max(1e-4, 0.1 / volts_ * std::max(now_.peak.watts, 1.0) / volts_);
    SupplyTrial out;
    constexpr int rounds = 5; // the smallest that carries the bus, in steps
    for (int round = 0; round < rounds && wanted_(); ++round) {
      Section form = with_supply_form(form_, transformer_bus_section());
      form.type("volts", shown(rated, Kind::voltage));
      form.type("amps", typed(amps, Kind::current));
      form.type("regulation", "10 %");
      form.type("capacitance", typed(farads, Kind::capacitance));
      out = trying_.judge("Transformer of " + significant(rated * amps, 3) + " VA, " +
                              shown(rated, Kind::voltage) + " rms, with " + shown(farads, Kind::capacitance),
                          form);
      if (out.fits) break;
      const BusState& s = trying_.state();
      if (s.ripple > 0.08 * volts_) farads *= std::max(1.3, s.ripple / (0.08 * volts_));
      farads = std::max(farads, farads_more(s));
      amps = s.low->collapsed
                 ? 1.7 * amps
                 : std::max(1.3 * amps, 1.25 * std::max(s.low->rms_current, s.high->rms_current));
    }
    out.reasons.emplace_back("For: takes high peaks for milliseconds and some return into its capacitors.");
    out.reasons.emplace_back(
        "Against: weight; from " + shown(trying_.state().low->lowest, Kind::voltage) + " to " +
        shown(trying_.state().high->highest, Kind::voltage) +
        " between load with the mains low and no load with it high; power factor 0.5 to 0.7.");
    return out;
  }

  SupplyTrial mains() {
    constexpr double least_mains = 200.0;
    SupplyTrial out;
    out.title = "Rectified mains";
    if (now_.over < 330.0 || (std::isnan(now_.over) && volts_ < least_mains)) {
      out.used = std::numeric_limits<double>::infinity();
      out.reasons.emplace_back(
          "Fails: 230 V mains give 293 to 358 V, three-phase 400 V 509 to 622 V; the drives "
          "here bear " +
          (std::isnan(now_.over) ? std::string("less") : shown(now_.over, Kind::voltage)) + ".");
      return out;
    }
    Section form = with_supply_form(form_, mains_bus_section());
    const bool three = now_.over > 630.0;
    form.type("volts", three ? "400 V" : "230 V");
    form.type("phases", three ? "3" : "1");
    if (form.blank("power")) form.type("power", typed(1.25 * std::max(now_.mean, 1.0), Kind::power));
    out = trying_.judge(three ? "Rectified mains, three-phase 400 V" : "Rectified mains, 230 V", form);
    out.reasons.emplace_back("For: cheap for its power.");
    out.reasons.emplace_back(
        "Against: not isolated; needs precharging; leakage; current pulses in the mains. For "
        "licensed people only.");
    return out;
  }

  void from_library() {
    for (const Section& part : library_.of("bus_supply")) {
      if (!wanted_()) return;
      if (part.is("transformer"))
        stored_transformer(part);
      else if (in_class(part.term_if("volts")))
        put(part, with_supply_part(form_, part), told_of(part));
    }
    for (const Section& part : library_.of("surroundings")) {
      if (!wanted_()) return;
      if (in_class(part.term_if("bus"))) put(part, as_supply(part), told_as_plain(part));
    }
  }

  [[nodiscard]] bool in_class(double volts) const {
    constexpr double same = 0.03;
    return std::abs(volts - volts_) <= same * volts_;
  }

  void put(const Section& part, const Section& form, std::string told) {
    SupplyTrial trial = trying_.judge(part.text("part_number"), form);
    trial.part = part.text("part_number");
    trial.reasons.insert(trial.reasons.begin(), std::move(told));
    all_.push_back(std::move(trial));
  }

  static std::string told_of(const Section& part) {
    const double power = part.term_if("power"), peak = part.term_if("peak"), time = part.term_if("peak_time");
    std::string text = shown(part.term("volts"), Kind::voltage);
    if (!std::isnan(power)) text += ", " + shown(power, Kind::power);
    if (!std::isnan(peak))
      text += ", for " + (std::isnan(time) ? "a moment" : shown(time, Kind::time)) + " " +
              shown(peak, Kind::power);
    const std::string& overload = part.text("overload");
    return text + "; in overload it " +
           (overload == "hiccup"     ? "switches off for a while."
            : overload == "foldback" ? "gives less the lower the voltage."
                                     : "gives its limit on.");
  }

  /// Those of about the bus's voltage without load. One whose rating is below the mean power is refused
  /// unrun.
  void stored_transformer(const Section& part) {
    constexpr double least = 0.85, most = 1.2;
    const Section form = with_supply_part(form_, part);
    Section alone = form;
    alone.type("chopper_on", ""); // one that the mains would hold on is told below
    const auto data = BusData::from(alone);
    if (!data) return;
    const double no_load = data->nominal.supply.highest();
    if (no_load < least * volts_ || no_load > most * volts_) return;
    const double va =
        part.term("volts") * part.term("amps") * (part.text("phases") == "3" ? std::numbers::sqrt3 : 1.0);
    std::string told = significant(va, 3) + " VA, " + shown(part.term("volts"), Kind::voltage) + " rms, " +
                       shown(no_load, Kind::voltage) + " without load.";
    if (va >= now_.mean) return put(part, form, std::move(told));
    SupplyTrial trial;
    trial.title = trial.part = part.text("part_number");
    trial.bus = form;
    trial.used = now_.mean / va;
    trial.worst = "Transformer";
    trial.reasons = {std::move(told),
                     "Fails: the mean power alone, " + shown(now_.mean, Kind::power) + ", is more."};
    all_.push_back(std::move(trial));
  }

  /// What is kept as the supply of one axis: voltage and two currents.
  [[nodiscard]] Section as_supply(const Section& part) const {
    const double volts = part.term("bus"), amps = part.term_if("supply_current"),
                 peak = part.term_if("supply_peak");
    Section form = with_supply_form(form_, regulated_bus_section());
    const auto type = [&](std::string_view field, const std::string& text) {
      form.type(field, text, Origin::data_sheet);
    };
    type("part_number", part.text("part_number"));
    type("maker", part.text("maker"));
    type("volts", shown(volts, Kind::voltage));
    if (!std::isnan(peak)) type("limit", shown(peak, Kind::current));
    if (!std::isnan(amps)) type("power", shown(amps * volts, Kind::power));
    if (!std::isnan(peak)) type("peak", shown(peak * volts, Kind::power));
    if (!part.blank("price")) type("price", part.text("price"));
    return form;
  }

  static std::string told_as_plain(const Section& part) {
    return shown(part.term("bus"), Kind::voltage) + ", " +
           shown(part.term_if("supply_current"), Kind::current) + ", for a moment " +
           shown(part.term_if("supply_peak"), Kind::current) +
           " (taken as its limit: ask what it does there).";
  }

  const MachineRun& run_;
  std::size_t bus_;
  const BusPower& now_;
  const Section& form_;
  Trying trying_;
  const Library& library_;
  const std::function<bool()>& wanted_;
  double volts_ = 0.0;
  std::optional<Need> need_;
  std::vector<SupplyTrial> all_;
};

} // namespace

std::vector<SupplyTrial> supply_trials(const MachineRun& run, std::size_t bus, const Document& document,
                                       const Library& library, const std::function<bool()>& wanted,
                                       const std::function<void(const std::vector<SupplyTrial>&)>& known) {
  return Trials(run, bus, document, library, wanted).run(known);
}

} // namespace fulmox
