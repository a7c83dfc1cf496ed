#include "core/project/follow_segments.hpp"

#include "core/project/names.hpp"

#include <algorithm>

namespace fulmox {
namespace {

using Segments = std::vector<Section>;

/// Untouched by an edit: copies share what they hold.
bool untouched(const Section& before, const Section& now) { return before.content() == now.content(); }

/// Where each segment has gone.
class Moved {
public:
  Moved(const Segments& before, const Segments& now) : before_(before), now_(now) {
    const std::size_t shorter = std::min(before.size(), now.size());
    while (head_ < shorter && untouched(before[head_], now[head_])) ++head_;
    while (tail_ < shorter - head_ && untouched(before.rbegin()[static_cast<std::ptrdiff_t>(tail_)],
                                                now.rbegin()[static_cast<std::ptrdiff_t>(tail_)]))
      ++tail_;
  }

  [[nodiscard]] std::size_t operator()(std::size_t index) const {
    if (index < head_) return index;
    if (const std::size_t there = place_of(index); there != nowhere) return there;
    if (before_.size() == now_.size()) return index; // changed where it stands
    // the last of what stands in its place, or what ends where it began
    for (std::size_t next = index + 1; next < before_.size(); ++next)
      if (const std::size_t there = place_of(next); there != nowhere) return there > 0 ? there - 1 : 0;
    return now_.size() - 1;
  }

private:
  static constexpr std::size_t nowhere = static_cast<std::size_t>(-1);

  /// Of one that was not touched.
  [[nodiscard]] std::size_t place_of(std::size_t index) const {
    if (index >= before_.size() - tail_) return index + now_.size() - before_.size();
    for (std::size_t i = head_; i < now_.size() - tail_; ++i)
      if (untouched(before_[index], now_[i])) return i;
    return nowhere;
  }

  const Segments& before_;
  const Segments& now_;
  std::size_t head_ = 0, tail_ = 0; ///< how many at the beginning and at the end stand as they stood
};

const Axis* axis_called(const Document& document, const std::string& name) {
  for (const Axis& axis : document.axes)
    if (axis.name == name) return &axis;
  return nullptr;
}

/// The axis whose block is called so: a listed one, or the one that goes without saying.
const std::string& axis_of_block(const std::vector<Section>& blocks, const std::string& name) {
  for (const Section& block : blocks)
    if (block_name(block) == name) return block.text("axis");
  return name;
}

} // namespace

void follow_segments(const Document& before, Document& now) {
  std::vector<Section>& blocks = now.lists.find("blocks")->second;
  const auto follow = [&](Section& block, std::string_view after, std::string_view segment) {
    if (block.blank(after) || block.blank(segment) || block.entry(segment).faulty()) return;
    const std::string& name = axis_of_block(blocks, block.text(after));
    const Axis* old = axis_called(before, name);
    const Axis* present = axis_called(now, name);
    if (old == nullptr || present == nullptr || old->cycle.empty() || present->cycle.empty()) return;
    const auto number = static_cast<std::size_t>(block.term(segment));
    if (number > old->cycle.size()) return; // there was none
    const std::size_t place = Moved(old->cycle, present->cycle)(number - 1);
    if (place + 1 != number) block.type(segment, std::to_string(place + 1));
  };
  for (Section& block : blocks) {
    follow(block, "after", "after_segment");
    follow(block, "also_after", "also_segment");
  }
}

} // namespace fulmox
