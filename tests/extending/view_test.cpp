// A main view of somebody's own: a function that makes it, and one registration. The switch offers it; it is
// told what changed while it is seen, and all at once when it is seen again.

#include "app/main_window.hpp"
#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/views/sheet.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <QApplication>
#include <QStandardPaths>
#include <QTest>

using namespace fulmox;
using namespace fulmox::app;

namespace {

class Tally : public QWidget {
public:
  explicit Tally(Session& session) {
    new Refresher(session, this, Changes(Change::axis) | Change::units, [this](Changes what) {
      last = what;
      ++times;
    });
  }
  Changes last;
  int times = 0;
};

const bool registered = [] {
  register_view({"tally", "Tally", "Counts", QKeySequence("Ctrl+Alt+0"),
                 [](Session& session) -> QWidget* { return new Tally(session); }, true, true, false});
  return true;
}();

} // namespace

TEST_CASE("a view that was only registered is offered, shown by its keys, and kept up to date while seen") {
  REQUIRE(registered);
  qputenv("QT_QPA_PLATFORM", "offscreen");
  QStandardPaths::setTestModeEnabled(true);
  int count = 0;
  QApplication application(count, nullptr);
  Session session;
  const auto problem = session.load_data();
  INFO((problem ? problem->text() : ""));
  REQUIRE_FALSE(problem);
  MainWindow window(session);
  session.start_empty();
  window.show();
  session.adopt(fulmox::testing::demo());
  const auto settle = [] {
    for (int i = 0; i < 3; ++i) QApplication::processEvents();
  };
  settle();
  auto* ribbon = window.findChild<QWidget*>("ribbon");
  CHECK(ribbon->isVisible());
  QTest::keyClick(&window, Qt::Key_0, Qt::ControlModifier | Qt::AltModifier);
  settle();
  CHECK(window.sheet()->shown().id == "tally");
  CHECK_FALSE(ribbon->isVisible()); // it did without
  auto* tally = dynamic_cast<Tally*>(window.sheet()->view("tally"));
  REQUIRE(tally != nullptr);
  CHECK(tally->isVisible());
  const int before = tally->times;
  session.type("load", "moved_mass", "7 kg");
  CHECK(tally->times == before + 1);
  CHECK(tally->last == Change::axis);
  session.edit("Rename", "", [](Document& d) { d.name = "Other"; });
  CHECK(tally->times == before + 1); // that is not its business
  QTest::keyClick(&window, Qt::Key_1, Qt::ControlModifier);
  settle();
  CHECK(ribbon->isVisible());
  session.type("load", "moved_mass", "8 kg");
  session.edit("Units", "", [](Document& d) { d.units = UnitSet::inch; });
  CHECK(tally->times == before + 1); // nobody sees it
  QTest::mouseClick(window.findChild<QToolButton*>("view_tally"), Qt::LeftButton);
  CHECK(tally->times == before + 2);
  CHECK(tally->last == (Changes(Change::axis) | Change::units));
  session.drop_autosave();
}
