// Measures Match in the real window on a large library: from a keystroke to the first list and to the list of
// all that fits, and the longest time in which the window cannot be worked with meanwhile; then from other
// weights and another filter to the list. Prints; judges nothing.
//   bench_match_window [MOTORS HEADS DRIVES]

#include "app/givens/givens_panel.hpp"
#include "app/main_window.hpp"
#include "app/match/match_search.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "bench/large_library.hpp"
#include "bench/times.hpp"
#include "core/support/data_folder.hpp"

#include <QApplication>
#include <QLineEdit>
#include <QMenu>
#include <QSlider>
#include <QStandardPaths>
#include <QTest>
#include <QTimer>
#include <QToolButton>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::bench;

namespace {

/// What one edit takes, in ms.
struct Edit {
  double first = 0.0, all = 0.0, held = 0.0;
};

Edit edit(QLineEdit* line, char digit, MatchSearch* search) {
  Edit out;
  line->selectAll();
  const auto begin = Clock::now();
  const auto since = [&] { return milliseconds(Clock::now() - begin); };
  QObject context;
  QObject::connect(search, &MatchSearch::found, &context, [&] {
    double& at = search->so_far() != nullptr ? out.first : out.all;
    if (at == 0.0) at = since();
  });
  QTest::keyClick(line, digit);
  out.held = since();
  QTimer tick; // so that what holds the window is noticed
  tick.start(2);
  for (auto last = Clock::now(); search->running();) {
    QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    const auto now = Clock::now();
    out.held = std::max(out.held, milliseconds(now - last));
    last = now;
  }
  return out;
}

/// What one change of the list takes until it is painted, in ms.
template <class Change> double shown_after(const Change& change) {
  const auto begin = Clock::now();
  change();
  QApplication::processEvents();
  return milliseconds(Clock::now() - begin);
}

/// On the list of all that fits.
void list_anew(MainWindow& window) {
  auto* weight = window.findChild<QSlider*>("match_weight_mass");
  auto* menu = window.findChild<QToolButton*>("match_only")->menu();
  std::vector<double> counts;
  for (int i = 0; i < 12; ++i) counts.push_back(shown_after([&] { emit menu->aboutToShow(); }));
  auto* in_stock = window.findChild<QAction*>("match_in_stock");
  std::vector<double> weights, filters;
  for (int i = 0; i < 12; ++i) {
    QTest::qWait(100);
    weights.push_back(shown_after([&] { weight->setValue(1 + i % 3); }));
    QTest::qWait(100);
    filters.push_back(shown_after([&] { in_stock->toggle(); }));
  }
  print("menu of filters, with what each would leave", counts);
  print("other weights to the list", weights);
  print("another filter to the list", filters);
}

} // namespace

int main(int argc, char** argv) {
  QStandardPaths::setTestModeEnabled(true);
  QApplication application(argc, argv);
  QApplication::setApplicationName("fulmox-bench");
  const auto number = [&](int place, std::size_t usual) {
    return argc > place ? static_cast<std::size_t>(std::atoll(argv[place])) : usual;
  };
  load_fonts();
  apply_theme(false);
  Session session;
  const auto shipped = load_library(data_folder() / "library");
  if (session.load_data() || !shipped) return 1;
  MainWindow window(session);
  session.start_empty();
  window.open_demo();
  window.resize(1280, 800);
  window.show();
  session.use(large_library(*shipped, number(1, 5000), number(2, 400), number(3, 300)));
  session.select_axis(1);
  QTest::qWait(100);
  QTest::keyClick(&window, Qt::Key_8, Qt::ControlModifier);
  QTest::qWait(100);
  auto* search = window.findChild<MatchSearch*>();
  window.findChild<GivensPanel*>("givens")->go_to("load.moved_mass");
  auto* line = window.findChild<QLineEdit*>("moved_mass");
  std::vector<double> first, all, held;
  for (int i = 0; i < 12; ++i) {
    session.jobs().wait();
    QTest::qWait(300);
    const Edit one = edit(line, static_cast<char>('4' + i % 5), search);
    first.push_back(one.first);
    all.push_back(one.all);
    held.push_back(one.held);
  }
  print("keystroke to the best before, tried again", first);
  print("keystroke to the list of all that fits", all);
  print("  longest the window was held meanwhile", held);
  list_anew(window);
  session.drop_autosave();
  return 0;
}
