#include "core/form/meaning.hpp"

#include <algorithm>
#include <array>

namespace fulmox {

std::span<const Meaning> meanings() {
  static constexpr std::array list{Meaning{"motor", "kt", "kt_per"}, Meaning{"motor", "ke", "ke_as"},
                                   Meaning{"motor", "resistance", "winding_as"},
                                   Meaning{"motor", "rated_current", "rated_for"},
                                   Meaning{"drive", "current_setting", "current_as"}};
  return list;
}

bool leaves_open(const Section& part, const Meaning& meaning) {
  if (!part.has(meaning.number) || !part.has(meaning.choice)) return false;
  if (meaning.choice == "rated_for" && part.text("leads") == "4") return false; // only one way to connect it
  return !part.blank(meaning.number) && part.blank(meaning.choice);
}

bool leaves_open(const Section& part) {
  return std::any_of(meanings().begin(), meanings().end(), [&](const Meaning& meaning) {
    return meaning.slot == part.path && leaves_open(part, meaning);
  });
}

} // namespace fulmox
