#pragma once
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <string>
#include <vector>

namespace fulmox::bench {

using Clock = std::chrono::steady_clock;

inline double milliseconds(Clock::duration duration) {
  return std::chrono::duration<double, std::milli>(duration).count();
}

inline void print(const std::string& what, std::vector<double> times) {
  std::sort(times.begin(), times.end());
  const auto at = [&](double share) {
    return times[static_cast<std::size_t>(share * static_cast<double>(times.size() - 1))];
  };
  std::printf("%-44s median %7.3f ms   p99 %7.3f ms   max %7.3f ms   n %zu\n", what.c_str(), at(0.5),
              at(0.99), times.back(), times.size());
}

/// Runs only the lines that hold this text.
inline std::string only;

template <class Work> void repeat(const std::string& what, int times, Work work) {
  if (what.find(only) == std::string::npos) return;
  work(); // warms caches
  std::vector<double> all;
  for (int i = 0; i < times; ++i) {
    const auto start = Clock::now();
    work();
    all.push_back(milliseconds(Clock::now() - start));
  }
  print(what, std::move(all));
}

} // namespace fulmox::bench
