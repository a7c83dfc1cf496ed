#include "app/main_window.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"

#include <QApplication>
#include <QCommandLineParser>
#include <QFile>
#include <QIcon>
#include <QMessageBox>
#include <QSettings>
#include <QTimer>

#include <cstdio>

using namespace fulmox;
using namespace fulmox::app;

namespace {

/// Work that an earlier run could not save. True when it was taken over.
bool offer_recovery(Session& session, MainWindow& window, const QString& path) {
  const QString aside = session.autosave_path();
  if (!QFile::exists(aside)) return false;
  auto kept = load_document(aside.toStdString());
  if (!kept) return false;
  const auto answer =
      QMessageBox::question(&window, "Unsaved work was kept",
                            "Fulmox ended without saving last time. Take up the work where it was?\n"
                            "If not, it is thrown away.",
                            QMessageBox::Yes | QMessageBox::No, QMessageBox::Yes);
  if (answer != QMessageBox::Yes) {
    QFile::remove(aside);
    return false;
  }
  session.adopt(std::move(*kept), path, false);
  session.autosave();
  return true;
}

} // namespace

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  QApplication::setApplicationName("fulmox");
  QApplication::setOrganizationName("fulmox");
  QApplication::setApplicationVersion(FULMOX_VERSION);
  QApplication::setDesktopFileName("fulmox");
  QCommandLineParser options;
  options.setApplicationDescription("Sizes servo axes: motors, gearheads and drives.");
  options.addHelpOption();
  options.addVersionOption();
  const QCommandLineOption demo("demo", "Open the demo machine.");
  const QCommandLineOption dark("dark", "Start in the dark look.");
  options.addOptions({demo, dark});
  options.addPositionalArgument("FILE", "A .fulmox machine to open.", "[FILE]");
  options.process(application);

  load_fonts();
  apply_theme(options.isSet(dark) || QSettings().value("dark", false).toBool());
  QApplication::setWindowIcon(QIcon(":/icons/fulmox.svg"));
  Session session;
  if (const auto problem = session.load_data()) {
    std::fprintf(stderr, "fulmox: %s\n", problem->text().c_str());
    QMessageBox::critical(nullptr, "Fulmox cannot start", qt(problem->text()));
    return 1;
  }
  MainWindow window(session);
  session.start_empty();
  window.show();
  QTimer::singleShot(0, &window, [&] {
    const QStringList files = options.positionalArguments();
    if (!files.isEmpty()) {
      if (window.open(files.front())) offer_recovery(session, window, files.front());
    } else if (!offer_recovery(session, window, "") && options.isSet(demo)) {
      window.open_demo();
    }
  });
  return QApplication::exec();
}
