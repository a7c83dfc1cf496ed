#include "core/ways/levers.hpp"

#include "core/form/field.hpp"
#include "core/motion/law.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/number_text.hpp"
#include "core/study/quick.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// One input of an axis.
struct Input {
  std::string section; ///< "load", "cycle[0]"
  std::string_view field;
};

const Entry& entry_of(const Axis& axis, const Input& input) {
  return find_section(axis, input.section)->entry(input.field);
}

bool is_given(const Axis& axis, const Input& input) {
  const Section* section = find_section(axis, input.section);
  return section != nullptr && section->has(input.field) && std::isfinite(section->entry(input.field).value);
}

/// The number as a text with that unit; units with an offset (°C) included. Rounded up or down.
std::string text_in(double si, Kind kind, const std::string& unit, int digits, bool up) {
  const auto zero = parse_quantity("0", kind, unit), one = parse_quantity("1", kind, unit);
  const double offset = zero ? zero->value : 0.0, factor = one ? one->value - offset : 1.0;
  const double value = (si - offset) / factor;
  if (value == 0.0) return "0" + (unit.empty() ? "" : " " + unit);
  const double step = std::pow(10.0, std::floor(std::log10(std::abs(value))) + 1 - digits);
  const bool towards_more = up == (factor > 0.0);
  const double rounded =
      (towards_more ? std::ceil(value / step - 1e-9) : std::floor(value / step + 1e-9)) * step;
  return number_text(rounded, digits + 2) + (unit.empty() ? "" : " " + unit);
}

/// Sets some inputs from one number: with `typed` as text in their own units, else by value alone.
using Setter = std::function<void(Axis&, double)>;

Setter by_value(std::vector<Input> inputs, const Axis& base, bool in_proportion) {
  std::vector<double> share;
  const double first = entry_of(base, inputs.front()).value;
  for (const Input& input : inputs)
    share.push_back(in_proportion ? entry_of(base, input).value / first : 1.0);
  return [inputs, share](Axis& axis, double value) {
    for (std::size_t i = 0; i < inputs.size(); ++i) {
      Section& section = *find_section(axis, inputs[i].section);
      section.put(inputs[i].field, with_value(section.entry(inputs[i].field), value * share[i]));
    }
  };
}

/// A lever of one number, or of several in proportion to the first.
struct Made {
  std::vector<Input> inputs;
  std::string id, label;
  double low = 0.0, high = 0.0; ///< as factors of now where `by_factor`, else SI
  double plausible = 0.0;
  bool by_factor = false;
  int headroom = 0;
  int helps = 0;
};

std::optional<Lever> lever_of(const Axis& axis, const Made& made) {
  for (const Input& input : made.inputs)
    if (!is_given(axis, input)) return std::nullopt;
  const Input& first = made.inputs.front();
  const Entry& entry = entry_of(axis, first);
  if (made.by_factor && entry.value == 0.0) return std::nullopt;
  const Section& section = *find_section(axis, first.section);
  const FieldSpec spec = section.spec().fields[*section.spec().index_of(first.field)];
  Lever lever;
  lever.path = first.section + "." + std::string(first.field);
  lever.id = made.id.empty() ? lever.path : made.id;
  lever.label = made.label.empty() ? describe_path(section, first.field) : made.label;
  lever.guessed = entry.origin == Origin::guess;
  lever.kind = spec.kind;
  lever.now = entry.value;
  const double size = std::abs(entry.value);
  lever.least = made.by_factor ? entry.value > 0.0 ? made.low * size : -made.high * size : made.low;
  lever.most = made.by_factor ? entry.value > 0.0 ? made.high * size : -made.low * size : made.high;
  lever.plausible = made.plausible;
  lever.by_factor = made.by_factor;
  lever.headroom = made.headroom;
  lever.helps = made.helps;
  lever.told_now = entry.text;
  lever.with = [axis, set = by_value(made.inputs, axis, true)](double value) {
    Axis other = axis;
    set(other, value);
    return other;
  };
  lever.typed = [axis, inputs = made.inputs, now = entry.value](double value, int digits, bool up) {
    Axis other = axis;
    std::string told;
    for (const Input& input : inputs) {
      Section& at = *find_section(other, input.section);
      const Entry before = at.entry(input.field);
      const FieldSpec& field = at.spec().fields[*at.spec().index_of(input.field)];
      const double wanted = value * (now != 0.0 ? before.value / now : 1.0);
      const std::string text = text_in(wanted, field.kind, usual_unit(field, before), digits, up);
      at.type(input.field, text, before.origin);
      if (told.empty()) told = text;
    }
    return std::pair{other, told};
  };
  return lever;
}

