#pragma once
#include "core/form/slot.hpp"
#include "core/support/registry.hpp"

namespace fulmox {

/// The kinds of a part (`Kind::slot` is what its slot takes), the usual one first.
template <class Kind> class PartKinds : public Registry<Kind> {
public:
  explicit PartKinds(std::vector<const Kind*> ours)
      : Registry<Kind>([](const Kind& kind) { return kind.slot.form->id; }, std::move(ours)) {}

  /// The kind whose form the section is; the usual one when it is none of them.
  [[nodiscard]] const Kind& of(const Section& section) const {
    for (const Kind* kind : this->all())
      if (kind->slot.form == &section.spec()) return *kind;
    return *this->all().front();
  }

  [[nodiscard]] std::vector<SlotKind> for_slot() const {
    std::vector<SlotKind> kinds;
    for (const Kind* kind : this->all()) kinds.push_back(kind->slot);
    return kinds;
  }
};

} // namespace fulmox
