#pragma once
#include "core/form/field.hpp"
#include "core/form/section.hpp"
#include "core/working/recorder.hpp"

namespace fulmox {

/// What the magnets are made of, and how hot they get: two fields of a motor's form.
FieldSpec magnet_field();
FieldSpec magnet_temperature_field();

/// What hot magnets leave of a motor's constants, in (0, 1]: 1 where the form does not tell its magnets.
/// Blank temperature: a share of the winding's rise (usual_magnet_temperature). Recorded as
/// "motor.magnet_factor".
Term read_magnets(const Section& sheet, const Term& winding_limit, const Term& catalogue_ambient,
                  Recorder& recorder);

} // namespace fulmox
