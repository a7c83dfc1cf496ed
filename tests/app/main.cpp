#include "app/theme/theme.hpp"
#include "support/runner.hpp"

#include <QApplication>
#include <QTemporaryDir>

int main(int argc, char** argv) {
  // also when the build asks only for the list of tests
  qputenv("QT_QPA_PLATFORM", "offscreen");
  // settings and side files of its own, so that test programs may run beside each other and leave nothing
  // behind
  const QTemporaryDir home;
  for (const char* place : {"XDG_DATA_HOME", "XDG_CONFIG_HOME", "XDG_CACHE_HOME"})
    qputenv(place, home.path().toUtf8());
  QApplication application(argc, argv);
  QApplication::setApplicationName("fulmox-tests");
  QApplication::setOrganizationName("fulmox-tests");
  fulmox::app::load_fonts();
  fulmox::app::apply_theme(false);
  return fulmox::testing::run_tests(argc, argv);
}
