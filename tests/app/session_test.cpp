// The session behind the window: one door for changes, last good results, cursor, files.

#include "app/session/examples.hpp"
#include "app/session/session.hpp"
#include "support/axes.hpp"

#include <QElapsedTimer>
#include <QFile>
#include <QSignalSpy>
#include <QTest>

#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using namespace fulmox::app;

namespace {

/// A session with the demo and the shipped data, without a window.
struct Fixture {
  Fixture() {
    const auto problem = session.load_data();
    if (problem) FAIL(problem->text());
    session.adopt(demo());
  }
  ~Fixture() { session.drop_autosave(); }
  double result(std::string_view id) { return session.evaluation()->find(id)->value; }
  Session session;
};

} // namespace

TEST_CASE("every change is told once") {
  Fixture f;
  QSignalSpy changed(&f.session, &Session::changed);
  f.session.type("load", "moved_mass", "7 kg");
  CHECK(changed.count() == 1);
  f.session.undo();
  CHECK(changed.count() == 2);
  f.session.undo(); // nothing left
  CHECK(changed.count() == 2);
}

TEST_CASE("typing into what does not exist changes nothing") {
  Fixture f;
  f.session.type("cellar", "moved_mass", "7 kg");
  f.session.type("load", "colour", "7 kg");
  f.session.type("cycle[9]", "time", "7 s");
  CHECK_FALSE(f.session.history().can_undo());
}

TEST_CASE("a change to the same text is no step") {
  Fixture f;
  f.session.type("load", "moved_mass", "6 kg");
  CHECK_FALSE(f.session.history().can_undo());
  CHECK_FALSE(f.session.dirty());
}

TEST_CASE("bad input keeps the evaluation, good input replaces it") {
  Fixture f;
  const double before = f.result("demand.peak_torque");
  f.session.type("load", "moved_mass", "heavy");
  CHECK(f.session.stale());
  CHECK(f.session.problem().where.find("load.moved_mass") == 0);
  CHECK(f.result("demand.peak_torque") == before);
  CHECK(std::isnan(f.session.worst_used(0)));
  f.session.type("load", "moved_mass", "7 kg");
  CHECK_FALSE(f.session.stale());
  CHECK(f.result("demand.peak_torque") > before);
}

TEST_CASE("the cursor stays inside the cycle, also when the cycle shrinks") {
  Fixture f;
  f.session.set_cursor(100.0);
  CHECK(f.session.cursor() == Approx(f.session.evaluation()->model->load->cycle.duration));
  f.session.type("cycle[3]", "time", "0.1 s");
  CHECK(f.session.cursor() <= f.session.evaluation()->model->load->cycle.duration);
  f.session.set_cursor(-5.0);
  CHECK(f.session.cursor() == 0.0);
}

TEST_CASE("moving the cursor is told, and is no change") {
  Fixture f;
  QSignalSpy moved(&f.session, &Session::cursor_moved);
  QSignalSpy changed(&f.session, &Session::changed);
  f.session.set_cursor(0.3);
  CHECK(moved.count() == 1);
  CHECK(changed.count() == 0);
}

TEST_CASE("results of axes that are not shown follow those axes and the rules") {
  Fixture f;
  f.session.edit("Add", "",
                 [&](Document& d) { d.axes.push_back(example_axis("level", f.session.library())); });
  const double other = f.session.worst_used(1);
  REQUIRE(std::isfinite(other));
  CHECK(f.session.worst_used(1) == other);
  f.session.edit("Strict", "", [](Document& d) { d.house_rules.type("inertia_max", "0.001"); });
  CHECK(f.session.worst_used(1) > 10.0 * other);
  f.session.undo();
  CHECK(f.session.worst_used(1) == other);
  f.session.edit("Heavier", "", [](Document& d) { d.axes[1]["load"].type("moved_mass", "30 kg"); });
  CHECK(f.session.worst_used(1) > other);
  f.session.edit("Broken", "", [](Document& d) { d.axes[1]["load"].type("moved_mass", "none"); });
  CHECK(std::isnan(f.session.worst_used(1)));
  f.session.select_axis(1);
  CHECK(f.session.evaluation() == nullptr);
  f.session.select_axis(99);
  CHECK(f.session.axis_index() == 1);
}

TEST_CASE("removing the last axis leaves an empty machine, undo brings it back") {
  Fixture f;
  f.session.edit("Remove axis", "", [](Document& d) { d.axes.clear(); });
  CHECK_FALSE(f.session.has_axis());
  CHECK(f.session.evaluation() == nullptr);
  f.session.undo();
  REQUIRE(f.session.has_axis());
  CHECK(f.session.evaluation() != nullptr);
}

