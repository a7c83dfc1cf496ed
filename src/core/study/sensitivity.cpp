#include "core/study/sensitivity.hpp"

#include "core/demand/axis_model.hpp"
#include "core/demand/load_keeper.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

constexpr double assumed_tolerance = 0.1;

struct VariedInput {
  Section* section;
  std::size_t field;
};

/// Inputs that shape the demand: not the ratings of parts.
std::vector<VariedInput> inputs(Axis& axis) {
  std::vector<VariedInput> all;
  const auto take = [&](Section& section, auto wanted) {
    for (std::size_t i = 0; i < section.size(); ++i)
      if (section.field(i).type == FieldType::quantity && std::isfinite(section.entry(i).value) &&
          (section.entry(i).value != 0.0 || section.entry(i).tolerance.half_width > 0.0) &&
          wanted(section.field(i).id))
        all.push_back({&section, i});
  };
  const auto any = [](std::string_view) { return true; };
  const auto is_inertia = [](std::string_view id) { return id == "inertia"; };
  take(axis["load"], any);
  take(axis["mechanism"], any);
  for (const ListInfo& list : section_lists())
    for (Section& section : axis.*list.member)
      take(section, [](std::string_view id) { return id != "count"; });
  take(axis["gearhead"], [](std::string_view id) {
    return id == "ratio" || id == "efficiency" || id == "back_efficiency" || id == "inertia" ||
           id == "no_load";
  });
  take(axis["motor"], is_inertia);
  take(axis["coupling"], is_inertia);
  take(axis["brake"], is_inertia);
  return all;
}

double slope(double low, double high, double at, double step) {
  if (!(at > 0.0 && step > 0.0)) return std::nan("");
  return (high - low) / (2.0 * step) / at;
}

} // namespace

Expected<std::vector<Influence>> sensitivities(const Axis& given, const Wanted& wanted) {
  Axis axis = given;
  LoadKeeper load;
  const auto judge = [&]() -> Expected<QuickNumbers> {
    const auto side = load(axis);
    if (!side) return side.problem();
    Recorder silent(false);
    return quick(AxisModel::on(*side, axis, silent));
  };
  const auto now = judge();
  if (!now) return now.problem();
  std::vector<Influence> all;
  for (const VariedInput& place : inputs(axis)) {
    if (!wanted()) return given_up();
    const Entry typed = place.section->entry(place.field);
    const FieldSpec& field = place.section->field(place.field);
    Influence out;
    out.path = place.section->path + "." + std::string(field.id);
    out.label = describe_path(*place.section, field.id);
    out.value = typed.value;
    out.kind = field.kind;
    out.tolerance_typed = typed.tolerance.half_width > 0.0;
    out.tolerance =
        out.tolerance_typed ? typed.tolerance.half_width : assumed_tolerance * std::abs(typed.value);
    const auto at = [&](double value) -> std::optional<QuickNumbers> {
      if (!field.range.contains(value)) return std::nullopt;
      const Section before = *place.section;
      place.section->put(place.field, with_value(typed, value));
      const auto numbers = judge();
      *place.section = before; // shared again: what is not varied is not made anew
      if (!numbers) return std::nullopt;
      return *numbers;
    };
    constexpr double step = 1e-4;
    const auto below = at(typed.value * (1.0 - step)), above = at(typed.value * (1.0 + step));
    // at the end of a range one side is all there is
    const double width = typed.value == 0.0 ? 0.0 : below && above ? step : 0.5 * step;
    const QuickNumbers low = below.value_or(*now), high = above.value_or(*now);
    out.peak = slope(low.peak_torque, high.peak_torque, now->peak_torque, width);
    out.rms = slope(low.rms_torque, high.rms_torque, now->rms_torque, width);
    out.ratio = slope(low.inertia_ratio, high.inertia_ratio, now->inertia_ratio, width);
    const double nothing = std::nan("");
    const auto least = at(typed.value - out.tolerance), most = at(typed.value + out.tolerance);
    out.peak_low = least ? least->peak_torque : nothing;
    out.rms_low = least ? least->rms_torque : nothing;
    out.ratio_low = least ? least->inertia_ratio : nothing;
    out.peak_high = most ? most->peak_torque : nothing;
    out.rms_high = most ? most->rms_torque : nothing;
    out.ratio_high = most ? most->inertia_ratio : nothing;
    for (const auto& end : {least, most}) {
      if (!end) continue;
      out.swing = std::max({out.swing, std::abs(end->peak_torque / now->peak_torque - 1.0),
                            std::abs(end->rms_torque / now->rms_torque - 1.0)});
      if (now->inertia_ratio > 0.0)
        out.swing = std::max(out.swing, std::abs(end->inertia_ratio / now->inertia_ratio - 1.0));
    }
    all.push_back(std::move(out));
  }
  std::stable_sort(all.begin(), all.end(),
                   [](const Influence& a, const Influence& b) { return a.swing > b.swing; });
  return all;
}

std::optional<Axis> with_input(const Axis& given, std::string_view path, double value) {
  const auto dot = path.rfind('.');
  if (dot == std::string_view::npos) return std::nullopt;
  Axis axis = given;
  Section* section = find_section(axis, path.substr(0, dot));
  if (section == nullptr) return std::nullopt;
  const auto index = section->spec().index_of(path.substr(dot + 1));
  if (!index || section->field(*index).type != FieldType::quantity) return std::nullopt;
  section->put(*index, with_value(section->entry(*index), value));
  return axis;
}

} // namespace fulmox
