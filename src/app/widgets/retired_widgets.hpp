#pragma once
#include <QWidget>

namespace fulmox::app {

/// Keeps widgets that have left the window alive until the event loop may delete them: the button whose
/// click led to its own removal must outlive that click, yet must not be found in the window any more.
class RetiredWidgets {
public:
  void retire(QWidget* widget) {
    widget->hide();
    widget->setParent(&holder_);
    widget->deleteLater();
  }

private:
  QWidget holder_;
};

} // namespace fulmox::app
