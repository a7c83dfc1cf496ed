// Hands what libFuzzer makes up to the harness this program was built for.

#include "fuzz/harness.hpp"

#include <cstdint>
#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  static const fulmox::fuzz::Harness* const chosen = [] {
    for (const auto& harness : fulmox::fuzz::harnesses())
      if (harness.name == FULMOX_HARNESS) return &harness;
    std::abort();
  }();
  chosen->run({reinterpret_cast<const char*>(data), size});
  return 0;
}
