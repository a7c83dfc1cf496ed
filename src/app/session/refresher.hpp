#pragma once
#include "app/session/change.hpp"

#include <QObject>

#include <functional>

class QWidget;

namespace fulmox::app {

class Session;

/// Keeps a widget up to date: calls back with what changed of that it wants to know, at once while the widget
/// is seen, else when it is shown again, then with all of it.
class Refresher : public QObject {
  Q_OBJECT

public:
  /// Belongs to the widget, and calls back once at the start.
  Refresher(Session& session, QWidget* widget, Changes wanted, std::function<void(Changes)> refresh);

  /// Brings a widget up to date although it is not seen: for what is asked of it then.
  void catch_up();

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  void take(Changes what);

  QWidget* widget_;
  Changes wanted_;
  std::function<void(Changes)> refresh_;
  Changes missed_;
};

} // namespace fulmox::app
