#include "core/motor/motor_fields.hpp"
#include "core/motor/sheet_claims.hpp"
#include "core/motor/stepper.hpp"
#include "core/mounting/mounting.hpp"
#include "core/quantity/format.hpp"

namespace fulmox {

namespace {
FieldSpec table_volts(std::string_view id, std::string_view label) {
  return optional(id, label, "", Kind::voltage, range::positive,
                  "Supply of the drive at which the curve below was measured.");
}
FieldSpec table_curve(std::string_view id, std::string_view label) {
  return points(id, label, "T_po(n)", Kind::angular_speed, Kind::torque, range::not_negative,
                "Measured at the rated current, like 60 rpm: 1.1 N.m; 600 rpm: 0.5 N.m; falling.");
}
/// Why a measured curve cannot be used; nothing where it can.
std::optional<Problem> fault_of(const Section& sheet, std::string_view volts, std::string_view curve) {
  const std::string where = sheet.path + "." + std::string(curve);
  const auto& points = sheet.entry(curve).curve;
  if (points.empty()) return std::nullopt;
  if (sheet.blank(volts))
    return Problem{sheet.path + "." + std::string(volts), "at which voltage was the pull-out curve measured?",
                   "Give the supply's voltage, or clear the curve."};
  if (points.size() < 2)
    return Problem{where, "one point is no curve.",
                   "Give at least two, like 60 rpm: 1.1 N.m; 600 rpm: 0.5 N.m."};
  constexpr double scatter = 1.03; // of a measurement
  for (std::size_t i = 1; i < points.size(); ++i)
    if (points[i][1] > scatter * points[i - 1][1])
      return Problem{where,
                     "the torque rises from " + format(points[i - 1][1], Kind::torque).text() + " at " +
                         format(points[i - 1][0], Kind::angular_speed).text() + " to " +
                         format(points[i][1], Kind::torque).text() + " at " +
                         format(points[i][0], Kind::angular_speed).text() + ".",
                     "A pull-out torque falls with speed: check these two points."};
  return std::nullopt;
}

} // namespace

std::vector<Problem> check_stepper_tables(const Section& sheet) {
  std::vector<Problem> all;
  for (const auto& [volts, curve] : pull_out_fields())
    if (auto fault = fault_of(sheet, volts, curve)) all.push_back(std::move(*fault));
  return all;
}

std::vector<FieldSpec> stepper_curve_fields() {
  return {optional("detent", "Detent torque", "T_det", Kind::torque, range::not_negative,
                   "Without current; a ripple, no lost torque."),
          table_volts("pullout_volts", "Measured at"), table_curve("pullout_curve", "Pull-out curve"),
          table_volts("pullout_volts_2", "Second, at"), table_curve("pullout_curve_2", "Second curve")};
}

std::span<const std::array<std::string_view, 2>> pull_out_fields() {
  static constexpr std::array<std::array<std::string_view, 2>, 2> fields{
      {{"pullout_volts", "pullout_curve"}, {"pullout_volts_2", "pullout_curve_2"}}};
  return fields;
}

namespace {

/// What every two-phase stepper's sheet holds.
std::vector<FieldSpec> two_phase_fields() {
  std::vector<FieldSpec> all{
      usually("teeth", "Rotor teeth", "N_r", Kind::number, range::whole(1.0, 1000.0), "50",
              "A full step is 360°/(4·N_r): 50 teeth make 1.8°, 100 make 0.9°."),
      optional("holding_torque", "Holding torque", "T_hold", Kind::torque, range::positive,
               "Both phases at the rated current."),
      rated_current_field("Of one phase, with both on at once."),
      maybe_one_of("rated_for", "Ratings are for",
                   {{"unipolar", "half coils (unipolar)"},
                    {"series", "bipolar series"},
                    {"parallel", "bipolar parallel"},
                    {"chosen", "the connection chosen"}},
                   "What holding torque, current, resistance and inductance of the sheet refer to. Blank: "
                   "the connection chosen."),
      one_of("leads", "Leads", {{"4", "4"}, {"5", "5"}, {"6", "6"}, {"8", "8"}},
             "Decides how it can be connected."),
      one_of("connection", "Connected",
             {{"series", "bipolar series"},
              {"parallel", "bipolar parallel"},
              {"half", "half coils, bipolar"},
              {"unipolar", "unipolar"}},
             "4 leads: whole phases only. Parallel needs 8 leads; high speed wants it.")
          .as_setting(),
      resistance_field("Of one phase at 20 °C, as rated."),
      inductance_field("Of one phase, as rated."),
      optional("ke", "Back-EMF constant", "K_E", Kind::emf_constant, range::positive,
               "Crest of one phase of the spun motor. Blank: as torque per ampere, which saturation holds "
               "some 5 to 30 % below it.")};
  for (FieldSpec& field : stepper_curve_fields()) all.push_back(std::move(field));
  return all;
}

std::vector<FieldSpec> closed_loop_fields() {
  std::vector<FieldSpec> all = two_phase_fields();
  all.push_back(one_of(
      "control", "Control",
      {{"load angle", "of the load angle"}, {"compensating", "adds lost steps at the end"}},
      "Of the load angle: a servo in all but its winding. Adding lost steps: open loop while it moves, "
      "right only at the end."));
  all.push_back(optional("least_current", "Least current", "f_0", Kind::share, {0.0, 1.0},
                         "Share of the current set that is kept without load. Blank: none.")
                    .as_setting());
  all.push_back(encoder_field());
  all.push_back(feedback_field());
  return all;
}

/// A connection that its leads rule out gives way to one that they allow.
void settle_connection(Section& sheet) {
  const std::string leads = sheet.text("leads"), connection = sheet.text("connection");
  const bool half = connection == "half" || connection == "unipolar";
  if (leads == "5" && connection != "unipolar") sheet.type("connection", "unipolar");
  if ((leads == "4" && (half || connection == "parallel")) || (leads == "6" && connection == "parallel"))
    sheet.type("connection", "series");
}

std::unique_ptr<const Motor> build(const Section& sheet, const Drive& drive, Recorder& recorder) {
  return std::make_unique<const StepperMotor>(StepperMotor::from(sheet, drive, recorder));
}

} // namespace

const SectionSpec& stepper_motor_section() {
  static const SectionSpec spec{"stepper_motor", "Stepper motor",
                                motor_fields(two_phase_fields(), stepper_claims())};
  return spec;
}

const SectionSpec& closed_stepper_section() {
  static const SectionSpec spec{"closed_stepper", "Stepper motor with encoder",
                                motor_fields(closed_loop_fields(), stepper_claims())};
  return spec;
}

const MotorKind& stepper_motor() {
  static const MotorKind kind{
      {.form = &stepper_motor_section(),
       .summary = &part_summary,
       .help = "Two-phase hybrid stepper, open loop: follows its pulses, or loses steps without a word.",
       .prominent = {"inertia", "holding_torque", "connection"},
       .library = "steppers.csv",
       .columns = {"frame", "inertia", "holding_torque", "rated_current", "resistance", "inductance"},
       .name = "Stepper, two phases, open loop",
       .check = &check_stepper_tables,
       .settle = &settle_connection},
      &build,
      &open_stepper_traits()};
  return kind;
}

const MotorKind& closed_stepper() {
  static const MotorKind kind{
      {.form = &closed_stepper_section(),
       .summary = &part_summary,
       .help = "Two-phase stepper whose encoder closes the loop: lags and catches up, or gives up beyond a "
               "set error.",
       .prominent = {"inertia", "holding_torque", "control"},
       .library = "closed_steppers.csv",
       .columns = {"frame", "inertia", "holding_torque", "rated_current", "resistance", "inductance"},
       .name = "Stepper, two phases, closed loop",
       .check = &check_stepper_tables,
       .settle = &settle_connection},
      &build,
      &closed_stepper_traits()};
  return kind;
}

} // namespace fulmox
