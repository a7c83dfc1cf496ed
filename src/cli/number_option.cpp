#include "cli/number_option.hpp"

#include "core/quantity/number_text.hpp"

namespace fulmox::cli {

CLI::Validator number_from(double low, double high) {
  const std::string told =
      "must be a number from " + number_text(low, 6) + " to " + number_text(high, 6) + ".";
  return {[=](const std::string& text) {
            const auto value = read_number(text);
            return value && *value >= low && *value <= high ? std::string() : text + " " + told;
          },
          "NUMBER"};
}

} // namespace fulmox::cli