std::string cycle_section(std::size_t segment) { return "cycle[" + std::to_string(segment) + "]"; }

/// "Move 2, time".
std::string of_segment(const Axis& axis, std::size_t segment, std::string_view field) {
  return describe_path(axis.cycle[segment], field);
}

void add_moves(const Axis& axis, std::size_t segment, std::vector<Made>& all) {
  std::vector<Input> times, dwells;
  for (std::size_t i = 0; i < axis.cycle.size(); ++i) {
    const bool dwell = axis.cycle[i].is("dwell"), move = axis.cycle[i].is("move");
    if ((dwell || move) && is_given(axis, {cycle_section(i), "time"}))
      (dwell ? dwells : times).push_back({cycle_section(i), "time"});
  }
  if (segment < axis.cycle.size() && axis.cycle[segment].is("move")) {
    const std::string section = cycle_section(segment);
    const auto add = [&](std::string_view field, double low, double high, double plausible) {
      if (is_given(axis, {section, field}))
        all.push_back(
            {{{section, field}}, "", of_segment(axis, segment, field), low, high, plausible, true, 0});
    };
    add("time", 0.2, 2.0, 1.1);
    add("peak_speed", 0.4, 2.5, 1.1);
    add("acceleration", 0.2, 5.0, 1.2);
    // both ramps together where both are typed
    std::vector<Input> shares;
    for (const std::string_view field : {"acceleration_share", "deceleration_share"})
      if (is_given(axis, {section, field})) shares.push_back({section, field});
    if (!shares.empty())
      all.push_back({shares, section + ".shares", of_segment(axis, segment, shares.front().field), 0.05, 0.5,
                     0.1, false, 0});
  }
  if (times.size() > 1) all.push_back({times, "moves.time", "Time of all moves", 0.2, 2.0, 1.1, true, -1});
  if (times.size() == 1) all.push_back({times, "", "", 0.2, 2.0, 1.1, true, -1});
  if (!dwells.empty()) all.push_back({dwells, "dwells.time", "Time of all dwells", 0.05, 5.0, 1.2, true, -1});
}

std::vector<Made> numbers_of(const Axis& axis, std::size_t segment) {
  std::vector<Made> all;
  const auto add = [&](std::string_view slot, std::string_view field, double low, double high,
                       double plausible, int headroom) {
    // nobody adds load or friction to be rid of something else
    const int helps = headroom > 0 ? -1 : 0;
    all.push_back({{{std::string(slot), field}}, "", "", low, high, plausible, true, headroom, helps});
  };
  add_moves(axis, segment, all);
  add("load", "moved_mass", 0.4, 10.0, 1.15, 1);
  add("load", "inertia", 0.4, 10.0, 1.15, 1);
  add("load", "friction", 0.25, 20.0, 1.5, 1);
  add("load", "friction_torque", 0.25, 20.0, 1.5, 1);
  add("load", "seal_drag", 0.25, 20.0, 1.5, 1);
  add("load", "process_force", 0.4, 10.0, 1.1, 1);
  add("load", "process_torque", 0.4, 10.0, 1.1, 1);
  add("load", "counterweight", 0.2, 5.0, 1.15, 0);
  add("mechanism", "drag", 0.25, 20.0, 1.5, 1);
  add("mechanism", "diameter", 0.5, 2.0, 1.15, 0);
  if (axis["gearhead"].blank("part_number")) add("gearhead", "ratio", 0.25, 4.0, 1.2, 0);
  add("drive", "current_setting", 0.2, 3.0, 1.15, 0);
  add("drive", "current_limit", 0.2, 3.0, 1.15, 0);
  add("drive", "start_speed", 0.05, 3.0, 1.2, 0);
  constexpr double coldest = 273.15, hottest = 353.15, step = 10.0; // K
  all.push_back({{{"surroundings", "ambient"}}, "", "", coldest, hottest, step, false, 1, -1});
  std::vector<Input> bus;
  for (const std::string_view field : {"bus", "bus_low", "bus_high"})
    if (is_given(axis, {"surroundings", field})) bus.push_back({"surroundings", field});
  if (!bus.empty())
    all.push_back({bus, "surroundings.bus", "Bus voltage, least and most with it", 0.3, 2.0, 1.1, true, -1});
  return all;
}

