#pragma once
#include "app/match/match_answer.hpp"
#include "core/match/rejected_parts.hpp"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QTableWidget>

#include <map>

namespace fulmox::app {

class Session;

/// What does not fit: the limits that rule combinations out, and every part that is in nothing that fits,
/// each with the combination of it that comes nearest, worked out beside the window. Of many parts the first
/// are listed.
class MatchRuledOut : public QWidget {
  Q_OBJECT

public:
  explicit MatchRuledOut(Session& session, QWidget* parent = nullptr);

  /// An answer that is `old` belongs to another axis than the one that is typed: nothing more is worked out.
  void show(std::shared_ptr<const MatchAnswer> answer, bool old);

protected:
  void hideEvent(QHideEvent* event) override;

private:
  void show_limits();
  void offer_slots();
  void list_parts();
  void nearest_first();
  void fill(int row);
  void work_out();
  void tell();
  [[nodiscard]] std::optional<PartPlace> marked() const;

  Session& session_;
  QTableWidget *limits_, *parts_;
  QComboBox* slots_;
  QLineEdit* search_;
  QLabel *count_, *told_;
  std::shared_ptr<const MatchAnswer> answer_;
  bool old_ = false;
  std::map<PartPlace, PartOutlook> known_; ///< of this answer
  std::vector<PartPlace> rows_;
  std::size_t all_ = 0, called_so_ = 0; ///< how many of the slot fit nowhere, and of these are looked for
};

} // namespace fulmox::app
