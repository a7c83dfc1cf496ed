#pragma once
#include "cli/match.hpp"
#include "cli/match_answer.hpp"
#include "core/support/expected.hpp"

namespace fulmox::cli {

/// Part `part` of `parts`, counted from 0.
struct Shard {
  std::size_t part = 0, parts = 1;
};
/// "3/64".
Expected<Shard> read_shard(const std::string& text);

/// What decides about the answer: axis, rules, every part that is tried, weights and filters, as a number to
/// tell shards of different questions apart.
std::string question_of(const Axis& axis, const Section& house_rules, const MatchSpace& space,
                        const MatchOptions& options);

struct ShardTask {
  Shard shard;
  std::size_t top = 0, misses = 0;
  std::string question;
};
/// The answer of a shard: a line that says what it belongs to, the answer, and a last line without which it
/// is not whole.
std::string shard_text(const ShardTask& task, const MatchAnswer& answer);

/// What the merge command is told.
struct MergeOptions {
  std::vector<std::string> files;
  bool partial = false, json = true;
};
CLI::App* merge_options(CLI::App& app, MergeOptions& options);
/// The answer of the whole search from those of its shards, the same as if it had been done at once.
int merge_command(const MergeOptions& options);

} // namespace fulmox::cli
