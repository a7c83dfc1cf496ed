#pragma once
#include <algorithm>
#include <cstddef>
#include <iterator>
#include <thread>
#include <vector>

namespace fulmox {

/// Calls `work(from, to)` for so many parts of 0 … n, each in a thread of its own, and gives what they give
/// one after the other: the same whatever the number of threads. `work` gives a vector and must not throw.
/// Fewer than `worth_a_thread` are left to one.
template <class Work>
auto in_parts(std::size_t n, unsigned threads, std::size_t worth_a_thread, const Work& work) {
  const std::size_t number = std::clamp<std::size_t>(n / worth_a_thread, 1, std::max(1U, threads));
  if (number == 1) return work(std::size_t{0}, n);
  std::vector<decltype(work(n, n))> parts(number);
  std::vector<std::thread> others;
  const auto begin_of = [&](std::size_t part) { return part * n / number; };
  for (std::size_t part = 1; part < number; ++part)
    others.emplace_back([&, part] { parts[part] = work(begin_of(part), begin_of(part + 1)); });
  parts[0] = work(begin_of(0), begin_of(1));
  for (std::thread& one : others) one.join();
  auto& all = parts[0];
  for (std::size_t part = 1; part < number; ++part)
    std::move(parts[part].begin(), parts[part].end(), std::back_inserter(all));
  return std::move(all);
}

} // namespace fulmox
