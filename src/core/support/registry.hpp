#pragma once
#include <span>
#include <string_view>
#include <vector>

namespace fulmox {

/// Everything that comes in kinds: ours first, then what was registered. What is there stays, in its order.
template <class Kind> class Registry {
public:
  using Key = std::string_view (*)(const Kind&);

  Registry(Key key, std::vector<const Kind*> ours) : key_(key), all_(std::move(ours)) {}

  [[nodiscard]] std::span<const Kind* const> all() const { return all_; }

  [[nodiscard]] const Kind* find(std::string_view id) const {
    for (const Kind* kind : all_)
      if (key_(*kind) == id) return kind;
    return nullptr;
  }

  /// Adds one that must outlive the program; one of the same name is left as it is.
  void add(const Kind& kind) {
    if (find(key_(kind)) == nullptr) all_.push_back(&kind);
  }

private:
  Key key_;
  std::vector<const Kind*> all_;
};

} // namespace fulmox
