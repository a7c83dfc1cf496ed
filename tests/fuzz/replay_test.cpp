#include "core/support/text_file.hpp"
#include "fuzz/harness.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

using namespace fulmox;

TEST_CASE("inputs that once broke a promise, and others that came close, are answered") {
  const auto corpus = testing::source_folder() / "tests" / "fuzz" / "corpus";
  for (const auto& harness : fuzz::harnesses()) {
    int count = 0;
    for (const auto& entry : std::filesystem::directory_iterator(corpus / harness.name)) {
      INFO(entry.path().string());
      const auto text = read_text_file(entry.path(), 1'000'000);
      REQUIRE(text);
      harness.run(*text);
      ++count;
    }
    CHECK(count > 0);
  }
}
