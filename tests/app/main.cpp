#define CATCH_CONFIG_RUNNER
#include <catch2/catch.hpp>

#include "app/theme/theme.hpp"

#include <QApplication>
#include <QStandardPaths>

int main(int argc, char** argv) {
  // also when the build asks only for the list of tests
  qputenv("QT_QPA_PLATFORM", "offscreen");
  QStandardPaths::setTestModeEnabled(true);
  QApplication application(argc, argv);
  QApplication::setApplicationName("fulmox-tests");
  QApplication::setOrganizationName("fulmox-tests");
  fulmox::app::load_fonts();
  fulmox::app::apply_theme(false);
  return Catch::Session().run(argc, argv);
}
