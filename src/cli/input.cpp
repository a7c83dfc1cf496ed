#include "cli/input.hpp"

#include <iostream>

namespace fulmox::cli {

int fail(const Problem& problem) {
  std::cerr << "fulmox-cli: " << problem.text() << "\n";
  return bad_input;
}

Expected<std::size_t> chosen_axis(const Document& document, const std::string& name) {
  std::string known;
  for (std::size_t i = 0; i < document.axes.size(); ++i) {
    if (name.empty() || document.axes[i].name == name) return i;
    known += (known.empty() ? "" : ", ") + document.axes[i].name;
  }
  return Problem{"--axis", "there is no axis '" + name + "'.", "The file holds: " + known + "."};
}

} // namespace fulmox::cli
