#include "window.hpp"

#include "app/keeping/unsaved_dialog.hpp"
#include "core/support/text_file.hpp"

#include <QFile>
#include <QLabel>
#include <QMessageBox>
#include <QPushButton>
#include <QTableWidget>

#include <fstream>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

QString path_in(const TemporaryFolder& folder) {
  return QString::fromStdString(folder.file("m.fulmox").string());
}

void keep(Session& session) {
  session.autosave();
  session.wait_until_kept();
}

/// A session that ends as in a crash: with unsaved work and without a word. The mass says whose work it is.
void crash_with(const QString& path, const QString& mass, bool save_first = true) {
  Session session;
  REQUIRE_FALSE(session.load_data());
  session.adopt(demo());
  if (save_first) REQUIRE_FALSE(session.save(path));
  session.type("load", "moved_mass", mass);
  keep(session);
  REQUIRE(QFile::exists(session.autosave_path()));
}

QString mass_of(const Window& w) {
  return QString::fromStdString(w.session.axis()["load"].text("moved_mass"));
}

std::function<void(QMessageBox&)> clicking(const char* button) {
  return [=](QMessageBox& box) {
    auto* found = box.findChild<QPushButton*>(button);
    REQUIRE(found != nullptr);
    found->click();
  };
}

QString side_of(const QString& path) {
  return QString::fromStdString(side_file_of(path.toStdString()).string());
}

void empty_state_folder() { std::filesystem::remove_all(Session::state_folder()); }

} // namespace

TEST_CASE("unsaved work is offered whichever way its file is opened") {
  const TemporaryFolder folder;
  const QString path = path_in(folder);
  crash_with(path, "11 kg");
  Window w(false);
  SECTION("taken up: unsaved, and undo leads to what the file holds") {
    w.in_dialog<QMessageBox>([&] { CHECK(w.window.open(path)); },
                             [](QMessageBox& box) {
                               CHECK(box.informativeText().contains("1 change"));
                               CHECK(box.informativeText().contains("older"));
                               CHECK(box.informativeText().contains("kept for a week"));
                               clicking("take_up")(box);
                             });
    CHECK(mass_of(w) == "11 kg");
    CHECK(w.session.dirty());
    CHECK(w.session.path() == path);
    CHECK(QFile::exists(side_of(path)));
    w.session.undo();
    CHECK(mass_of(w) == "6 kg");
    CHECK_FALSE(w.session.dirty());
    CHECK_FALSE(w.session.history().can_undo());
    w.session.redo();
    REQUIRE_FALSE(w.session.save(path));
    CHECK_FALSE(QFile::exists(side_of(path)));
    CHECK(load_document(path.toStdString())->axes[0]["load"].text("moved_mass") == "11 kg");
  }
  SECTION("declined, also by Escape: the file as saved, the work in the list, never asked again") {
    const bool escape = GENERATE(false, true);
    empty_state_folder();
    w.in_dialog<QMessageBox>([&] { CHECK(w.window.open(path)); },
                             [&](QMessageBox& box) {
                               if (escape)
                                 QTest::keyClick(&box, Qt::Key_Escape);
                               else
                                 clicking("leave")(box);
                             });
    CHECK(mass_of(w) == "6 kg");
    CHECK_FALSE(w.session.dirty());
    w.type("load.moved_mass", "8 kg"); // the first edit must not write over it
    keep(w.session);
    REQUIRE(kept_in(Session::state_folder()).size() == 1);
    w.session.drop_autosave();
    REQUIRE(w.window.open(path));
    CHECK(mass_of(w) == "6 kg");
    // taken from the list after all
    w.in_dialog<UnsavedDialog>(
        [&] {
          for (QAction* action : w.window.actions())
            if (action->text().startsWith("Unsaved work")) action->trigger();
        },
        [](UnsavedDialog& dialog) {
          auto* table = dialog.findChild<QTableWidget*>("unsaved_list");
          REQUIRE(table->rowCount() == 1);
          CHECK(table->item(0, 2)->text() == "1");
          dialog.findChild<QPushButton*>("open_unsaved")->click();
        });
    CHECK(mass_of(w) == "11 kg");
    CHECK(w.session.dirty());
    CHECK(kept_in(Session::state_folder()).empty());
  }
  SECTION("the file is damaged, the unsaved work is whole") {
    std::ofstream(path.toStdString()) << "{ \"format\": ";
    w.in_dialog<QMessageBox>([&] { CHECK(w.window.open(path)); },
                             [](QMessageBox& box) {
                               CHECK(box.informativeText().contains("cannot be read"));
                               clicking("take_up")(box);
                             });
    CHECK(mass_of(w) == "11 kg");
    CHECK(w.session.dirty());
    CHECK_FALSE(w.session.history().can_undo()); // no way back into nothing
    REQUIRE_FALSE(w.session.save(path));
    CHECK(load_document(path.toStdString()));
  }
  SECTION("the unsaved work is damaged: said, kept, never written over") {
    empty_state_folder();
    std::ofstream(side_of(path).toStdString()) << "{ \"format\": ";
    w.in_dialog<QMessageBox>([&] { CHECK(w.window.open(path)); },
                             [](QMessageBox& box) { CHECK(box.text().contains("truncated")); });
    CHECK(mass_of(w) == "6 kg");
    const auto all = kept_in(Session::state_folder());
    REQUIRE(all.size() == 1);
    CHECK(*read_text_file(all.front().file, 100) == "{ \"format\": ");
  }
  empty_state_folder();
}

