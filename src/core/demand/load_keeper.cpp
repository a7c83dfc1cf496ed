#include "core/demand/load_keeper.hpp"

#include <algorithm>
#include <array>

namespace fulmox {
namespace {

/// Sharing all entries: values put in without typing count, which comparing texts would not see.
bool shared(const Section& a, const Section& b) {
  return &a.spec() == &b.spec() && a.content() == b.content();
}
bool shared(const std::vector<Section>& a, const std::vector<Section>& b) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                    [](const Section& x, const Section& y) { return shared(x, y); });
}

} // namespace

/// What the load's side is made from, and nothing else.
bool LoadKeeper::same_load(const Axis& axis) const {
  if (!last_ || load_ == nullptr) return false;
  constexpr std::array<std::string_view, 4> slots{"load", "mechanism", "coupling", "requirements"};
  return std::all_of(slots.begin(), slots.end(),
                     [&](std::string_view slot) { return shared(axis[slot], (*last_)[slot]); }) &&
         shared(axis.cycle, last_->cycle) && shared(axis.stages, last_->stages) &&
         shared(axis.pieces, last_->pieces);
}

Expected<std::shared_ptr<const LoadSide>> LoadKeeper::operator()(const Axis& axis) {
  if (same_load(axis)) {
    if (const auto wrong = faults(axis); !wrong.empty()) return wrong.front();
    return load_;
  }
  load_ = nullptr;
  last_ = axis;
  Recorder silent(false);
  auto load = LoadSide::build(axis, silent);
  if (load) load_ = *load;
  return load;
}

} // namespace fulmox
