#pragma once
#include <cstring>

namespace fulmox {

/// Two numbers that the processor takes in one step.
using Two = double __attribute__((vector_size(16)));

inline Two two_at(const double* numbers) {
  Two out;
  std::memcpy(&out, numbers, sizeof out);
  return out;
}

inline void put(const Two& two, double* numbers) { std::memcpy(numbers, &two, sizeof two); }

} // namespace fulmox
