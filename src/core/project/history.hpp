#pragma once
#include "core/project/document.hpp"

#include <optional>
#include <string>
#include <vector>

namespace fulmox {

/// The one door through which a document changes. Keeps the last 500 states with the name of the change that
/// made each, fewer where they would take more than `most_bytes` together.
class History {
public:
  explicit History(Document document, std::size_t most_bytes = 100'000'000);

  [[nodiscard]] const Document& now() const { return states_[position_].document; }

  /// Makes `next` the present state. A change that carries the same non-empty `merge_key` as the one before,
  /// with nothing undone since, continues that step: typing "12" is one step, not two. An unchanged document
  /// adds nothing.
  void change(Document next, std::string name, std::string merge_key = "");
  /// The next change starts a new step even with the same key (the field was left).
  void seal();

  bool undo();
  bool redo();
  [[nodiscard]] bool can_undo() const { return position_ > 0; }
  [[nodiscard]] bool can_redo() const { return position_ + 1 < states_.size(); }
  [[nodiscard]] const std::string& undo_name() const { return states_[position_].name; }
  [[nodiscard]] const std::string& redo_name() const { return states_[position_ + 1].name; }

  /// Starts over with another document.
  void reset(Document document);
  void mark_saved();
  /// No state is a saved one: the file is damaged or gone.
  void mark_unsaved() { saved_.reset(); }
  [[nodiscard]] bool saved() const { return saved_ == now(); }

private:
  struct State {
    Document document;
    std::string name;
    std::string merge_key;
    std::size_t bytes = 0; ///< beyond what it shares with the state before it
  };
  void forget_oldest();

  std::vector<State> states_;
  std::size_t position_ = 0;
  std::optional<Document> saved_;
  std::size_t most_bytes_;
};

} // namespace fulmox
