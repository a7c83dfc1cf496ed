#pragma once
#include "core/project/section.hpp"
#include "core/support/expected.hpp"

#include <string_view>
#include <vector>

namespace fulmox {

/// Reads pieces from a CSV file such as a drawing program writes: columns part, mass, x, y, z (centre) and
/// the principal inertias Ixx, Iyy, Izz about that centre, each with its unit in the header ("mass [kg]"); x,
/// y, z may be left out. The axis of rotation is z. Refuses with line and column.
Expected<std::vector<Section>> pieces_from_csv(std::string_view text);

} // namespace fulmox
