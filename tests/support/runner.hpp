#pragma once

namespace fulmox::testing {

/// Runs the tests that the arguments name; the exit code.
int run_tests(int argc, char** argv);

} // namespace fulmox::testing
