#pragma once
#include "core/evaluation/evaluation.hpp"

#include <QTextBrowser>
#include <QTimer>
#include <QToolButton>
#include <QWidget>

namespace fulmox::app {

class Session;

/// How a result came about: formula in symbols, in numbers, source, and each input with a way back to it.
class WorkingPanel : public QWidget {
  Q_OBJECT

public:
  explicit WorkingPanel(Session& session, QWidget* parent = nullptr);
  /// Shows the chain behind a result; remembers the one shown before.
  void show_result(const QString& id);
  [[nodiscard]] QString shown() const { return trail_.isEmpty() ? QString() : trail_.last(); }
  [[nodiscard]] QString text() const { return browser_->toPlainText(); }

signals:
  void closed();

private:
  /// Id of the step on top; "" where it is not part of the axis any more.
  [[nodiscard]] std::string_view shown_step(const Evaluation& e) const;
  void refresh();
  void show_chain(std::size_t most);
  void follow(const QUrl& link);

  Session& session_;
  QStringList trail_;
  QToolButton* back_;
  QTextBrowser* browser_;
  QTimer follow_up_; ///< the head of the chain follows an edit one turn later
  QTimer settle_;    ///< the rest of it when typing pauses
};

} // namespace fulmox::app