TEST_CASE("saving where one cannot write tells why and keeps the work") {
  Fixture f;
  f.session.type("load", "moved_mass", "7 kg");
  const auto problem = f.session.save("/no/such/folder/machine.fulmox");
  REQUIRE(problem);
  CHECK(f.session.dirty());
  CHECK(f.session.path().isEmpty());
  CHECK(f.session.axis()["load"].text("moved_mass") == "7 kg");
}

TEST_CASE("opening what is not there tells why and keeps the work") {
  Fixture f;
  f.session.type("load", "moved_mass", "7 kg");
  REQUIRE(f.session.open("/no/such/machine.fulmox"));
  CHECK(f.session.axis()["load"].text("moved_mass") == "7 kg");
  CHECK(f.session.history().can_undo());
}

TEST_CASE("the side file stands beside the file, hidden, and never in its place") {
  Fixture f;
  const TemporaryFolder folder;
  const QString path = QString::fromStdString(folder.file("machine.fulmox").string());
  REQUIRE_FALSE(f.session.save(path));
  CHECK(f.session.autosave_path() ==
        QString::fromStdString(folder.file(".machine.fulmox.autosave").string()));
  f.session.type("load", "moved_mass", "7 kg");
  f.session.autosave();
  f.session.wait_until_kept();
  CHECK(load_document(path.toStdString())->axes[0]["load"].text("moved_mass") == "6 kg");
  f.session.undo();
  f.session.autosave(); // nothing unsaved: nothing to keep
  CHECK_FALSE(QFile::exists(f.session.autosave_path()));
}

TEST_CASE("a side file that cannot be written is told once, and the work kept elsewhere") {
  Fixture f;
  f.session.adopt(demo(), "/no/such/folder/machine.fulmox");
  f.session.type("load", "moved_mass", "7 kg");
  QSignalSpy failed(&f.session, &Session::autosave_failed);
  for (int i = 0; i < 2; ++i) {
    f.session.autosave();
    f.session.wait_until_kept();
    QCoreApplication::processEvents();
  }
  REQUIRE(failed.count() == 1);
  CHECK(failed.first().first().toString().contains("cannot be kept beside its file"));
}

TEST_CASE("steady work is kept within five seconds, not after the first pause") {
  Fixture f;
  QElapsedTimer clock;
  clock.start();
  const std::filesystem::path side = f.session.autosave_path().toStdString();
  for (int i = 0; clock.elapsed() < 5000 && !std::filesystem::exists(side); ++i) {
    f.session.type("load", "moved_mass", QString("%1 kg").arg(7 + i % 10));
    QTest::qWait(20);
  }
  f.session.wait_until_kept();
  CHECK(std::filesystem::exists(side));
}

TEST_CASE("examples are made of the shipped parts and marked as guesses") {
  Fixture f;
  for (const char* name : {"level", "vertical", "incline", "arm", "drum", "crank"}) {
    const Axis axis = example_axis(name, f.session.library());
    INFO(name);
    CHECK(faults(axis).empty());
    CHECK_FALSE(axis["motor"].blank("part_number"));
    CHECK_FALSE(axis["drive"].blank("part_number"));
    CHECK(axis["load"].entry(main_load_input(axis)).origin == Origin::guess);
    const Evaluation e = evaluated(axis);
    for (const char* remark : {"open_cycle", "vertical_without_brake", "gravity_ignored"})
      CHECK_FALSE(warns(e, remark));
    for (const Warning& warning : e.warnings) CHECK_THAT(warning.title, !Catch::Contains("far too big"));
    for (const Limit& limit : e.limits) {
      INFO(limit.label);
      CHECK((limit.state == LimitState::clear || limit.state == LimitState::tight)); // all are judged
    }
  }
  CHECK(evaluated(example_axis("drum", f.session.library())).demand.holding.torque != 0.0);
}

TEST_CASE("a hundred random edits, undone and redone, leave the same results") {
  Fixture f;
  std::mt19937 engine(81);
  const double before = f.result("demand.rms_torque");
  for (int i = 0; i < 100; ++i) {
    f.session.seal();
    f.session.type("load", "moved_mass", QString("%1 kg").arg(1 + engine() % 9));
    f.session.seal();
    f.session.type("cycle[0]", "time", QString("%1 ms").arg(200 + engine() % 700));
  }
  const double after = f.result("demand.rms_torque");
  while (f.session.history().can_undo()) f.session.undo();
  CHECK(f.result("demand.rms_torque") == before);
  while (f.session.history().can_redo()) f.session.redo();
  CHECK(f.result("demand.rms_torque") == after);
}
