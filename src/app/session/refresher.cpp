#include "app/session/refresher.hpp"

#include "app/session/session.hpp"

#include <QEvent>
#include <QWidget>

#include <utility>

namespace fulmox::app {

Refresher::Refresher(Session& session, QWidget* widget, Changes wanted, std::function<void(Changes)> refresh)
    : QObject(widget), widget_(widget), wanted_(wanted), refresh_(std::move(refresh)) {
  widget->installEventFilter(this);
  connect(&session, &Session::changed, this, &Refresher::take);
  if (wanted.testFlag(Change::cursor))
    connect(&session, &Session::cursor_moved, this, [this] { take(Change::cursor); });
  refresh_(wanted);
}

void Refresher::take(Changes what) {
  missed_ |= what & wanted_;
  if (missed_ && widget_->isVisible()) catch_up();
}

void Refresher::catch_up() {
  if (missed_) refresh_(std::exchange(missed_, {}));
}

bool Refresher::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() == QEvent::Show) catch_up();
  return QObject::eventFilter(watched, event);
}

} // namespace fulmox::app