/// A lever whose settings are texts of one field.
template <class Texts>
std::optional<Lever> options_of(const Axis& axis, const Input& input, const Texts& texts, double step) {
  const Section* section = find_section(axis, input.section);
  if (section == nullptr || !section->has(input.field) || section->blank(input.field)) return std::nullopt;
  Lever lever;
  lever.path = lever.id = input.section + "." + std::string(input.field);
  lever.label = describe_path(*section, input.field);
  lever.told_now = section->text(input.field);
  const Entry& now = section->entry(input.field);
  lever.guessed = now.origin == Origin::guess;
  for (const auto& [text, told] : texts) {
    Axis other = axis;
    Section& at = *find_section(other, input.section);
    at.type(input.field, text, now.origin);
    const Entry& entry = at.entry(input.field);
    if (entry.faulty() || entry.text == now.text || (std::isfinite(now.value) && entry.value == now.value))
      continue;
    const bool number = std::isfinite(now.value) && std::isfinite(entry.value) && now.value > 0.0;
    const double effort = number ? std::abs(std::log(entry.value / now.value)) / std::log(step) : 1.0;
    lever.options.push_back({std::string(told), effort, std::move(other)});
  }
  if (lever.options.empty()) return std::nullopt;
  for (LeverOption& option : lever.options)
    if (!lever.guessed) option.effort *= 2.0;
  std::stable_sort(lever.options.begin(), lever.options.end(),
                   [](const LeverOption& a, const LeverOption& b) { return a.effort < b.effort; });
  return lever;
}

using Texts = std::vector<std::pair<std::string, std::string>>;

Texts with_unit(std::initializer_list<double> values, const std::string& unit) {
  Texts all;
  for (const double value : values) {
    const std::string text = number_text(value) + (unit.empty() ? "" : " " + unit);
    all.emplace_back(text, text);
  }
  return all;
}

/// What is usual in the trade: leads of screws, teeth of pulleys and pinions (common practice).
std::vector<Lever> settings_of(const Axis& axis, std::size_t segment) {
  std::vector<Lever> all;
  const auto add = [&](const Input& input, const Texts& texts, double step) {
    if (auto lever = options_of(axis, input, texts, step)) all.push_back(std::move(*lever));
  };
  const std::string screw_unit =
      axis["mechanism"].has("lead") && axis["mechanism"].text("lead").find("in") != std::string::npos ? "in"
                                                                                                      : "mm";
  if (axis["mechanism"].is("screw"))
    add({"mechanism", "lead"},
        screw_unit == "mm"
            ? with_unit({0.5, 1, 2, 2.5, 3, 4, 5, 6, 8, 10, 12, 15, 16, 20, 25, 32, 40, 50}, "mm")
            : with_unit({0.1, 0.125, 0.2, 0.25, 0.5, 1}, "in"),
        1.25);
  for (const std::string_view teeth : {"pulley_teeth", "teeth"})
    if (axis["mechanism"].has(teeth) && axis["mechanism"].entry(teeth).value > 0.0)
      add({"mechanism", teeth},
          with_unit({12, 14, 15, 16, 18, 20, 22, 24, 25, 28, 30, 32, 36, 40, 44, 48, 60}, ""), 1.2);
  if (axis["gearhead"].blank("part_number"))
    add({"gearhead", "ratio"},
        with_unit({1, 2, 3, 4, 5, 7, 8, 10, 12, 15, 16, 20, 25, 30, 35, 40, 50, 70, 100}, ""), 1.3);
  if (segment < axis.cycle.size() && axis.cycle[segment].is("move")) {
    Texts laws;
    for (const LawSpec* law : law_specs()) laws.emplace_back(law->id, law->label);
    add({cycle_section(segment), "law"}, laws, 2.0);
  }
  add({"drive", "microsteps"}, with_unit({1, 2, 4, 8, 16, 32, 64, 128, 256}, ""), 2.0);
  add({"motor", "connection"},
      {{"series", "bipolar series"},
       {"parallel", "bipolar parallel"},
       {"half", "half coils, bipolar"},
       {"unipolar", "unipolar"}},
      2.0);
  return all;
}

} // namespace

double Lever::effort(double value) const {
  const double given = guessed ? 1.0 : 2.0;
  if (by_factor) return given * std::abs(std::log(value / now)) / std::log(plausible);
  return given * std::abs(value - now) / plausible;
}

std::vector<Lever> levers_of(const Axis& axis, std::size_t segment) {
  std::vector<Lever> all;
  for (const Made& made : numbers_of(axis, segment)) {
    auto lever = lever_of(axis, made);
    if (!lever) continue;
    const bool there = std::any_of(all.begin(), all.end(), [&](const Lever& l) { return l.id == lever->id; });
    if (there) {
      for (Lever& known : all)
        if (known.id == lever->id) known.headroom = lever->headroom;
      continue;
    }
    all.push_back(std::move(*lever));
  }
  for (Lever& lever : settings_of(axis, segment)) {
    // catalogue values stand for a number that comes in steps
    std::erase_if(all, [&](const Lever& l) { return l.id == lever.id; });
    all.push_back(std::move(lever));
  }
  return all;
}

} // namespace fulmox
