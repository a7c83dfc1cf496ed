#pragma once
#include "core/mechanism/linear_drive.hpp"

namespace fulmox {

/// The fields every screw has: lead, diameter, length, density.
std::vector<FieldSpec> screw_fields(std::string_view lead, std::string_view diameter);

/// Turning parts of a screw with its lever; efficiencies are left to the caller.
LinearDrive::Parts screw_parts(const LinearLoad& load, const Section& screw, Recorder& recorder);

/// A screw between motor and load, drawn to scale.
class ScrewDrive : public LinearDrive {
public:
  ScrewDrive(Parts parts, const Section& screw, Recorder& recorder);
  Drawing draw(const Pose& pose) const override;
  /// Screw along its axis and in torsion, nut and bearings where told.
  Term own_stiffness(const TravelExtremes& reach, Recorder& recorder) const override;
  std::optional<Guide> guide() const override { return Guide{"the screw", length_}; }

private:
  double lead_, diameter_;
  Term length_, nut_;
  bool both_ends_;
};

} // namespace fulmox
