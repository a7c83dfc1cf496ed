#include "app/main_window.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"

#include <QApplication>
#include <QCommandLineParser>
#include <QIcon>
#include <QMessageBox>
#include <QSettings>
#include <QTimer>

#include <cstdio>
#include <exception>

using namespace fulmox;
using namespace fulmox::app;

namespace {

/// The border of the window: what an event handler throws is told, and the work stays open.
class Application final : public QApplication {
public:
  using QApplication::QApplication;

  bool notify(QObject* receiver, QEvent* event) override {
    try {
      return QApplication::notify(receiver, event);
    } catch (const std::exception& error) {
      QMessageBox::warning(
          nullptr, "Fulmox could not do that",
          QString("This is a fault of the program (%1). Your work is still open: save it under "
                  "another name.")
              .arg(error.what()));
      return false;
    }
  }
};

} // namespace

int main(int argc, char** argv) {
  Application application(argc, argv);
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
      window.open(files.front());
    } else if (!window.offer_unnamed() && options.isSet(demo)) {
      window.open_demo();
    }
  });
  return QApplication::exec();
}
