#pragma once
#include <span>
#include <string_view>

namespace fulmox::fuzz {

/// One reader under fire. It must answer anything: with a value or with a problem, never with an abort, and a
/// value that is kept must read back the same.
struct Harness {
  std::string_view name; ///< of its folder in the corpus, too
  void (*run)(std::string_view input);
};
std::span<const Harness> harnesses();

/// Ends the program when a promise is broken: what runs a harness takes that as a find.
void require(bool kept, const char* promise, std::string_view detail = {});

} // namespace fulmox::fuzz
