#include "core/schedule/schedule.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <numeric>

namespace fulmox {
namespace {

constexpr std::size_t most_repeats = 100'000;
constexpr double same_time = 1e-9; // s: ends and starts that close are one moment

bool bad_time(double t) { return !std::isfinite(t) || t < 0.0; }

std::string quoted(const Block& block) { return "\"" + block.name + "\""; }

std::string seconds(double t) {
  std::string text = std::to_string(t);
  text.erase(text.find_last_not_of('0') + 1);
  if (text.back() == '.') text.pop_back();
  return text + " s";
}

std::optional<Problem> fault_of(std::span<const Block> blocks, std::size_t at) {
  const Block& block = blocks[at];
  if (block.ends.empty() || !(block.length() > 0.0) || !std::isfinite(block.length()))
    return Problem{block.name, "its axis has no cycle that takes time.",
                   "Give the axis a move or a dwell, or take the block out."};
  if (bad_time(block.offset))
    return Problem{block.name, "its offset must be a time of at least 0 s.", "Type 0 s or more."};
  if (block.repeats < 1 || block.repeats > most_repeats)
    return Problem{block.name, "it must run 1 to 100 000 times.", "Type a whole number in that range."};
  for (const Block::After& after : block.after) {
    if (after.block == at)
      return Problem{block.name, "it waits for itself.", "Let it wait for another block, or for none."};
    if (after.block >= blocks.size())
      return Problem{block.name, "it waits for a block that is not there.", "Choose one of the blocks."};
    const Block& other = blocks[after.block];
    if (after.segment >= other.ends.size())
      return Problem{block.name,
                     "it waits for segment " + std::to_string(after.segment + 1) + " of " + quoted(other) +
                         ", which has " + std::to_string(other.ends.size()) + ".",
                     "Choose a segment that is there."};
    if (bad_time(after.delay))
      return Problem{block.name, "its delay must be a time of at least 0 s.", "Type 0 s or more."};
  }
  return std::nullopt;
}

/// Blocks in an order in which each stands after all it waits for; or the circle, by name.
Expected<std::vector<std::size_t>> in_order(std::span<const Block> blocks) {
  enum class Mark : std::uint8_t { fresh, on_path, done };
  std::vector<Mark> marks(blocks.size(), Mark::fresh);
  std::vector<std::size_t> order, path, next;
  for (std::size_t root = 0; root < blocks.size(); ++root) {
    if (marks[root] == Mark::done) continue;
    path = {root};
    next = {0};
    marks[root] = Mark::on_path;
    while (!path.empty()) { // depth first, without recursion: a chain may be long
      const std::size_t here = path.back();
      if (next.back() == blocks[here].after.size()) {
        marks[here] = Mark::done;
        order.push_back(here);
        path.pop_back();
        next.pop_back();
        continue;
      }
      const std::size_t other = blocks[here].after[next.back()++].block;
      if (marks[other] == Mark::on_path) {
        std::string circle;
        for (auto i = std::find(path.begin(), path.end(), other); i != path.end(); ++i)
          circle += blocks[*i].name + " → ";
        return Problem{blocks[other].name,
                       "blocks wait for each other in a circle: " + circle + blocks[other].name + ".",
                       "Take one of these conditions out, or split a cycle into two blocks."};
      }
      if (marks[other] == Mark::fresh) {
        marks[other] = Mark::on_path;
        path.push_back(other);
        next.push_back(0);
      }
    }
  }
  return order;
}

/// s from the start of a block to the end of one of its segments in its last repeat.
double lag(const Block& block, const Block::After& after) {
  return static_cast<double>(block.repeats - 1) * block.length() + block.ends[after.segment] + after.delay;
}

/// Two blocks of one axis that run at the same time, cycle after cycle.
std::optional<Problem> clash(std::span<const Block> blocks, const Schedule& schedule) {
  for (std::size_t i = 0; i < blocks.size(); ++i)
    for (std::size_t k = 0; k < i; ++k) {
      if (blocks[i].axis != blocks[k].axis) continue;
      const PlacedBlock &a = schedule.blocks[i], &b = schedule.blocks[k];
      for (const double shift : {-schedule.cycle, 0.0, schedule.cycle})
        if (a.start + shift < b.end - same_time && b.start < a.end + shift - same_time)
          return Problem{blocks[i].name,
                         "it runs at the same time as " + quoted(blocks[k]) +
                             ", and both are cycles of one axis.",
                         "Start it after the other one has ended."};
    }
  return std::nullopt;
}

void find_slack(std::span<const Block> blocks, std::span<const std::size_t> order, Schedule& schedule) {
  std::vector<double> latest(blocks.size());
  for (std::size_t i = 0; i < blocks.size(); ++i) latest[i] = schedule.cycle - blocks[i].duration();
  for (auto i = order.rbegin(); i != order.rend(); ++i)
    for (const Block::After& after : blocks[*i].after)
      latest[after.block] =
          std::min(latest[after.block], latest[*i] - blocks[*i].offset - lag(blocks[after.block], after));
  for (std::size_t i = 0; i < blocks.size(); ++i) {
    PlacedBlock& placed = schedule.blocks[i];
    placed.slack = latest[i] - placed.start;
    for (std::size_t k = 0; k < blocks.size(); ++k) // it may not run into the axis's next block either
      if (k != i && blocks[k].axis == blocks[i].axis && schedule.blocks[k].start >= placed.end - same_time)
        placed.slack = std::min(placed.slack, schedule.blocks[k].start - placed.end);
    placed.slack = std::max(0.0, placed.slack);
  }
}

/// Starts taken into the cycle: what is beyond its end runs at the start of the next.
std::optional<Problem> wrap(std::span<const Block> blocks, Schedule& schedule) {
  for (std::size_t i = 0; i < blocks.size(); ++i) {
    PlacedBlock& placed = schedule.blocks[i];
    if (blocks[i].duration() > schedule.cycle + same_time)
      return Problem{blocks[i].name,
                     "it takes " + seconds(blocks[i].duration()) + ", longer than the machine's cycle of " +
                         seconds(schedule.cycle) + ".",
                     "Give the machine a longer cycle or let the block repeat less often."};
    placed.start = std::fmod(placed.start, schedule.cycle);
    placed.end = placed.start + blocks[i].duration();
    placed.slack = 0.0; // any later start also moves where it ends in the next cycle
  }
  return std::nullopt;
}

} // namespace

Expected<Schedule> place(std::span<const Block> blocks, const Pace& pace) {
  for (std::size_t i = 0; i < blocks.size(); ++i)
    if (auto fault = fault_of(blocks, i)) return *fault;
  if (!std::isnan(pace.cycle) && !(pace.cycle > 0.0 && std::isfinite(pace.cycle)))
    return Problem{"Machine cycle", "it must take some time.", "Type a time above 0 s or leave it blank."};
  const auto order = in_order(blocks);
  if (!order) return order.problem();

  Schedule out;
  out.blocks.resize(blocks.size());
  for (const std::size_t i : *order) {
    double from = 0.0;
    for (const Block::After& after : blocks[i].after)
      from = std::max(from, out.blocks[after.block].start + lag(blocks[after.block], after));
    out.blocks[i].start = from + blocks[i].offset;
    out.blocks[i].end = out.blocks[i].start + blocks[i].duration();
    out.shortest = std::max(out.shortest, out.blocks[i].end);
  }
  out.cycle = std::isnan(pace.cycle) ? out.shortest : pace.cycle;
  if (pace.overlapping && !std::isnan(pace.cycle)) {
    if (auto fault = wrap(blocks, out)) return *fault;
  } else {
    if (out.cycle < out.shortest - same_time)
      return Problem{"Machine cycle",
                     seconds(out.cycle) + " is shorter than its blocks, which take " + seconds(out.shortest) +
                         ".",
                     "Type at least that, or let cycles overlap."};
    find_slack(blocks, *order, out);
  }
  if (auto fault = clash(blocks, out)) return *fault;
  return out;
}

std::optional<double> hyperperiod(std::span<const double> periods, double most) {
  constexpr double per_second = 1e6;
  std::int64_t all = 1;
  for (const double period : periods) {
    const double ticks = period * per_second;
    if (!(ticks >= 1.0) || ticks > most * per_second) return std::nullopt;
    const auto whole = std::llround(ticks);
    if (std::abs(ticks - static_cast<double>(whole)) > 1e-3) return std::nullopt;
    // both are at most 1e8: their product fits
    all = std::lcm(all, static_cast<std::int64_t>(whole));
    if (static_cast<double>(all) > most * per_second) return std::nullopt;
  }
  if (periods.empty()) return std::nullopt;
  return static_cast<double>(all) / per_second;
}

} // namespace fulmox
