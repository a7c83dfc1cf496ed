#include "core/match/fits.hpp"

#include "core/match/settler.hpp"

#include <algorithm>

namespace fulmox {
namespace {

/// Pairs stand in this order.
auto pair_of(const Combination& parts) {
  return std::tuple(parts.motor, parts.coupling, parts.brake, parts.head);
}

bool sooner(const Trial& a, const Trial& b) { return a.parts < b.parts; }

} // namespace

Fits::Fits(std::vector<Trial> trials) : trials_(std::move(trials)), size_(trials_.size()) {
  for (std::size_t i = 0; i < trials_.size(); ++i)
    if (i == 0 || trials_[i].parts.motor != trials_[i - 1].parts.motor) stretches_.push_back({i, i, 0});
}

void Fits::reserve(std::size_t pairs, std::size_t trials, std::size_t blocks) {
  stretches_.reserve(pairs);
  trials_.reserve(trials);
  blocks_.reserve(blocks);
}

const std::vector<GroupDrives>& Fits::groups() const {
  static const std::vector<GroupDrives> none;
  return groups_ != nullptr ? *groups_ : none;
}

std::size_t Fits::stretch_of(std::size_t place) const {
  const auto after =
      std::upper_bound(stretches_.begin(), stretches_.end(), place,
                       [](std::size_t at, const Stretch& stretch) { return at < stretch.first; });
  return after == stretches_.begin() ? 0 : static_cast<std::size_t>(after - stretches_.begin()) - 1;
}

const Combination& Fits::any_of(const Stretch& stretch) const {
  const auto index = static_cast<std::size_t>(&stretch - stretches_.data());
  return stretch.trials < trials_end(index) ? trials_[stretch.trials].parts : blocks_[stretch.blocks].parts;
}

Trial Fits::operator[](std::size_t place) const {
  Trial out;
  each(
      place, place + 1, [&](std::size_t, const Trial& trial) { out = trial; },
      [&](const Part& part) { out = part.trial(part.from()); });
  return out;
}

Combination Fits::parts(std::size_t place) const {
  Combination out;
  each(
      place, place + 1, [&](std::size_t, const Trial& trial) { out = trial.parts; },
      [&](const Part& part) { out = part.parts(part.from()); });
  return out;
}

std::optional<std::size_t> Fits::place_of(const Combination& parts) const {
  if (groups_ == nullptr) { // each by itself, in order
    const auto at =
        std::lower_bound(trials_.begin(), trials_.end(), parts,
                         [](const Trial& trial, const Combination& of) { return trial.parts < of; });
    if (at == trials_.end() || !(at->parts == parts)) return std::nullopt;
    return static_cast<std::size_t>(at - trials_.begin());
  }
  const auto stretch = std::lower_bound(
      stretches_.begin(), stretches_.end(), parts,
      [&](const Stretch& one, const Combination& sought) { return pair_of(any_of(one)) < pair_of(sought); });
  if (stretch == stretches_.end()) return std::nullopt;
  const auto next = std::next(stretch);
  std::optional<std::size_t> found;
  each(
      stretch->first, next == stretches_.end() ? size_ : next->first,
      [&](std::size_t place, const Trial& trial) {
        if (trial.parts == parts) found = place;
      },
      [&](const Part& part) {
        for (std::uint32_t drive = part.from(); drive < part.to(); ++drive)
          if (part.parts(drive) == parts) found = part.place(drive);
      });
  return found;
}

Trial Fits::settle(std::size_t place, Settler& settle) {
  const std::size_t index = stretch_of(place),
                    at = stretches_[index].trials + (place - stretches_[index].first);
  if (at < trials_end(index)) {
    settle(trials_[at]);
    return trials_[at];
  }
  Trial trial = (*this)[place];
  if (trial.settled) return trial;
  settle(trial);
  if (trial.settled) settled_.insert_or_assign(place, trial);
  return trial;
}

std::vector<Trial> Fits::each_by_itself() const {
  std::vector<Trial> all;
  all.reserve(size_);
  each(
      0, size_, [&](std::size_t, const Trial& trial) { all.push_back(trial); },
      [&](const Part& part) {
        for (std::uint32_t drive = part.from(); drive < part.to(); ++drive) all.push_back(part.trial(drive));
      });
  std::sort(all.begin(), all.end(), sooner);
  return all;
}

} // namespace fulmox
