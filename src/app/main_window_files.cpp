// What becomes of the work: opening, saving, unsaved work of earlier runs, files that others changed.

#include "app/keeping/questions.hpp"
#include "app/keeping/unsaved_dialog.hpp"
#include "app/main_window.hpp"
#include "app/session/session.hpp"

#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>

#include <ctime>

namespace fulmox::app {

bool MainWindow::open(const QString& path) {
  const auto saved = load_document(path.toStdString());
  if (offer_kept(path, saved)) {
    remember(path);
    return true;
  }
  const auto problem = saved ? session_.open(path) : std::optional(saved.problem());
  if (problem) {
    tell("This file cannot be opened", qt(problem->text()));
    return false;
  }
  remember(path);
  return true;
}

bool MainWindow::offer_unnamed() {
  forget_old(Session::state_folder(), std::time(nullptr));
  return offer_kept("", Document());
}

bool MainWindow::offer_kept(const QString& path, const Expected<Document>& saved) {
  const auto put_aside = [&](const KeptWork& work) {
    if (const auto problem = put_by(work, Session::state_folder())) tell("Unsaved work", qt(problem->text()));
  };
  bool taken = false, asked = false;
  for (const KeptWork& work : Session::kept_for(path)) {
    auto kept = kept_document(work.file);
    if (!kept) {
      tell("Unsaved work cannot be read",
           qt(kept.problem().text()) + "\n\nIt is kept for a week, under “Unsaved work” in the menu.");
      put_aside(work);
      continue;
    }
    if (saved && !path.isEmpty() && *kept == *saved) { // saved after all, a moment before the end
      QFile::remove(qt(work.file.string()));
      continue;
    }
    // the newest is offered; what is older stays in the list
    if (!asked) taken = ask_take_up(this, work, path, saved ? QString() : qt(saved.problem().text()));
    if (!asked && taken)
      session_.take_up(work, std::move(*kept), path, saved ? std::optional(*saved) : std::nullopt);
    else
      put_aside(work);
    asked = true;
  }
  return taken;
}

void MainWindow::show_unsaved() {
  forget_old(Session::state_folder(), std::time(nullptr));
  UnsavedDialog dialog(Session::state_folder(), this);
  if (dialog.exec() != QDialog::Accepted || !dialog.wanted()) return;
  const KeptWork work = *dialog.wanted();
  if (!may_leave()) return;
  auto kept = kept_document(work.file);
  if (!kept) return tell("Unsaved work cannot be read", qt(kept.problem().text()));
  const auto saved = load_document(work.machine);
  session_.take_up(work, std::move(*kept), qt(work.machine.string()),
                   saved ? std::optional(*saved) : std::nullopt);
}

bool MainWindow::settle_with_disk(bool& done) {
  if (session_.path().isEmpty() || !session_.changed_on_disk()) return true;
  const auto theirs = load_document(session_.path().toStdString());
  const auto readable = theirs ? std::optional(*theirs) : std::nullopt;
  switch (ask_about_disk(this, session_.path(), readable, session_.document())) {
  case DiskAnswer::keep_mine:
    session_.overrule_disk();
    return true;
  case DiskAnswer::save_as:
    done = save_as();
    return false;
  case DiskAnswer::take_theirs: {
    session_.autosave();
    session_.wait_until_kept();
    KeptWork mine;
    mine.file = session_.autosave_path().toStdString();
    if (const auto problem =
            QFile::exists(session_.autosave_path()) ? put_by(mine, Session::state_folder()) : std::nullopt) {
      tell("Your version could not be kept", qt(problem->text()));
      return false;
    }
    done = !session_.open(QString(session_.path()));
    return false;
  }
  case DiskAnswer::cancel:
    return false;
  }
  return false;
}

bool MainWindow::save() {
  if (session_.path().isEmpty()) return save_as();
  bool done = false;
  if (!settle_with_disk(done)) return done;
  if (const auto problem = session_.save(session_.path())) {
    tell("The machine could not be saved", qt(problem->text()));
    return false;
  }
  return true;
}

bool MainWindow::save_as() {
  QString path = QFileDialog::getSaveFileName(this, "Save the machine",
                                              session_.path().isEmpty() ? "machine.fulmox" : session_.path(),
                                              "Fulmox machines (*.fulmox)");
  if (path.isEmpty()) return false;
  if (QFileInfo(path).suffix().isEmpty()) path += ".fulmox";
  if (const auto problem = session_.save(path)) {
    tell("The machine could not be saved", qt(problem->text()));
    return false;
  }
  remember(path);
  return true;
}

bool MainWindow::may_leave() {
  if (!session_.dirty()) return true;
  const auto answer =
      QMessageBox::question(this, "Unsaved changes", "Save the changes to this machine first?",
                            QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel);
  if (answer == QMessageBox::Save) return save();
  if (answer == QMessageBox::Discard) session_.drop_autosave();
  return answer == QMessageBox::Discard;
}

} // namespace fulmox::app
