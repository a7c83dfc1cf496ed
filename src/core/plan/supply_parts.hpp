#pragma once
#include "core/form/slot.hpp"

namespace fulmox {

/// Supplies of a bus as a library holds them: regulated ones and transformers. Their fields are those of the
/// bus's own form, so that choosing one fills it in.
const SlotSpec& bus_supply_slot();

/// The bus's form with this part as its supply; what is no part of a supply stays as it is.
Section with_supply_part(const Section& bus, const Section& part);

/// A bus's form of another kind that keeps what is no part of the supply: name, capacitors, chopper, cable.
Section with_supply_form(const Section& bus, const SectionSpec& form);

} // namespace fulmox
