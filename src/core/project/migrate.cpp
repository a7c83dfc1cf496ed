#include "core/project/migrate.hpp"

#include "core/project/document.hpp"

#include <array>

namespace fulmox {
namespace {

/// Version 2 lets every slot name its kind ("motor": {"kind": …}). In version 1 only the mechanism had kinds;
/// a member "kind" anywhere else was one that nobody knew, and must not be taken for one now.
void forget_unknown_kinds(Json& root) {
  const auto axes = root.find("axes");
  if (axes == root.end() || !axes->is_array()) return;
  for (Json& axis : *axes)
    for (const SlotSpec* slot : axis_slots()) {
      if (slot->chosen_by == ChosenBy::list || !axis.is_object()) continue;
      const auto section = axis.find(std::string(slot->id));
      if (section != axis.end() && section->is_object()) section->erase("kind");
    }
}

/// Element i leads from version i + 1 to i + 2.
constexpr std::array steps{&forget_unknown_kinds};
static_assert(steps.size() + 1 == document_version);

} // namespace

void migrate(Json& root, int from) {
  for (std::size_t step = static_cast<std::size_t>(from) - 1; step < steps.size(); ++step) steps[step](root);
}

} // namespace fulmox
