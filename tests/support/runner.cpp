#define CATCH_CONFIG_RUNNER
#include "support/runner.hpp"

#include <catch2/catch.hpp>

// Apart from any main: Catch's own runner takes a quarter of a minute to compile, and one is enough for all
// programs.
int fulmox::testing::run_tests(int argc, char** argv) { return Catch::Session().run(argc, argv); }
