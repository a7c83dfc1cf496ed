// Takes the pictures in docs/screenshots from the demo machine, one per main view, without a screen.

#include "app/main_window.hpp"
#include "app/session/corner_watch.hpp"
#include "app/session/machine_watch.hpp"
#include "app/session/session.hpp"
#include "app/sheet/axis_view.hpp"
#include "app/study/study_panel.hpp"
#include "app/theme/theme.hpp"
#include "app/views/sheet.hpp"
#include "core/motion/segments.hpp"

#include <QApplication>
#include <QComboBox>
#include <QCursor>
#include <QDir>
#include <QLineEdit>
#include <QStandardPaths>
#include <QTimer>
#include <QToolButton>

#include <cstdio>
#include <tuple>

using namespace fulmox;
using namespace fulmox::app;

namespace {

class Camera {
public:
  Camera(Session& session, MainWindow& window, const QDir& folder)
      : session_(session), window_(window), folder_(folder) {}

  void demo() {
    window_.open_demo();
    session_.set_cursor(0.72);
    window_.axis_view()->close_working();
  }

  void take(const QString& name) {
    session_.machine_watch().look(); // the ladder tells of the bus: not a moment later
    session_.corner_watch().look();
    for (int i = 0; i < 5; ++i) {
      QApplication::processEvents();
      session_.jobs().wait();
    }
    window_.grab().save(folder_.filePath(name + ".png"));
  }

  /// A main view by its id.
  void view(const QString& id) {
    window_.sheet()->show_view(id.toStdString());
    take(id);
    window_.sheet()->show_view("axis");
  }

  /// The picker as a press, and its motor on the bench.
  void capability(const QString& name) {
    window_.sheet()->show_view("capability");
    window_.findChild<QComboBox*>("capability_where")->setCurrentIndex(1);
    window_.findChild<QLineEdit*>("capability_speed")->setText("20 mm/s");
    window_.findChild<QLineEdit*>("bench_torque")->setText("0.2 N.m");
    take(name);
    window_.sheet()->show_view("axis");
  }

  void kinds(const QString& name) {
    window_.sheet()->show_view("match");
    window_.findChild<QToolButton*>("match_show_kinds")->click();
    take(name);
    window_.findChild<QToolButton*>("match_show_fits")->click();
    window_.sheet()->show_view("axis");
  }

  void parts(const QString& name) {
    window_.choose_part_for("motor");
    take(name);
    window_.sheet()->show_view("axis");
  }

private:
  Session& session_;
  MainWindow& window_;
  QDir folder_;
};

} // namespace

int main(int argc, char** argv) {
  QStandardPaths::setTestModeEnabled(true);
  QApplication application(argc, argv);
  QApplication::setApplicationName("fulmox-screenshots");
  if (argc != 2) {
    std::fputs("usage: screenshots FOLDER\n", stderr);
    return 2;
  }
  load_fonts();
  apply_theme(false);
  Session session;
  if (const auto problem = session.load_data()) {
    std::fprintf(stderr, "%s\n", problem->text().c_str());
    return 1;
  }
  MainWindow window(session);
  session.start_empty();
  window.show();
  QCursor::setPos(window.mapToGlobal(QPoint(660, 330))); // no button looks hovered
  Camera camera(session, window, QDir(QString::fromLocal8Bit(argv[1])));

  camera.take("welcome");
  camera.demo();
  camera.take("axis");
  window.show_working();
  camera.take("working");
  camera.demo();
  session.type("load", "moved_mass", "2*4.5 kg");
  session.type("mechanism", "lead", "5 mm");
  camera.take("over");
  session.type("mechanism", "lead", "5 kg");
  camera.take("fault");
  camera.demo();
  for (const auto& [index, page, name] : {std::tuple{3, "Load", "load"}, {2, "Ways", "ways"}}) {
    session.select_axis(static_cast<std::size_t>(index));
    window.axis_view()->study()->show_page(page);
    camera.take(name);
  }
  window.axis_view()->study()->show_page("Shares");
  camera.demo();
  camera.parts("parts");
  camera.demo();
  camera.view("machine");
  camera.view("constants");
  camera.capability("capability");
  session.select_axis(1);
  camera.view("match");
  camera.kinds("kinds");
  camera.view("library");
  session.select_axis(6);
  camera.view("heat");
  session.select_axis(0);
  session.type("motor", "kt", session.axis()["motor"].text("kt").c_str() + QString(" ±10%"));
  camera.view("limits");
  camera.view("rules");
  session.select_axis(5);
  session.set_cursor(0.1);
  emit session.input_requested("drive.current_setting");
  camera.take("stepper");
  session.select_axis(0);
  session.edit("", "", [](Document& d) {
    d.units = UnitSet::inch;
    d.axes[0]["brake"].type("fitted", "no");
    d.axes[0]["load"].type("friction", "0");
    d.axes[0]["load"].type("seal_drag", "0 N");
  });
  window.set_dark(true);
  camera.take("dark-inch-second-look");
  session.drop_autosave();
  return 0;
}
