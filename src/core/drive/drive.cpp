#include "core/drive/drive.hpp"

#include "core/drive/dc_drive.hpp"
#include "core/drive/sine_drive.hpp"
#include "core/drive/stepper_drive.hpp"
#include "core/form/meaning.hpp"
#include "core/form/part_kinds.hpp"
#include "core/mounting/mounting.hpp"

#include <cmath>

namespace fulmox {

void Drive::read_common(const Section& sheet) {
  leaves_open = fulmox::leaves_open(sheet);
  continuous_current = sheet.term_if("continuous_current");
  peak_current = sheet.term("peak_current");
  rated_peak = peak_current;
  if (const Term set = sheet.term_if("current_limit"); set < peak_current || std::isnan(peak_current.value)) {
    if (!std::isnan(set)) peak_current = set;
  }
  peak_time = sheet.term_if("peak_time");
  capacitance = sheet.term("capacitance");
  brake_power = sheet.term_if("brake_power");
  overvoltage = sheet.term("overvoltage");
  bus_min = sheet.term("bus_min");
  bus_max = sheet.term("bus_max");
  brake_volts = sheet.term_if("brake_volts");
  if (sheet.has("reads"))
    if (const auto told = read_feedbacks(sheet.text("reads"))) reads = *told;
  chosen = !std::isnan(peak_current) || !std::isnan(continuous_current);
}

static PartKinds<DriveKind>& registry() {
  static PartKinds<DriveKind> kinds({&sine_drive(), &bipolar_drive(), &unipolar_drive(), &five_phase_drive(),
                                     &six_step_drive(), &brushed_drive()});
  return kinds;
}

std::span<const DriveKind* const> drive_kinds() { return registry().all(); }
void register_drive(const DriveKind& kind) { registry().add(kind); }

std::unique_ptr<const Drive> build_drive(const Section& sheet) { return registry().of(sheet).build(sheet); }

const SlotSpec& drive_slot() {
  static const SlotSpec slot{"drive", "Drive", [] { return registry().for_slot(); }};
  return slot;
}

} // namespace fulmox
