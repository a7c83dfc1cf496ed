#pragma once
#include "core/form/section.hpp"
#include "core/support/expected.hpp"

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// The direction of the file's axes about which the load turns.
enum class RotationAxis : std::uint8_t { x, y, z };

/// Reads pieces from a CSV file such as a drawing program writes: columns part, mass, x, y, z (centre) and
/// the inertias Ixx, Iyy, Izz about that centre, each with its unit in the header ("mass [kg]"). Of the
/// inertias only the one about the axis of rotation is needed; a centre left out lies on it. Refuses with
/// line and column.
Expected<std::vector<Section>> pieces_from_csv(std::string_view text, RotationAxis about = RotationAxis::z);

/// What of such a file did not count, in words: columns that nothing reads, a centre that is not told.
/// Nothing where the file is refused.
std::vector<std::string> remarks_on_pieces(std::string_view text, RotationAxis about = RotationAxis::z);

} // namespace fulmox
