// Takes the pictures in docs/screenshots from the demo machine, one per main view, without a screen.

#include "app/main_window.hpp"
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

#include <cstdio>
#include <random>
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
    for (int i = 0; i < 5; ++i) {
      QApplication::processEvents();
      session_.jobs().wait();
    }
    window_.grab().save(folder_.filePath(name + ".png"));
  }

  void constants(const QString& name) {
    window_.sheet()->show_view("constants");
    take(name);
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

/// Puts a recorded move with a twentieth of a millimetre of noise in place of the gantry's first one.
void record_a_move(Session& session) {
  std::mt19937 engine(11);
  std::normal_distribution<double> noise(0.0, 0.05);
  QString points;
  constexpr int count = 180;
  for (int i = 0; i <= count; ++i) {
    const double u = static_cast<double>(i) / count;
    const double miss = i == 0 || i == count ? 0.0 : noise(engine);
    points += QString("%1%2 ms: %3 mm")
                  .arg(i > 0 ? "; " : "")
                  .arg(5 * i)
                  .arg(920.0 * u * u * u * (10.0 - 15.0 * u + 6.0 * u * u) + miss, 0, 'f', 4);
  }
  session.edit("", "", [&](Document& d) {
    Axis& axis = d.axes[session.axis_index()];
    Section profile(*find_segment_spec("profile", motion_of(axis)));
    profile.type("points", points.toStdString(), Origin::measured);
    profile.type("smoothing", "0.05 mm", Origin::guess);
    axis.cycle[0] = profile;
    number_sections(axis);
  });
  session.set_cursor(0.3);
}

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
  for (const auto& [index, name] : {std::pair{1, "conveyor"}, {2, "belt"}, {3, "table"}}) {
    session.select_axis(static_cast<std::size_t>(index));
    session.set_cursor(0.3);
    camera.take(name);
  }
  for (const auto& [index, page, name] : {std::tuple{3, "Load", "load"},
                                          {2, "Move", "laws"},
                                          {2, "Ratio", "ratio"},
                                          {0, "What if", "what-if"}}) {
    session.select_axis(static_cast<std::size_t>(index));
    window.axis_view()->study()->show_page(page);
    camera.take(name);
  }
  camera.demo();
  session.select_axis(2);
  record_a_move(session);
  window.axis_view()->study()->show_page("Move");
  camera.take("profile");
  window.axis_view()->study()->show_page("Shares");
  camera.demo();
  camera.parts("parts");
  camera.demo();
  emit session.input_requested("motor.kt");
  camera.take("motor");
  camera.constants("constants");
  camera.capability("capability");
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
