#pragma once
#include "core/limits/limit.hpp"

#include <QLabel>
#include <QListWidget>
#include <QWidget>

#include <array>
#include <span>

namespace fulmox::app {

class QuietItems;
class Session;

/// Every limit as a rung, worst at the top: what is over or tight, as typed or at a corner of the typed
/// spreads, in full, the others in dense groups that fold; and the second look below.
class LadderPanel : public QWidget {
  Q_OBJECT

public:
  explicit LadderPanel(Session& session, QWidget* parent = nullptr);

protected:
  void showEvent(QShowEvent* event) override;

private:
  void refresh();
  void show_rungs(std::span<const Limit> limits);
  void show_bus();
  void show_warnings();
  void show_heading(QuietItems& items, int row, LimitState group, std::size_t count);
  void show_limit(QuietItems& items, int row, std::size_t index);
  void become(QuietItems& items, int row, bool heading, LimitState state, const QString& corner);
  [[nodiscard]] LimitState shown_state(const Limit& limit) const;
  void hide(QuietItems& items, int row, bool hidden);
  void choose(const QListWidgetItem* item);
  [[nodiscard]] bool& folded(LimitState group) { return folded_[static_cast<std::size_t>(group)]; }
  /// Tips are only worded when somebody asks for one.
  bool eventFilter(QObject* watched, QEvent* event) override;

  Session& session_;
  QLabel *state_, *hint_, *shared_;
  QListWidget* rungs_;
  QLabel* second_title_;
  QListWidget* second_;
  std::array<bool, 4> folded_{}; ///< by LimitState
};

} // namespace fulmox::app
