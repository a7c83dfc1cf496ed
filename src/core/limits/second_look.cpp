#include "core/limits/second_look.hpp"

#include "core/limits/care_warnings.hpp"
#include "core/limits/claim_warnings.hpp"
#include "core/limits/rotor_warnings.hpp"
#include "core/limits/servo_warnings.hpp"
#include "core/limits/sheet_warnings.hpp"
#include "core/limits/stepper_warnings.hpp"
#include "core/project/unread.hpp"
#include "core/quantity/format.hpp"
#include "core/support/intern.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {

Warning warning(std::string title, std::string reason, std::string_view input) {
  return {"", std::move(title), std::move(reason), input};
}

std::string percent(double share) { return significant(100.0 * share, 2) + " %"; }

namespace {

using Found = std::optional<Warning>;

bool locks_itself(const AxisModel& model) {
  return model.load->mechanism->self_locking() ||
         std::any_of(model.load->stages.begin(), model.load->stages.end(),
                     [](const Stage& stage) { return stage.back_efficiency < 0.0; });
}

/// What pulls when power goes: weight and springs. No process force is trusted to hold them.
Found no_brake(const LimitContext& c) {
  if (c.model.brake.fitted || c.demand.holding.free == 0.0 || locks_itself(c.model)) return std::nullopt;
  return warning(
      "No brake on an axis that can fall",
      "When power goes, the load moves: " +
          format(std::abs(c.demand.holding.free), Kind::torque, c.units).text() +
          " pull at the motor shaft. Plan a brake, and remember that it is not personnel protection.",
      "brake.fitted");
}

Found dwell_on_missing_brake(const LimitContext& c) {
  if (c.model.brake.fitted) return std::nullopt;
  for (const Section& segment : c.axis.cycle)
    if (segment.is("dwell") && segment.text("held_by") == "brake")
      return warning("A dwell is held by a brake that is not there",
                     "The torque in that dwell is counted as zero.", "brake.fitted");
  return std::nullopt;
}

Found frictionless(const LimitContext& c) {
  const Section& load = c.axis["load"];
  const auto zero = [&](std::string_view field) {
    return !load.spec().index_of(field) || !(load.term_or(field, 0.0) > 0.0);
  };
  if (load.spec().index_of("friction")) {
    if (!zero("friction") || !zero("seal_drag") || !zero("viscous")) return std::nullopt;
    return warning("Friction is zero",
                   "No guide runs without friction. Rolling guides take 0.003–0.01, sliding guides 0.05–0.2 "
                   "(common practice).",
                   "load.friction");
  }
  if (!zero("friction_torque") || !zero("viscous_torque")) return std::nullopt;
  return warning("Friction is zero", "No bearing runs without friction; seals add to it.",
                 "load.friction_torque");
}

Found lossless(const LimitContext& c) {
  if (c.model.load->mechanism->suspiciously_lossless())
    return warning("The mechanism's efficiency is 1",
                   "A ball screw reaches 0.85–0.95, a lead screw much less; belts and racks 0.93–0.98.",
                   "mechanism.efficiency");
  if (c.model.gear.fitted && c.model.gear.efficiency == 1.0)
    return warning("The gearhead's efficiency is 1", "A planetary stage reaches 0.95–0.97.",
                   "gearhead.efficiency");
  return std::nullopt;
}

Found dwell_share(const LimitContext& c) {
  double rest = 0.0;
  for (const MotionPiece& piece : c.model.load->cycle.pieces) rest += piece.rest() ? piece.duration : 0.0;
  const double share = rest / c.model.load->cycle.duration;
  if (rest == 0.0)
    return warning(
        "The cycle has no dwell",
        "Rms torque and mean power assume that the axis moves without a pause. Is a dwell left out?",
        "cycle");
  if (share < 0.8) return std::nullopt;
  return warning("The axis rests " + percent(share) + " of its cycle",
                 "The rms torque is small because of it. One cycle run back to back would heat " +
                     significant(std::sqrt(1.0 / (1.0 - share)), 2) + " times as much torque into the motor.",
                 "cycle");
}

Found all_guessed(const LimitContext& c) {
  std::size_t typed = 0;
  std::size_t guessed = 0;
  const auto count = [&](const Section& section) {
    for (std::size_t i = 0; i < section.size(); ++i) {
      if (section.entry(i).blank() || section.field(i).type != FieldType::quantity) continue;
      ++typed;
      guessed += section.entry(i).origin == Origin::guess ? 1U : 0U;
    }
  };
  count(c.axis["load"]);
  count(c.axis["mechanism"]);
  if (typed == 0 || guessed * 2 < typed) return std::nullopt;
  return warning("Mostly guesses",
                 std::to_string(guessed) + " of " + std::to_string(typed) +
                     " values of load and mechanism are marked as guesses. Weigh or measure what moves most.",
                 intern("load", main_load_input(c.axis), "."));
}

Found motor_too_big(const LimitContext& c) {
  const Motor& motor = *c.model.motor;
  if (!motor.has_continuous() || !motor.has_peak()) return std::nullopt;
  const double rms = c.demand.rms_torque / motor.continuous_torque(c.demand.mean_speed);
  const double peak = c.demand.peak_torque / motor.standstill_peak();
  if (rms > 0.25 || peak > 0.25) return std::nullopt;
  const std::string gives =
      "It gives " + percent(rms) + " of its continuous and " + percent(peak) + " of its peak torque.";
  // a motor of a quarter of the torque has less than half the rotor: it would not do
  const double of_inertia = c.demand.inertia_ratio / c.rules.term("inertia_max");
  constexpr double needed = 0.5;
  if (of_inertia <= needed) return warning("The motor is far too big", gives, "motor.part_number");
  return warning("Far more torque than is needed",
                 gives + " Its rotor is needed, though: the inertia ratio is at " + percent(of_inertia) +
                     " of what the house allows. With more reduction a smaller motor would do.",
                 "gearhead.ratio");
}

Found rotor_dominates(const LimitContext& c) {
  if (!c.model.motor->chosen || c.demand.inertia_ratio >= c.rules.term("inertia_min")) return std::nullopt;
  return warning("The motor mostly moves itself",
                 "Inertia ratio " + significant(c.demand.inertia_ratio) +
                     ": less reduction or a smaller rotor would do.",
                 "gearhead.ratio");
}

Found coupling_neglected(const LimitContext& c) {
  const Section& coupling = c.axis["coupling"];
  if (!coupling.blank("inertia")) return std::nullopt;
  return warning("Coupling inertia neglected", "No value is given, so the sums leave it out.",
                 "coupling.inertia");
}

Found open_cycle(const LimitContext& c) {
  if (mechanism_of(c.axis).endless) return std::nullopt;
  const double span = c.model.load->cycle.highest - c.model.load->cycle.lowest;
  if (std::abs(c.model.load->cycle.net_travel) <= 1e-9 * span) return std::nullopt;
  return warning(
      "The cycle does not return to its start",
      "It ends " +
          format(c.model.load->cycle.net_travel, c.model.load->cycle.kinds.distance, c.units).text() +
          " away; energy and rms count this one pass only.",
      "cycle");
}

Found stroke_beyond_length(const LimitContext& c) {
  const auto guide = c.model.load->mechanism->guide();
  if (!guide) return std::nullopt;
  const double stroke = c.model.load->cycle.highest - c.model.load->cycle.lowest;
  if (stroke < guide->length) return std::nullopt;
  return warning("The stroke does not fit on " + std::string(guide->name),
                 "It travels " + format(stroke, Kind::length, c.units).text() + " on " +
                     format(guide->length, Kind::length, c.units).text() +
                     "; carriage, supports and overtravel need room too.",
                 guide->length.ref);
}

Found emf_overvoltage(const LimitContext& c) {
  const Drive& drive = *c.model.drive;
  const double emf = c.model.motor->emf(c.demand.max_speed);
  if (!drive.weakening || std::isnan(drive.overvoltage) || std::isnan(emf) || emf <= drive.overvoltage)
    return std::nullopt;
  return warning("Back-EMF above the drive's trip",
                 "Should the drive switch off at top speed, " + format(emf, Kind::voltage, c.units).text() +
                     " come back, above its " + format(drive.overvoltage, Kind::voltage, c.units).text() +
                     ".",
                 "drive.weakening");
}

Found bus_below_drive(const LimitContext& c) {
  if (!(c.model.surroundings.bus_low < c.model.drive->bus_min)) return std::nullopt;
  return warning("The bus can fall below what the drive needs",
                 format(c.model.surroundings.bus_low, Kind::voltage, c.units).text() + " against " +
                     format(c.model.drive->bus_min, Kind::voltage, c.units).text() + ".",
                 "surroundings.bus");
}

Found breakaway(const LimitContext& c) {
  const Motor& motor = *c.model.motor;
  if (!motor.has_peak() || c.demand.holding.breakaway <= motor.standstill_peak()) return std::nullopt;
  return warning(
      "The axis may not break away",
      "Starting from rest takes " + format(c.demand.holding.breakaway, Kind::torque, c.units).text() +
          ", the motor's peak is " + format(motor.standstill_peak(), Kind::torque, c.units).text() + ".",
      "load.static_friction");
}

/// What is typed under a name that no input has counts for nothing, and nobody sees it missing.
Found not_read(const LimitContext& c) {
  constexpr std::size_t readable = 3;
  std::vector<Unread> members = unread_members(c.axis);
  std::erase_if(members, [](const Unread& member) { return member.another_kinds; });
  if (members.empty()) return std::nullopt;
  std::string reason;
  for (std::size_t i = 0; i < std::min(members.size(), readable); ++i)
    reason += (i > 0 ? " " : "") + problem_of(members[i]).text();
  if (members.size() > readable) reason += " And " + std::to_string(members.size() - readable) + " more.";
  const Unread& first = members.front();
  const std::string_view input = first.section.empty() ? first.meant
                                 : first.meant.empty() ? intern(first.section)
                                                       : intern(first.section, first.meant, ".");
  return warning("The file says what nothing reads", std::move(reason), input);
}

} // namespace

