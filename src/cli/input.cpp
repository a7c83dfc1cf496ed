#include "cli/input.hpp"

#include "core/project/names.hpp"

#include <iostream>

namespace fulmox::cli {

int fail(const Problem& problem) {
  std::cerr << "fulmox-cli: " << problem.text() << "\n";
  return bad_input;
}

void tell_unjudged(const Document& document, std::size_t axis) {
  for (const Problem& fault : bus_faults(document, axis)) fail(fault);
}

Expected<std::size_t> chosen_axis(const Document& document, const std::string& name) {
  std::string known;
  for (std::size_t i = 0; i < document.axes.size(); ++i) {
    if (name.empty()) return i;
    if (document.axes[i].name == name) {
      if (!another_axis_called(document, i, name)) return i;
      return Problem{"--axis", "several axes are called '" + name + "'.",
                     "Give each a name of its own in the file."};
    }
    known += (known.empty() ? "" : ", ") + document.axes[i].name;
  }
  return Problem{"--axis", "there is no axis '" + name + "'.", "The file holds: " + known + "."};
}

} // namespace fulmox::cli
