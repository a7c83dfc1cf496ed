#pragma once
#include "core/form/section_json.hpp"

namespace fulmox {

/// Turns the content of a file of an older version, 1 or above, into that of the present one, step by step.
/// Values keep the text that was typed. What a step cannot make sense of it leaves as it is: the reader then
/// says what is wrong.
void migrate(Json& root, int from);

} // namespace fulmox
