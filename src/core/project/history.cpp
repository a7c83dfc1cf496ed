#include "core/project/history.hpp"

#include "core/project/footprint.hpp"

namespace fulmox {

namespace {
constexpr std::size_t longest = 500; // steps kept
} // namespace

History::History(Document document, std::size_t most_bytes) : saved_(document), most_bytes_(most_bytes) {
  states_.push_back({std::move(document), "", ""});
}

void History::change(Document next, std::string name, std::string merge_key) {
  if (next == now()) return;
  const bool merges =
      !merge_key.empty() && position_ > 0 && !can_redo() && states_[position_].merge_key == merge_key;
  if (merges) {
    states_[position_].document = std::move(next);
    states_[position_].name = std::move(name);
    states_[position_].bytes = own_size(states_[position_].document, states_[position_ - 1].document);
    // typing back to where the step began leaves no step behind
    if (states_[position_].document == states_[position_ - 1].document) {
      states_.pop_back();
      --position_;
    }
    return;
  }
  states_.erase(states_.begin() + static_cast<std::ptrdiff_t>(position_) + 1, states_.end());
  const std::size_t bytes = own_size(next, now());
  states_.push_back({std::move(next), std::move(name), std::move(merge_key), bytes});
  position_ = states_.size() - 1;
  forget_oldest();
}

void History::forget_oldest() {
  std::size_t bytes = 0;
  for (const State& state : states_) bytes += state.bytes;
  while (states_.size() > longest || (bytes > most_bytes_ && position_ > 1)) {
    bytes -= states_.front().bytes + states_[1].bytes;
    states_.erase(states_.begin());
    --position_;
    // what it shared with the one before is now its own
    states_.front().bytes = own_size(states_.front().document, Document());
    bytes += states_.front().bytes;
  }
}

void History::seal() { states_[position_].merge_key.clear(); }

bool History::undo() {
  if (!can_undo()) return false;
  seal();
  --position_;
  return true;
}

bool History::redo() {
  if (!can_redo()) return false;
  ++position_;
  return true;
}

void History::reset(Document document) {
  saved_ = document;
  states_.clear();
  states_.push_back({std::move(document), "", ""});
  position_ = 0;
}

void History::mark_saved() {
  saved_ = now();
  seal();
}

} // namespace fulmox
