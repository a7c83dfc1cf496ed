#pragma once
#include "core/project/document.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// A member of a file that no input of its form is called: misspelt, or from another version. It is kept, and
/// counts for nothing, so it must be told. Names that begin with _, $ or // are remarks of whoever wrote
/// them.
struct Unread {
  std::string section;    ///< where it stands: "cycle[2]", "house_rules"; "" for axis or machine itself
  std::string name;       ///< "process_force"
  std::string_view meant; ///< the name that comes nearest; "" where none does
  bool another_kinds =
      false; ///< an input of another kind of this part or segment, kept for when that is back

  [[nodiscard]] std::string where() const { return section.empty() ? name : section + "." + name; }
};

/// What nothing reads on an axis, in the order of its forms.
std::vector<Unread> unread_members(const Axis& axis);
/// What nothing reads in a form that is never of another kind, such as a set of house rules.
std::vector<Unread> unread_members(const Section& section);
/// What nothing reads in the machine and on all its axes; sections of these begin with "axes[0].".
std::vector<Unread> unread_members(const Document& document);

/// Takes them out; what is kept for another kind stays.
void leave_out_unread(Document& document);

/// As a problem of the file.
Problem problem_of(const Unread& member);

} // namespace fulmox
