#pragma once
#include "core/support/expected.hpp"

#include <optional>
#include <string_view>

namespace fulmox {

/// What a JSON text is refused for, told by a look at its brackets and names.
struct JsonShape {
  /// What no machine comes near, so that it must not be parsed: deep nesting would exhaust the stack when the
  /// parsed value goes, many members or forms the time and the memory.
  std::optional<Problem> too_much;
  /// A member that stands twice in one object, of which only one could count. Means something only where the
  /// text is valid.
  std::optional<Problem> doubled;
};
JsonShape shape_of(std::string_view text);

} // namespace fulmox
