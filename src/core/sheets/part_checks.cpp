#include "core/sheets/part_checks.hpp"

#include "core/drive/drive.hpp"
#include "core/evaluation/evaluation.hpp"
#include "core/evaluation/guarded.hpp"
#include "core/limits/claim_warnings.hpp"
#include "core/limits/sheet_warnings.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/motion/segments.hpp"
#include "core/motor/motor.hpp"
#include "core/quantity/format.hpp"
#include "core/rules/house_rules.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

namespace fulmox {
namespace {

using Grade = PartRemark::Grade;

/// Two fields of which the first must not be above the second.
struct Order {
  std::string_view low, high;
};
constexpr std::array orders{Order{"rated_current", "peak_current"},
                            Order{"continuous_current", "peak_current"},
                            Order{"bus_min", "bus_max"},
                            Order{"bus_max", "overvoltage"},
                            Order{"bus_low", "bus"},
                            Order{"bus", "bus_high"},
                            Order{"supply_current", "supply_peak"},
                            Order{"continuous_torque", "peak_torque"},
                            Order{"nominal_torque", "peak_torque"},
                            Order{"peak_torque", "emergency_torque"},
                            Order{"mean_speed", "max_speed"},
                            Order{"bore_min", "bore_max"},
                            Order{"input_bore_min", "input_bore_max"},
                            Order{"inductance", "inductance_q"},
                            Order{"catalogue_ambient", "winding_limit"},
                            Order{"pilot", "bolt_circle"},
                            Order{"input_pilot", "input_bolt_circle"},
                            Order{"shaft", "pilot"},
                            Order{"back_efficiency", "efficiency"}};

void look_at_orders(const Section& part, UnitSet units, std::vector<PartRemark>& all) {
  for (const Order& order : orders) {
    const double low = part.term_if(order.low), high = part.term_if(order.high);
    if (!(low > high)) continue;
    const FieldSpec &a = part.spec().fields[*part.spec().index_of(order.low)],
                    &b = part.spec().fields[*part.spec().index_of(order.high)];
    all.push_back({Grade::contradiction, std::string(order.low),
                   std::string(a.label) + " " + format(low, a.kind, units).text() + " is above " +
                       std::string(b.label) + " " + format(high, b.kind, units).text() + "."});
  }
}

/// Where both curves tell, the continuous one must not be above the peak: straight between points, so they
/// are furthest apart at one of them.
void look_at_curves(const Section& part, UnitSet units, std::vector<PartRemark>& all) {
  if (!part.has("continuous_curve") || !part.has("peak_curve")) return;
  const auto &continuous = part.entry("continuous_curve").curve, &peak = part.entry("peak_curve").curve;
  if (continuous.empty() || peak.empty()) return;
  const double from = std::max(continuous.front()[0], peak.front()[0]),
               to = std::min(continuous.back()[0], peak.back()[0]);
  if (from > to) return;
  double worst = 1.0 + 1e-9, at = std::numeric_limits<double>::quiet_NaN(); // equal ones are rounded
  for (const auto* curve : {&continuous, &peak})
    for (const CurvePoint& point : *curve) {
      const double speed = std::clamp(point[0], from, to);
      const double ratio = read_curve(continuous, speed) / read_curve(peak, speed);
      if (!(ratio > worst)) continue;
      worst = ratio;
      at = speed;
    }
  if (std::isnan(at)) return;
  all.push_back({Grade::contradiction, "continuous_curve",
                 "Continuous torque " + format(read_curve(continuous, at), Kind::torque, units).text() +
                     " is above the peak torque " + format(read_curve(peak, at), Kind::torque, units).text() +
                     " at " + format(at, Kind::angular_speed, units).text() + "."});
}

double most_of(const Section& part, std::string_view curve) {
  double most = std::numeric_limits<double>::quiet_NaN();
  if (!part.has(curve)) return most;
  for (const CurvePoint& point : part.entry(curve).curve) most = std::fmax(most, point[1]);
  return most;
}

/// A ratio that parts of a kind keep within bounds; from memory and wide: a question, not a verdict.
struct Size {
  std::string_view field, what;
  double (*ratio)(const Section& part);
  double least, most;
  std::string_view unit = {};
};
constexpr double nan_ = std::numeric_limits<double>::quiet_NaN();

double torque_per_mass(const Section& p) {
  double torque = most_of(p, "continuous_curve");
  if (std::isnan(torque)) torque = p.term_if("holding_torque");
  return torque / p.term_if("mass");
}
double body_density(const Section& p) {
  const double side = p.term_if("frame"), length = p.term_if("length");
  return p.term_if("mass") / (side * side * length);
}
/// Over that of the whole mass turning at half the frame: no rotor comes near.
double rotor_share(const Section& p) {
  const double radius = 0.5 * p.term_if("frame");
  return p.spec().index_of("max_speed") ? p.term_if("inertia") / (0.5 * p.term_if("mass") * radius * radius)
                                        : nan_;
}
double peak_over_continuous(const Section& p) {
  return most_of(p, "peak_curve") / most_of(p, "continuous_curve");
}
double head_torque_per_mass(const Section& p) { return p.term_if("nominal_torque") / p.term_if("mass"); }
double shaft_over_frame(const Section& p) { return p.term_if("shaft") / p.term_if("frame"); }
double time_constant(const Section& p) { return p.term_if("inductance") / p.term_if("resistance"); }

constexpr std::array sizes{
    Size{"continuous_curve", "Continuous or holding torque for each kg", &torque_per_mass, 0.03, 12.0,
         " N·m/kg"},
    Size{"nominal_torque", "Nominal torque for each kg", &head_torque_per_mass, 2.0, 120.0, " N·m/kg"},
    Size{"mass", "Mass over the volume of its body", &body_density, 800.0, 9000.0, " kg/m³"},
    Size{"inertia", "Rotor inertia against its whole mass at the rim", &rotor_share, 1e-4, 0.9},
    Size{"peak_curve", "Peak over continuous torque", &peak_over_continuous, 1.0, 12.0},
    Size{"shaft", "Shaft over frame", &shaft_over_frame, 0.05, 0.6},
    Size{"inductance", "Inductance over resistance", &time_constant, 2e-5, 0.2, " s"}};

void look_at_sizes(const Section& part, std::vector<PartRemark>& all) {
  for (const Size& size : sizes) {
    const double ratio = size.ratio(part);
    if (std::isnan(ratio) || (ratio >= size.least && ratio <= size.most)) continue;
    const std::string_view field = part.has(size.field) ? size.field : std::string_view("mass");
    const std::string unit(size.unit);
    const Shown now = format(ratio, Kind::number), least = format(size.least, Kind::number),
                most = format(size.most, Kind::number);
    all.push_back({Grade::implausible, std::string(field),
                   std::string(size.what) + ": " + now.text() + unit + ", usual are " + least.text() +
                       " to " + most.text() + unit + "."});
  }
}

/// Something that turns, moved so gently that the part alone is looked at.
Axis plain_axis() {
  Axis axis = new_axis("check");
  choose_mechanism(axis, *find_mechanism("general"));
  axis["load"].type("inertia", "1 kg.cm2");
  axis.cycle.emplace_back(*find_segment_spec("move", motion_of(axis)));
  number_sections(axis);
  return axis;
}

/// A drive of the kind that feeds the motor.
void feed(Axis& axis) {
  Recorder silent(false);
  for (const DriveKind* kind : drive_kinds()) {
    Section drive(*kind->slot.form);
    drive.path = "drive";
    const auto built = build_drive(drive);
    if (!build_motor(axis["motor"], *built, silent)->refuses(built->feed()).empty()) continue;
    axis["drive"] = drive;
    return;
  }
}

bool of_sheets(std::string_view id) {
  static const std::set<std::string_view> ids = [] {
    std::set<std::string_view> all;
    for (const WarningSpec& spec : sheet_warnings()) all.insert(spec.id);
    for (const WarningSpec& spec : claim_warnings()) all.insert(spec.id);
    return all;
  }();
  return ids.contains(id);
}

std::string field_of(std::string_view input) { return std::string(input.substr(input.rfind('.') + 1)); }

void look_on_axis(std::string_view slot, const Section& part, UnitSet units, std::vector<PartRemark>& all) {
  if (find_slot(slot) == nullptr) return; // of the machine, no part of an axis
  Axis axis = plain_axis();
  choose_part(axis, slot, part);
  if (slot == "motor") feed(axis);
  Section rules(house_rules_section());
  const auto worked = guarded(axis, [&] { return evaluate(axis, rules, units); });
  if (!worked) {
    all.push_back({Grade::contradiction, field_of(worked.problem().where), worked.problem().what});
    return;
  }
  for (const Warning& warning : worked->warnings)
    if (of_sheets(warning.id) && warning.input.starts_with(slot))
      all.push_back({Grade::contradiction, field_of(warning.input), warning.title + ". " + warning.reason});
  std::set<std::string> told;
  for (const Limit& limit : worked->limits)
    if (limit.state == LimitState::not_judged && limit.input.starts_with(std::string(slot) + ".") &&
        told.insert(std::string(limit.input)).second)
      all.push_back({Grade::missing, field_of(limit.input),
                     std::string(limit.label) + " cannot be judged. " + std::string(limit.reason)});
}

} // namespace

std::string_view word(Grade grade) {
  constexpr std::array<std::string_view, 3> words{"contradiction", "implausible", "missing"};
  return words[static_cast<std::size_t>(grade)];
}

std::vector<PartRemark> check_part(std::string_view slot, const Section& part, UnitSet units) {
  std::vector<PartRemark> all;
  for (const Problem& fault : part_faults(slot, part))
    all.push_back({Grade::contradiction, field_of(fault.where), fault.what + " " + fault.remedy});
  if (part.has("part_number") && part.blank("part_number"))
    all.push_back({Grade::missing, "part_number", "Without a part number it cannot be kept."});
  if (!all.empty() && all.front().grade == Grade::contradiction) return all;
  look_at_orders(part, units, all);
  look_at_curves(part, units, all);
  look_on_axis(slot, part, units, all);
  look_at_sizes(part, all);
  std::stable_sort(all.begin(), all.end(),
                   [](const PartRemark& a, const PartRemark& b) { return a.grade < b.grade; });
  return all;
}

} // namespace fulmox
