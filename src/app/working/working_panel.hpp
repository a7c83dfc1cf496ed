#pragma once
#include <QTextBrowser>
#include <QTimer>
#include <QToolButton>
#include <QWidget>

#include <memory>
#include <string_view>

namespace fulmox::app {

class Session;
class WorkingSource;

/// How a result came about: formula in symbols, in numbers, source, and each input with a way back to it.
class WorkingPanel : public QWidget {
  Q_OBJECT

public:
  WorkingPanel(Session& session, std::unique_ptr<WorkingSource> source, const QString& name,
               QWidget* parent = nullptr);
  ~WorkingPanel() override;
  /// Shows the chain behind a result; remembers the one shown before.
  void show_result(const QString& id);
  /// Nothing to go back to any more: the source reads from elsewhere.
  void forget();
  /// The same result again, from what it is now.
  void refresh();
  [[nodiscard]] QString shown() const { return trail_.isEmpty() ? QString() : trail_.last(); }
  [[nodiscard]] QString text() const { return browser_->toPlainText(); }

signals:
  void closed();

private:
  /// Id of the step on top; "" where it is not there any more.
  [[nodiscard]] std::string_view shown_step() const;
  void show_chain(std::size_t most);
  [[nodiscard]] std::size_t count_in_sight() const;
  void follow(const QUrl& link);

  Session& session_;
  std::unique_ptr<WorkingSource> source_;
  QStringList trail_;
  QToolButton* back_;
  QTextBrowser* browser_;
  /// So many steps began on the screen when all were laid out last, at that height.
  std::size_t in_sight_ = 0;
  int seen_height_ = 0; ///< px
  QTimer follow_up_;    ///< the head of the chain follows an edit one turn later
  QTimer settle_;       ///< the rest of it when typing pauses
};

} // namespace fulmox::app
