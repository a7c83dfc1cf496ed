#include "core/machine/laid_schedule.hpp"
#include "core/project/names.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

/// Reads the blocks of a document, what each waits for, and places them.
class ScheduleReader {
public:
  ScheduleReader(const Document& document, MachinePower& out) : document_(document), out_(out) {}

  void operator()() {
    read_blocks();
    if (out_.problem.what.empty()) place_blocks();
  }

private:
  struct Condition {
    std::size_t block = 0;
    std::string after;
    double segment = 0.0, delay = 0.0;
  };

  void remark(std::string where, std::string what, std::string remedy) {
    out_.remarks.push_back({std::move(where), std::move(what), std::move(remedy)});
  }

  [[nodiscard]] std::optional<std::size_t> axis_called(const std::string& name) const {
    for (std::size_t i = 0; i < out_.axes.size(); ++i)
      if (out_.axes[i].name == name) return i;
    return std::nullopt;
  }

  /// One condition of a block: after which other one it starts.
  void read_condition(const Section& s, std::string_view after, std::string_view segment,
                      std::string_view delay) {
    if (s.blank(after)) return;
    conditions_.push_back({out_.blocks.size(), s.text(after), s.term(segment), s.term(delay)});
  }

  void read_blocks() {
    if (const auto wrong = faults(document_.pace); !wrong.empty()) {
      out_.problem = wrong.front();
      return;
    }
    const std::vector<Section>& listed = document_.lists.find("blocks")->second;
    for (std::size_t place = 0; place < listed.size(); ++place) {
      const Section& s = listed[place];
      const auto axis = axis_called(s.text("axis"));
      const std::string& name = block_name(s);
      if (!axis) {
        remark(name.empty() ? "Block" : name,
               "its axis \"" + s.text("axis") + "\" is not in the machine; the block is left out.",
               "Choose an axis.");
        continue;
      }
      if (const auto wrong = faults(s); !wrong.empty()) {
        out_.problem = {name, wrong.front().what, wrong.front().remedy};
        return;
      }
      if (out_.axes[*axis].own.pieces.empty()) continue; // told with the axis
      Block block;
      block.name = name;
      block.axis = *axis;
      block.ends = out_.axes[*axis].segment_ends;
      block.offset = s.term("offset");
      block.repeats = static_cast<std::size_t>(s.term("repeats"));
      read_condition(s, "after", "after_segment", "delay");
      read_condition(s, "also_after", "also_segment", "also_delay");
      add_block(std::move(block), place);
    }
    for (std::size_t i = 0; i < out_.axes.size(); ++i)
      if (out_.axes[i].blocks.empty() && !out_.axes[i].own.pieces.empty()) {
        Block block;
        block.name = out_.axes[i].name;
        block.axis = i;
        block.ends = out_.axes[i].segment_ends;
        add_block(std::move(block), std::nullopt);
      }
    link_conditions();
  }

  void add_block(Block block, std::optional<std::size_t> section) {
    if (std::any_of(out_.blocks.begin(), out_.blocks.end(),
                    [&](const Block& other) { return other.name == block.name; }))
      block.name += " (" + std::to_string(out_.blocks.size() + 1) + ")";
    out_.axes[block.axis].blocks.push_back(out_.blocks.size());
    out_.implied.push_back(!section);
    out_.sections.push_back(section.value_or(0));
    out_.blocks.push_back(std::move(block));
  }

  void link_conditions() {
    for (const Condition& c : conditions_) {
      Block& block = out_.blocks[c.block];
      const auto other = std::find_if(out_.blocks.begin(), out_.blocks.end(),
                                      [&](const Block& b) { return b.name == c.after; });
      if (other == out_.blocks.end()) {
        out_.problem = {block.name, "it waits for \"" + c.after + "\", and no block is called that.",
                        "Choose one of the blocks, or leave it blank."};
        return;
      }
      Block::After after;
      after.block = static_cast<std::size_t>(other - out_.blocks.begin());
      after.segment =
          std::isnan(c.segment) ? other->ends.size() - 1 : static_cast<std::size_t>(c.segment) - 1;
      after.delay = std::isnan(c.delay) ? 0.0 : c.delay;
      block.after.push_back(after);
    }
  }

  void place_blocks() {
    if (out_.blocks.empty()) {
      out_.problem = {"Machine", "no axis has a cycle.", "Give an axis moves, or a dwell."};
      return;
    }
    const std::string& cycles = document_.pace.text("cycles");
    if (cycles == "free") return place_freely();
    if (too_many()) return;
    Pace pace;
    pace.cycle = document_.pace.term("cycle");
    pace.overlapping = cycles == "overlap";
    auto placed = place(out_.blocks, pace);
    if (!placed) {
      out_.problem = placed.problem();
      return;
    }
    out_.schedule = *std::move(placed);
    out_.rate = document_.pace.term("parts") / out_.schedule.cycle;
  }

  /// More pieces of power than can be worked with: some hundred bytes each.
  bool too_many() {
    constexpr std::size_t most = 200'000;
    std::size_t count = 0;
    for (const Block& block : out_.blocks) {
      count += block.repeats * out_.axes[block.axis].own.pieces.size();
      if (count <= most) continue;
      out_.problem = {block.name, "the machine's cycle has more than 200 000 stretches of power.",
                      "Let blocks repeat less often, or split the machine's cycle."};
      return true;
    }
    return false;
  }

  /// Axes that repeat on their own: all cycles that fit into the time after which everything repeats.
  void place_freely() {
    std::vector<double> periods;
    for (const Block& block : out_.blocks) periods.push_back(block.duration());
    const auto whole = hyperperiod(periods);
    if (!whole) {
      out_.problem = {"Machine cycle",
                      "the axes' own cycles have no common multiple of up to 100 s, so their powers meet in "
                      "every way.",
                      "Round the cycles to whole milliseconds that fit together, or give the machine one "
                      "cycle; at worst all peaks fall together."};
      return;
    }
    out_.schedule.cycle = out_.schedule.shortest = *whole;
    for (Block& block : out_.blocks) {
      if (!block.after.empty()) {
        out_.problem = {block.name, "an axis that repeats on its own cannot wait for another.",
                        "Take the condition out, or let cycles follow one another."};
        return;
      }
      if (out_.axes[block.axis].blocks.size() > 1) {
        out_.problem = {block.name, "an axis that repeats on its own has one block.", "Take the others out."};
        return;
      }
      const double rounds = std::round(*whole / block.duration());
      block.repeats *= static_cast<std::size_t>(rounds);
      const double start = std::fmod(block.offset, block.duration());
      out_.schedule.blocks.push_back({start, start + *whole, block.length()});
    }
    out_.rate = std::nan("");
    too_many();
  }

  const Document& document_;
  MachinePower& out_;
  std::vector<Condition> conditions_;
};

} // namespace

void lay_schedule(const Document& document, MachinePower& machine) { ScheduleReader(document, machine)(); }

} // namespace fulmox