TEST_CASE("work that never had a file is offered at the next start") {
  empty_state_folder();
  crash_with("", "12 kg", false);
  Window w(false);
  w.in_dialog<QMessageBox>([&] { CHECK(w.window.offer_unnamed()); }, clicking("take_up"));
  CHECK(mass_of(w) == "12 kg");
  CHECK(w.session.dirty());
  CHECK(w.session.path().isEmpty());
  CHECK(kept_in(Session::state_folder()).empty()); // it is this session's own now
  CHECK(QFile::exists(w.session.autosave_path()));
}

TEST_CASE("what nothing reads in a file is told in a strip until it is left out or put away") {
  const TemporaryFolder folder;
  const QString path = path_in(folder);
  Document document = demo();
  document.axes[1].cycle[1].unknown["process_force"] = R"("40 N")";
  document.unknown["colour"] = "3";
  REQUIRE_FALSE(save_document(document, path.toStdString()));
  Window w;
  auto* bar = w.child<QFrame>("unread_bar");
  CHECK_FALSE(bar->isVisible());
  REQUIRE(w.window.open(path));
  REQUIRE(bar->isVisible());
  CHECK(w.child<QLabel>("unread_text")->text() ==
        "These entries of the file belong to no input and count for nothing: colour, "
        "axes[1].cycle[1].process_force (is “process” meant?).");
  SECTION("left out, and back by undo") {
    w.child<QPushButton>("unread_leave_out")->click();
    CHECK_FALSE(bar->isVisible());
    CHECK(w.session.document() == demo());
    w.session.undo();
    CHECK(bar->isVisible());
  }
  SECTION("put away, it stays away until there is something else") {
    w.child<QPushButton>("unread_keep")->click();
    CHECK_FALSE(bar->isVisible());
    w.type("load.moved_mass", "7 kg");
    CHECK_FALSE(bar->isVisible());
    CHECK(w.session.document().unknown.contains("colour"));
    w.session.edit("", "", [](Document& d) { d.unknown["color"] = "3"; });
    CHECK(bar->isVisible());
  }
}

