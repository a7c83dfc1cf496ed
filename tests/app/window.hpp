#pragma once
#include "app/main_window.hpp"
#include "app/ribbon/ribbon.hpp"
#include "app/session/session.hpp"
#include "app/sheet/axis_view.hpp"
#include "app/sheet/numbers.hpp"
#include "app/working/working_panel.hpp"
#include "support/axes.hpp"

#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QTest>
#include <QToolButton>

#include <catch2/catch.hpp>

namespace Catch {
template <> struct StringMaker<QString> {
  static std::string convert(const QString& text) { return '"' + text.toStdString() + '"'; }
};
} // namespace Catch

namespace fulmox::testing {

/// The real window, offscreen, driven like a user would.
class Window {
public:
  explicit Window(bool with_demo = true);
  ~Window();

  /// The editor of a field in the givens, unfolded if needed ("load.moved_mass").
  QLineEdit* field(const QString& path);
  /// Clicks into a field, replaces its text by typing and leaves the cursor there.
  void type(const QString& path, const QString& text);
  /// The number of a result as shown, with its unit.
  QString number(const QString& label);
  /// A rung as shown: "clear, 53 %, Inertia ratio"; empty when absent.
  QString rung(const QString& label);
  QString stale_note();
  template <class T> T* child(const QString& name) { return window.findChild<T*>(name); }
  /// Opens a dialog with `open` and lets `drive` act on it while it runs.
  template <class Dialog>
  void in_dialog(const std::function<void()>& open, const std::function<void(Dialog&)>& drive);
  /// Lets everything be painted, and waits for what is worked out beside the window.
  void settle();

  app::Session session;
  app::MainWindow window;
};

template <class Dialog>
void Window::in_dialog(const std::function<void()>& open, const std::function<void(Dialog&)>& drive) {
  bool driven = false;
  QTimer::singleShot(0, &window, [&] {
    for (QWidget* top : QApplication::topLevelWidgets())
      if (auto* dialog = qobject_cast<Dialog*>(top); dialog != nullptr && dialog->isVisible()) {
        drive(*dialog);
        driven = true;
        if (dialog->isVisible()) dialog->close();
        return;
      }
  });
  open();
  CHECK(driven);
}

} // namespace fulmox::testing
