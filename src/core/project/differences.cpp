#include "core/project/differences.hpp"

#include <algorithm>
#include <cassert>

namespace fulmox {
namespace {

class Comparison {
public:
  void of(const Document& before, const Document& after) {
    differ("Name of the machine", before.name, after.name);
    const auto units = [](const Document& d) { return d.units == UnitSet::inch ? "inch" : "SI"; };
    differ("Units", units(before), units(after));
    of(before.house_rules, after.house_rules);
    of(before.duty, after.duty);
    of(before.pace, after.pace);
    for (const MachineListSpec* list : machine_lists())
      of(before.lists.find(list->id)->second, after.lists.find(list->id)->second, list->what);
    for (std::size_t i = 0; i < std::max(before.axes.size(), after.axes.size()); ++i)
      of(i < before.axes.size() ? &before.axes[i] : nullptr,
         i < after.axes.size() ? &after.axes[i] : nullptr);
  }

  std::vector<Difference> found;

private:
  void differ(std::string input, const std::string& before, const std::string& after) {
    if (before != after) found.push_back({axis_, std::move(input), before, after});
  }

  static std::string summary(const Axis* axis) { return axis == nullptr ? "" : "“" + axis->name + "”"; }

  /// At least one of them is there.
  void of(const Axis* before, const Axis* after) {
    assert(before != nullptr || after != nullptr);
    axis_ = after != nullptr ? after->name : before->name;
    if (before == nullptr || after == nullptr)
      return differ("The whole axis", summary(before), summary(after));
    differ("Name of the axis", before->name, after->name);
    for (std::size_t i = 0; i < axis_slots().size(); ++i) of(before->givens[i], after->givens[i]);
    for (const ListInfo& list : section_lists()) of(before->*list.member, after->*list.member, list.what);
  }

  void of(const std::vector<Section>& before, const std::vector<Section>& after, std::string_view what) {
    for (std::size_t i = 0; i < std::max(before.size(), after.size()); ++i) {
      if (i < before.size() && i < after.size()) {
        of(before[i], after[i]);
        continue;
      }
      const auto title = [&](const std::vector<Section>& in) {
        return i < in.size() ? std::string(in[i].spec().title) : std::string();
      };
      differ(std::string(what) + " " + std::to_string(i + 1), title(before), title(after));
    }
  }

  void of(const Section& before, const Section& after) {
    if (before.content() == after.content()) return;
    if (&before.spec() != &after.spec()) {
      differ(after.path, std::string(before.spec().title), std::string(after.spec().title));
      return;
    }
    for (std::size_t i = 0; i < after.size(); ++i)
      differ(describe_path(after, after.field(i).id),
             std::string(words_of(after.field(i), before.entry(i).text)),
             std::string(words_of(after.field(i), after.entry(i).text)));
  }

  std::string axis_;
};

} // namespace

std::vector<Difference> differences(const Document& before, const Document& after) {
  Comparison comparison;
  comparison.of(before, after);
  return std::move(comparison.found);
}

} // namespace fulmox