TEST_CASE("a second window on one file is told so and changes nothing until the user decides") {
  const TemporaryFolder folder;
  const QString path = path_in(folder);
  Window first;
  REQUIRE_FALSE(first.session.save(path));
  first.type("load.moved_mass", "7 kg");
  keep(first.session);

  Window second(false);
  REQUIRE(second.window.open(path)); // no question: the work belongs to a window that is open
  CHECK(mass_of(second) == "6 kg");
  auto* bar = second.child<QFrame>("read_only_bar");
  REQUIRE(bar->isVisible());
  CHECK(second.child<QLabel>("read_only_text")->text().contains("another window (process "));
  CHECK(second.window.windowTitle().contains("read only"));
  second.type("load.moved_mass", "9 kg");
  CHECK(mass_of(second) == "6 kg");
  CHECK(second.field("load.moved_mass")->text() == "6 kg");
  CHECK(second.session.save(path)); // refused
  CHECK(load_document(path.toStdString())->axes[0]["load"].text("moved_mass") == "6 kg");

  SECTION("edit anyway: each keeps its work in a place of its own, the last to save is asked") {
    second.child<QPushButton>("read_only_anyway")->click();
    CHECK_FALSE(bar->isVisible());
    second.type("load.moved_mass", "9 kg");
    keep(second.session);
    CHECK(second.session.autosave_path() != first.session.autosave_path());
    CHECK(kept_document(first.session.autosave_path().toStdString())->axes[0]["load"].text("moved_mass") ==
          "7 kg");
    REQUIRE_FALSE(second.session.save(path));
    CHECK(first.session.changed_on_disk());
  }
  SECTION("a copy has no file yet") {
    second.child<QPushButton>("read_only_copy")->click();
    CHECK_FALSE(bar->isVisible());
    CHECK(second.session.path().isEmpty());
    CHECK(second.session.dirty());
    second.type("load.moved_mass", "9 kg");
    CHECK(mass_of(second) == "9 kg");
  }
  SECTION("after the other has closed it, it can be edited") {
    first.session.drop_autosave();
    first.session.new_document();
    second.child<QPushButton>("read_only_again")->click();
    CHECK_FALSE(bar->isVisible());
    CHECK_FALSE(second.session.read_only());
  }
}

TEST_CASE("a file that somebody else changed is not overwritten without a word") {
  const TemporaryFolder folder;
  const QString path = path_in(folder);
  Window w;
  REQUIRE_FALSE(w.session.save(path));
  w.type("load.moved_mass", "7 kg");
  Document theirs = demo();
  theirs.axes[0]["load"].type("moved_mass", "99 kg");
  REQUIRE_FALSE(save_document(theirs, path.toStdString()));
  const auto mass_on_disk = [&] {
    return load_document(path.toStdString())->axes[0]["load"].text("moved_mass");
  };
  const auto saving = [&](const char* button) {
    w.in_dialog<QDialog>(
        [&] {
          for (QAction* action : w.window.actions())
            if (action->text() == "Save") action->trigger();
        },
        [&](QDialog& dialog) {
          auto* table = dialog.findChild<QTableWidget*>("differences");
          REQUIRE(table != nullptr);
          REQUIRE(table->rowCount() == 1);
          CHECK(table->item(0, 1)->text() == "Load, moved mass");
          CHECK(table->item(0, 2)->text() == "99 kg");
          CHECK(table->item(0, 3)->text() == "7 kg");
          dialog.findChild<QPushButton*>(button)->click();
        });
  };
  SECTION("cancel") {
    saving("cancel");
    CHECK(mass_on_disk() == "99 kg");
    CHECK(w.session.dirty());
    CHECK(mass_of(w) == "7 kg");
  }
  SECTION("keep mine") {
    saving("keep_mine");
    CHECK(mass_on_disk() == "7 kg");
    CHECK_FALSE(w.session.dirty());
  }
  SECTION("take theirs: mine is kept for a week") {
    empty_state_folder();
    saving("take_theirs");
    CHECK(mass_of(w) == "99 kg");
    CHECK_FALSE(w.session.dirty());
    CHECK(mass_on_disk() == "99 kg");
    const auto all = kept_in(Session::state_folder());
    REQUIRE(all.size() == 1);
    CHECK(kept_document(all.front().file)->axes[0]["load"].text("moved_mass") == "7 kg");
    empty_state_folder();
  }
}
