#pragma once
#include "core/stage/stage.hpp"

namespace fulmox {

// One function per file of this folder; stage.cpp lists them.
const StageSpec& gear_pair_stage();
const StageSpec& belt_stage();
const StageSpec& bevel_stage();
const StageSpec& planetary_stage();
const StageSpec& worm_stage();
const StageSpec& coupling_stage();

/// Teeth of a driving and a driven wheel.
std::vector<FieldSpec> teeth_fields(std::string_view driving, std::string_view driven);
Expected<Stage> stage_by_teeth(const Section& section, Recorder& recorder);

} // namespace fulmox
