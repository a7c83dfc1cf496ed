#pragma once
#include "core/quantity/kind.hpp"
#include "core/working/recorder.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// The steps behind a result, the result first, then what it rests on, each once, down to inputs.
std::vector<const Step*> chain_of(const std::vector<Step>& steps, std::string_view result_id);

/// "J = (π/32)·ρ·L·d⁴"
std::string in_symbols(const Formula& formula);

/// "(π/32)·7850 kg/m³·400 mm·(16 mm)⁴"
std::string in_numbers(const Step& step, UnitSet set);

/// What a term is, in words: its parameter's meaning, or in a sum the title of the step it came from.
std::string_view meaning_of(const Step& step, std::size_t term, const std::vector<Step>& steps);

/// In which kind a term is shown.
Kind kind_of(const Step& step, std::size_t term);

/// The parameter a term stands for; lists repeat their last one.
const Parameter& parameter_of(const Formula& formula, std::size_t term);

} // namespace fulmox
