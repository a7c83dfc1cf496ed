#include "support/runner.hpp"

int main(int argc, char** argv) { return fulmox::testing::run_tests(argc, argv); }