static std::vector<WarningSpec>& warnings_of_all() {
  static std::vector<WarningSpec> list = [] {
    std::vector<WarningSpec> all{WarningSpec{"vertical_without_brake", &no_brake},
                                 WarningSpec{"dwell_on_missing_brake", &dwell_on_missing_brake},
                                 WarningSpec{"friction_zero", &frictionless},
                                 WarningSpec{"efficiency_one", &lossless},
                                 WarningSpec{"dwell_share", &dwell_share},
                                 WarningSpec{"everything_guessed", &all_guessed},
                                 WarningSpec{"kt_ke_disagree", &constants_disagree},
                                 WarningSpec{"convention_missing", &convention_missing},
                                 WarningSpec{"winding_kind_unknown", &winding_unknown},
                                 WarningSpec{"motor_too_big", &motor_too_big},
                                 WarningSpec{"rotor_dominates", &rotor_dominates},
                                 WarningSpec{"coupling_neglected", &coupling_neglected},
                                 WarningSpec{"open_cycle", &open_cycle},
                                 WarningSpec{"stroke_beyond_screw", &stroke_beyond_length},
                                 WarningSpec{"emf_overvoltage", &emf_overvoltage},
                                 WarningSpec{"bus_below_drive", &bus_below_drive},
                                 WarningSpec{"breakaway", &breakaway},
                                 WarningSpec{"not_read", &not_read}};
    for (const auto group :
         {stepper_warnings(), sheet_warnings(), claim_warnings(), rotor_warnings(), care_warnings()})
      all.insert(all.end(), group.begin(), group.end());
    return all;
  }();
  return list;
}

std::span<const WarningSpec> warning_specs() { return warnings_of_all(); }

void register_warning(const WarningSpec& warning) { warnings_of_all().push_back(warning); }

std::vector<Warning> second_look(const LimitContext& context) {
  std::vector<Warning> all;
  for (const WarningSpec& spec : warning_specs())
    if (auto found = spec.check(context)) {
      found->id = spec.id;
      all.push_back(std::move(*found));
    }
  return all;
}

} // namespace fulmox
