#pragma once
#include "core/match/group_floor.hpp"

#include <cstddef>
#include <iterator>
#include <map>
#include <memory>
#include <optional>
#include <span>
#include <tuple>
#include <vector>

namespace fulmox {

class Settler;

/// Drives that may stand for one another, in the order of a group.
struct GroupDrives {
  std::vector<std::uint32_t> places; ///< in the list of drives
  std::vector<std::shared_ptr<const Drive>> drives;
};

/// The first drives of a group on a motor and train with which all of them fit.
struct FitBlock {
  Combination parts; ///< whatever its drive
  std::uint32_t group = 0, number = 0;
  GroupFloor floor;
};

/// All that fits, each by a place of its own. There may be millions: drives that fit together stand as one
/// until one of them is asked for.
class Fits {
public:
  using Groups = std::shared_ptr<const std::vector<GroupDrives>>;

  Fits() = default;
  /// Each by itself, in the order of their parts.
  Fits(std::vector<Trial> trials);
  explicit Fits(Groups groups) : groups_(std::move(groups)) {}

  /// What fits of the next pair of motor and train: by rising motor, then coupling, brake and head.
  template <class Trials> void add(const Trials& trials, std::span<const FitBlock> blocks) {
    Stretch stretch{size_, trials_.size(), blocks_.size()};
    trials_.insert(trials_.end(), trials.begin(), trials.end());
    size_ += trials_.size() - stretch.trials;
    for (const FitBlock& block : blocks) {
      blocks_.push_back(block);
      size_ += block.number;
    }
    if (size_ > stretch.first) stretches_.push_back(stretch);
  }
  void reserve(std::size_t pairs, std::size_t trials, std::size_t blocks);

  [[nodiscard]] std::size_t size() const { return size_; }
  [[nodiscard]] bool empty() const { return size_ == 0; }
  /// What is known of one.
  [[nodiscard]] Trial operator[](std::size_t place) const;
  [[nodiscard]] Combination parts(std::size_t place) const;
  [[nodiscard]] Trial front() const { return (*this)[0]; }
  [[nodiscard]] Trial back() const { return (*this)[size_ - 1]; }
  /// Nothing where it does not fit.
  [[nodiscard]] std::optional<std::size_t> place_of(const Combination& parts) const;
  /// Works one out, where it is not.
  Trial settle(std::size_t place, Settler& settle);
  /// All of them in the order of their parts.
  [[nodiscard]] std::vector<Trial> each_by_itself() const;

  /// Some of the drives of a block.
  class Part {
  public:
    Part(const Fits& fits, const FitBlock& block, std::size_t first, std::uint32_t from, std::uint32_t to)
        : fits_(fits), block_(block), drives_((*fits.groups_)[block.group]), first_(first), from_(from),
          to_(to) {}
    [[nodiscard]] const FitBlock& block() const { return block_; }
    [[nodiscard]] std::uint32_t from() const { return from_; } ///< in the order of its group
    [[nodiscard]] std::uint32_t to() const { return to_; }
    [[nodiscard]] std::size_t place(std::uint32_t drive) const { return first_ + drive; }
    [[nodiscard]] Combination parts(std::uint32_t drive) const {
      Combination all = block_.parts;
      all.drive = drives_.places[drive];
      return all;
    }
    [[nodiscard]] Trial trial(std::uint32_t drive) const {
      if (const Trial* known = fits_.known(place(drive))) return *known;
      return block_.floor.trial(parts(drive), *drives_.drives[drive]);
    }

  private:
    const Fits& fits_;
    const FitBlock& block_;
    const GroupDrives& drives_;
    std::size_t first_;
    std::uint32_t from_, to_;
  };
  /// Calls `of_trial(place, trial)` and `of_block(part)` for all places from one up to another, in their
  /// order.
  template <class OfTrial, class OfBlock>
  void each(std::size_t from, std::size_t to, const OfTrial& of_trial, const OfBlock& of_block) const {
    for (std::size_t s = stretch_of(from); s < stretches_.size() && stretches_[s].first < to; ++s) {
      std::size_t place = stretches_[s].first;
      for (std::size_t i = stretches_[s].trials; i < trials_end(s); ++i, ++place)
        if (place >= from && place < to) of_trial(place, trials_[i]);
      for (std::size_t b = stretches_[s].blocks; b < blocks_end(s); ++b) {
        const std::size_t end = place + blocks_[b].number;
        if (end > from && place < to)
          of_block(Part(*this, blocks_[b], place, static_cast<std::uint32_t>(std::max(from, place) - place),
                        static_cast<std::uint32_t>(std::min(to, end) - place)));
        place = end;
      }
    }
  }
  [[nodiscard]] const std::vector<GroupDrives>& groups() const;

  /// Of all in turn, by value.
  class Iterator {
  public:
    using iterator_category = std::input_iterator_tag;
    using value_type = Trial;
    using difference_type = std::ptrdiff_t;
    using pointer = const Trial*;
    using reference = Trial;
    Iterator(const Fits& fits, std::size_t place) : fits_(&fits), place_(place) {}
    Trial operator*() const { return (*fits_)[place_]; }
    Iterator& operator++() { return ++place_, *this; }
    Iterator operator++(int) { return {*fits_, place_++}; }
    bool operator==(const Iterator& other) const { return place_ == other.place_; }

  private:
    const Fits* fits_;
    std::size_t place_;
  };
  [[nodiscard]] Iterator begin() const { return {*this, 0}; }
  [[nodiscard]] Iterator end() const { return {*this, size_}; }

private:
  /// What fits of a pair: where its trials and blocks begin. They end where those of the next one begin.
  struct Stretch {
    std::size_t first, trials, blocks;
  };
  [[nodiscard]] std::size_t trials_end(std::size_t stretch) const {
    return stretch + 1 < stretches_.size() ? stretches_[stretch + 1].trials : trials_.size();
  }
  [[nodiscard]] std::size_t blocks_end(std::size_t stretch) const {
    return stretch + 1 < stretches_.size() ? stretches_[stretch + 1].blocks : blocks_.size();
  }
  /// The one that a place lies in.
  [[nodiscard]] std::size_t stretch_of(std::size_t place) const;
  [[nodiscard]] const Combination& any_of(const Stretch& stretch) const;
  /// One of a block that is settled; else null.
  [[nodiscard]] const Trial* known(std::size_t place) const {
    if (settled_.empty()) return nullptr;
    const auto found = settled_.find(place);
    return found == settled_.end() ? nullptr : &found->second;
  }

  Groups groups_;
  std::vector<Trial> trials_;
  std::vector<FitBlock> blocks_;
  std::vector<Stretch> stretches_;
  std::size_t size_ = 0;
  std::map<std::size_t, Trial> settled_; ///< of blocks, by place
};

} // namespace fulmox
