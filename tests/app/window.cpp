#include "window.hpp"

#include "app/givens/givens_panel.hpp"
#include "app/session/corner_watch.hpp"

#include <QCoreApplication>
#include <QSettings>

namespace fulmox::testing {

Window::Window(bool with_demo) : window((session.load_data(), session)) {
  QSettings().clear();
  session.start_empty();
  session.drop_autosave();
  window.show();
  if (with_demo) window.open_demo();
  settle();
}

Window::~Window() { session.drop_autosave(); }

void Window::settle() {
  for (int i = 0; i < 3; ++i) {
    QCoreApplication::processEvents();
    session.corner_watch().look();
    session.jobs().wait();
  }
}

QLineEdit* Window::field(const QString& path) {
  auto* givens = child<app::GivensPanel>("givens");
  givens->go_to(path);
  settle();
  const QString name = path.mid(path.lastIndexOf('.') + 1);
  auto* focused = qobject_cast<QLineEdit*>(window.focusWidget());
  REQUIRE(focused != nullptr);
  CHECK(focused->objectName() == name);
  return focused;
}

void Window::type(const QString& path, const QString& text) {
  QLineEdit* line = field(path);
  QTest::keyClick(line, Qt::Key_A, Qt::ControlModifier);
  if (text.isEmpty())
    QTest::keyClick(line, Qt::Key_Delete);
  else
    QTest::keyClicks(line, text);
  settle();
}

QString Window::number(const QString& label) {
  auto* list = child<app::Numbers>("numbers");
  for (const QListWidgetItem* folded : list->findItems("more ▾", Qt::MatchExactly))
    emit list->itemClicked(
        const_cast<QListWidgetItem*>(folded)); // without leaving the field that is typed in
  for (int i = 0; i < list->count(); ++i)
    if (list->item(i)->text() == label)
      return list->item(i)->data(Qt::AccessibleTextRole).toString().mid(label.size() + 1);
  return {};
}

QString Window::rung(const QString& label) {
  auto* list = child<QListWidget>("ladder");
  for (int i = 0; i < list->count(); ++i) {
    const QString text = list->item(i)->data(Qt::AccessibleTextRole).toString();
    if (text.endsWith(", " + label)) return text;
  }
  return {};
}

QString Window::stale_note() {
  auto* note = child<QLabel>("stale_note");
  return note->isVisible() ? note->text() : QString();
}

} // namespace fulmox::testing
