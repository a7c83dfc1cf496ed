#pragma once
#include <vector>

namespace fulmox::testing {

struct Example {
  const char* id;
  std::vector<const char*> inputs; ///< in the order of the parameters, with units where they have any
  const char* result;
  const char* how; ///< where the expected value comes from
};

/// Motion, load, mechanisms, stages.
const std::vector<Example>& mechanics_examples();
/// Heat, stops, springs, accuracy.
const std::vector<Example>& axis_examples();

} // namespace fulmox::testing
