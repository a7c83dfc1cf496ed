// Measures what the user waits for: from a keystroke in the real window to everything repainted, and from the
// start of the process to the first painted window. Prints medians and percentiles; judges nothing.

#include "app/givens/givens_panel.hpp"
#include "app/main_window.hpp"
#include "app/session/machine_watch.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/views/sheet.hpp"
#include "bench/machines.hpp"
#include "bench/times.hpp"

#include <QApplication>
#include <QDir>
#include <QLineEdit>
#include <QStandardPaths>
#include <QTest>

#include <algorithm>
#include <cstdio>
#include <fstream>
#include <string>
#include <unistd.h>
#include <vector>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::bench;

namespace {

/// Age of this process by the kernel's account, so that loading the program counts.
double process_age() {
  std::ifstream stat("/proc/self/stat");
  std::string word;
  stat >> word;
  std::getline(stat, word, ')'); // the name may hold spaces
  for (int i = 0; i < 19; ++i) stat >> word;
  double start = 0.0;
  stat >> start;
  std::ifstream uptime("/proc/uptime");
  double now = 0.0;
  uptime >> now;
  return 1000.0 * (now - start / static_cast<double>(sysconf(_SC_CLK_TCK)));
}

/// Lets queued replots and repaints happen: what one turn of the event loop does.
void paint() {
  QApplication::sendPostedEvents();
  QApplication::processEvents();
  QApplication::sendPostedEvents();
  QApplication::processEvents();
}

/// How long each of so many keystrokes in a field takes until everything is repainted, in ms.
std::vector<double> keystrokes(QLineEdit* line, int count) {
  std::vector<double> times;
  for (int i = 0; i < count; ++i) {
    line->setText(QString("6.%1").arg(i % 10));
    paint();
    const auto begin = Clock::now();
    QTest::keyClick(line, static_cast<char>('1' + i % 9));
    paint();
    times.push_back(milliseconds(Clock::now() - begin));
  }
  return times;
}

} // namespace

int main(int argc, char** argv) {
  QStandardPaths::setTestModeEnabled(true);
  QApplication application(argc, argv);
  QApplication::setApplicationName("fulmox-bench");
  load_fonts();
  apply_theme(false);
  Session session;
  if (session.load_data()) return 1;
  MainWindow window(session);
  session.start_empty();
  window.open_demo();
  window.show();
  paint();
  const double start = process_age();
  std::printf("%-44s        %7.0f ms   (kernel clock ticks of 10 ms)\n",
              "start of process to first painted window", start);
  if (argc > 1 && std::string(argv[1]) == "--start-only") return 0;

  std::vector<double> evaluations;
  for (int i = 0; i < 500; ++i) {
    const auto begin = Clock::now();
    const auto result = evaluate(session.axis(), session.document().house_rules);
    evaluations.push_back(milliseconds(Clock::now() - begin));
    if (!result) return 1;
  }
  print("evaluate the axis", evaluations);

  window.findChild<GivensPanel*>("givens")->go_to("load.moved_mass");
  paint();
  auto* line = window.findChild<QLineEdit*>("moved_mass");
  print("keystroke to everything repainted", keystrokes(line, 600));

  std::vector<double> scrubs;
  for (int i = 0; i < 400; ++i) {
    const auto begin = Clock::now();
    session.set_cursor(session.evaluation()->model->load->cycle.duration * i / 400.0);
    paint();
    scrubs.push_back(milliseconds(Clock::now() - begin));
  }
  print("cursor step to everything repainted", scrubs);

  window.sheet()->show_view("capability");
  paint();
  print("keystroke with the capability view shown", keystrokes(line, 200));
  auto* speed = window.findChild<QLineEdit*>("capability_speed");
  std::vector<double> asked;
  for (int i = 0; i < 200; ++i) {
    const auto begin = Clock::now();
    speed->setText(QString("%1 mm/s").arg(10 + i));
    paint();
    asked.push_back(milliseconds(Clock::now() - begin));
  }
  print("force asked at another speed", asked);
  window.sheet()->show_view("axis");
  paint();
  // a search runs all the while: each edit ends the one before
  session.select_axis(1);
  window.sheet()->show_view("match");
  paint();
  window.findChild<GivensPanel*>("givens")->go_to("load.moved_mass");
  print("keystroke while combinations are searched", keystrokes(line, 300));
  session.jobs().cancel("match");
  window.sheet()->show_view("axis");
  session.select_axis(0);
  paint();
  window.show_working();
  print("keystroke with the working open", keystrokes(line, 200));
  // eight axes of two hundred segments: the power is drawn at once, the voltage when it is worked out beside
  const QString file = QDir::temp().filePath("fulmox-bench-" + QString::number(getpid()) + ".fulmox");
  if (save_document(eight_long_axes(session.document()), file.toStdString()) || !window.open(file)) return 1;
  window.sheet()->show_view("machine");
  paint();
  session.machine_watch().look();
  session.jobs().wait();
  paint();
  std::vector<double> held, drawn;
  for (int i = 0; i < 20; ++i) {
    const std::size_t before = session.machine_watch().run()->number;
    const auto begin = Clock::now();
    session.type("load", "moved_mass", QString("6.%1 kg").arg(i % 10));
    session.machine_watch().look();
    paint();
    held.push_back(milliseconds(Clock::now() - begin));
    const auto shown = [&] {
      const MachineRun* run = session.machine_watch().run();
      return run != nullptr && run->complete && run->number != before;
    };
    while (!shown()) QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    paint();
    drawn.push_back(milliseconds(Clock::now() - begin));
    session.jobs().wait();
    paint();
  }
  print("edit of 8 axes of 200 segments holds the window", held);
  print("the same until every bus is drawn", drawn);
  std::remove(file.toStdString().c_str());
  session.drop_autosave();
  return 0;
}
