// Somebody presses keys, clicks and drags without any plan. FULMOX_MONKEY says how often, FULMOX_MONKEY_SEED
// repeats a run.

#include "window.hpp"

#include <QAbstractButton>
#include <QDir>
#include <QMenu>

#include <cstdlib>
#include <iostream>
#include <random>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

long asked(const char* variable, long usual) {
  const char* text = std::getenv(variable);
  return text != nullptr ? std::atol(text) : usual;
}

class Monkey {
public:
  Monkey(Window& window, unsigned seed) : w_(window), engine_(seed) {
    // what opens a dialog waits in it: the way out is always there
    QObject::connect(&way_out_, &QTimer::timeout, &w_.window, [] {
      if (QWidget* popup = QApplication::activePopupWidget()) popup->close();
      if (QWidget* dialog = QApplication::activeModalWidget()) QTest::keyClick(dialog, Qt::Key_Escape);
      if (auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget())) dialog->reject();
    });
    way_out_.start(30);
  }

  void act() {
    QWidget* target = somewhere();
    if (target == nullptr) return;
    switch (below(8)) {
    case 0:
    case 1:
      QTest::keyClick(target, static_cast<Qt::Key>(key()), modifiers());
      break;
    case 2:
      QTest::keyClicks(target, text());
      break;
    case 3:
    case 4:
      QTest::mouseClick(target, below(6) == 0 ? Qt::RightButton : Qt::LeftButton, modifiers(), place(target));
      break;
    case 5:
      QTest::mouseDClick(target, Qt::LeftButton, {}, place(target));
      break;
    case 6:
      drag(target);
      break;
    default:
      wheel(target);
    }
    QCoreApplication::processEvents();
    if (!w_.window.isVisible()) w_.window.show();
  }

private:
  unsigned below(unsigned n) { return static_cast<unsigned>(engine_()) % n; }
  template <class T> const T& one_of(const std::vector<T>& all) {
    return all[below(static_cast<unsigned>(all.size()))];
  }

  QWidget* somewhere() {
    if (below(3) == 0 && w_.window.focusWidget() != nullptr) return w_.window.focusWidget();
    std::vector<QWidget*> all;
    for (QWidget* child : w_.window.findChildren<QWidget*>())
      if (child->isVisible() && child->width() > 1 && child->height() > 1) all.push_back(child);
    return all.empty() ? nullptr : one_of(all);
  }
  QPoint place(const QWidget* target) {
    return {static_cast<int>(below(static_cast<unsigned>(target->width()))),
            static_cast<int>(below(static_cast<unsigned>(target->height())))};
  }
  Qt::KeyboardModifiers modifiers() {
    const unsigned n = below(10);
    return n == 0   ? Qt::ControlModifier
           : n == 1 ? Qt::ShiftModifier
           : n == 2 ? Qt::AltModifier
                    : Qt::NoModifier;
  }
  int key() {
    return one_of<int>({Qt::Key_Tab, Qt::Key_Return, Qt::Key_Escape,   Qt::Key_Delete, Qt::Key_Backspace,
                        Qt::Key_Up,  Qt::Key_Down,   Qt::Key_Left,     Qt::Key_Right,  Qt::Key_Home,
                        Qt::Key_End, Qt::Key_PageUp, Qt::Key_PageDown, Qt::Key_F2,     Qt::Key_Z,
                        Qt::Key_Y,   Qt::Key_A,      Qt::Key_V,        Qt::Key_X,      Qt::Key_C,
                        Qt::Key_K,   Qt::Key_L,      Qt::Key_N,        Qt::Key_Space,  Qt::Key_0,
                        Qt::Key_9,   Qt::Key_Minus,  Qt::Key_Period});
  }
  QString text() {
    return one_of<QString>({"7", "0", "-3", "1e300", "5 kg", "300 mm", "1/3", "6 ± 0.1 kg", "±50%", "0.4 s",
                            "abc", "90 deg", "°", "((((", "2000 rpm", "1e-200 s", "\u00a0",
                            "0 rpm: 1 N.m; 5 rpm: 2 N.m"});
  }
  void drag(QWidget* target) {
    QTest::mousePress(target, Qt::LeftButton, modifiers(), place(target));
    for (unsigned i = 0; i < 1 + below(4); ++i) QTest::mouseMove(target, place(target));
    QTest::mouseRelease(target, Qt::LeftButton, {}, place(target));
  }
  void wheel(QWidget* target) {
    const QPoint at = place(target);
    QWheelEvent event(at, target->mapToGlobal(at), {}, {0, below(2) == 0 ? 120 : -120}, {}, modifiers(),
                      Qt::NoScrollPhase, false);
    QCoreApplication::sendEvent(target, &event);
  }

  Window& w_;
  std::mt19937 engine_;
  QTimer way_out_;
};

} // namespace

TEST_CASE("a monkey at the window finds no way to break it") {
  const TemporaryFolder folder; // what it saves lands here
  const QString home = QDir::currentPath();
  QDir::setCurrent(QString::fromStdString(folder.file("").string()));
  const auto seed = static_cast<unsigned>(asked("FULMOX_MONKEY_SEED", 20));
  const long actions = asked("FULMOX_MONKEY", 500);
  std::cout << "monkey: seed " << seed << ", " << actions << " actions\n";
  {
    Window w;
    Monkey monkey(w, seed);
    for (long i = 0; i < actions; ++i) {
      INFO("action " << i << ", seed " << seed);
      monkey.act();
      // whatever it did, it can be saved and read back
      if (i % 50 == 49) CHECK(from_json(to_json(w.session.document())));
    }
    while (w.session.history().can_undo()) w.session.undo();
  }
  QDir::setCurrent(home);
  CHECK(true);
}
