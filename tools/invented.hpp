#pragma once
#include "core/form/section.hpp"
#include "core/library/part_library.hpp"
#include "core/quantity/constants.hpp"

#include <string>
#include <string_view>

namespace fulmox::tools {

/// A number as data sheets write it.
std::string number(double value, int digits = 4);

/// A part in the making; every text counts as read from a data sheet.
class Sheet {
public:
  explicit Sheet(const SectionSpec& form) : section_(form) {}
  Sheet& type(std::string_view field, const std::string& text) {
    section_.type(field, text, Origin::data_sheet);
    return *this;
  }
  [[nodiscard]] const Section& section() const { return section_; }
  [[nodiscard]] Section take() { return std::move(section_); }

private:
  Section section_;
};

/// Insulation class F, 40 °C around: what all invented motors are laid out for. K.
inline constexpr double winding_limit = 155.0 + constants::zero_celsius;
inline constexpr double catalogue_ambient = 40.0 + constants::zero_celsius;

/// The resistance at 20 °C whose loss at a current brings the winding to its limit. Ω; `share` is what
/// multiplies R·I².
double resistance_by_heat(double current, double share, double r_thermal, double r_case_ambient,
                          double iron_loss);

Parts six_step_motors();
Parts brushed_motors();
Parts six_step_drives();
Parts brushed_drives();
Parts steppers();
Parts closed_steppers();
Parts stepper_drives();
Parts unipolar_drives();
Parts five_phase_motors();
Parts five_phase_drives();
Parts brakes();
Parts regulated_supplies();
Parts transformers();

/// Flange and hub, encoder, length, how soon it comes.
void fit_out(Section& part);

} // namespace fulmox::tools
