#pragma once
#include <string>
#include <string_view>

namespace fulmox {

/// A running program: its number is given out again after it ended, so its start counts too.
struct Process {
  std::string host;
  int id = 0;
  unsigned long long start = 0; ///< clock ticks since the machine was started

  bool operator==(const Process&) const = default;
  /// "host-id-start" in hexadecimal, fit for a file name.
  [[nodiscard]] std::string text() const;
};

/// Reads Process::text(); id 0 when it is none.
Process process_from(std::string_view text);

Process this_process();
/// Whether it runs still. What runs on another machine cannot be known from here and counts as running.
bool running(const Process& process);

} // namespace fulmox
