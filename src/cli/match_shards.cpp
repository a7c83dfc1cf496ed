#include "cli/match_shards.hpp"

#include "cli/input.hpp"
#include "core/project/document.hpp"
#include "core/quantity/number_text.hpp"
#include "core/support/text_file.hpp"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <iostream>
#include <map>
#include <optional>

namespace fulmox::cli {
namespace {

using Json = nlohmann::ordered_json;

constexpr std::string_view format = "fulmox-match-shard";

/// FNV-1a, 64 bits (from memory): the same on every machine.
class Digest {
public:
  void add(std::string_view text) {
    constexpr std::uint64_t prime = 1099511628211U;
    for (const char c : text) value_ = (value_ ^ static_cast<unsigned char>(c)) * prime;
    value_ = (value_ ^ 0xffU) * prime; // so that "ab" "c" is not "a" "bc"
  }
  [[nodiscard]] std::string text() const { return fmt::format("{:016x}", value_); }

private:
  std::uint64_t value_ = 14695981039346656037U;
};

void add(Digest& digest, const Section& section) {
  digest.add(section.spec().id);
  for (std::size_t i = 0; i < section.size(); ++i) digest.add(section.entry(i).text);
}

/// A shard as it was read.
struct Piece {
  std::string file;
  Json head, answer;
};

Expected<Piece> read_piece(const std::string& file) {
  constexpr std::uintmax_t limit = 1024U * 1024U * 1024U;
  const auto text = read_text_file(file, limit);
  if (!text) return text.problem();
  const auto lines = [&] {
    std::vector<std::string_view> all;
    for (std::size_t at = 0; at < text->size();) {
      const std::size_t end = std::min(text->find('\n', at), text->size());
      all.push_back(std::string_view(*text).substr(at, end - at));
      at = end + 1;
    }
    return all;
  }();
  const Problem broken{file, "this is no whole shard of a search.",
                       "Run fulmox-cli match with --shard again and keep all it prints."};
  constexpr std::size_t whole = 3;
  if (lines.size() != whole) return broken;
  Piece piece{file, Json::parse(lines[0], nullptr, false), Json::parse(lines[1], nullptr, false)};
  const Json last = Json::parse(lines[2], nullptr, false);
  if (!piece.head.is_object() || piece.head.value("format", "") != format || !piece.answer.is_object() ||
      !last.is_object() || !last.value("done", false))
    return broken;
  return piece;
}

/// Why these shards do not make one search; nothing where they do.
std::optional<Problem> misfit(const std::vector<Piece>& pieces, bool partial,
                              std::vector<std::size_t>& missing) {
  const auto parts = pieces.front().head.value("parts", std::size_t{0});
  std::map<std::size_t, std::string> seen;
  for (const Piece& piece : pieces) {
    for (const char* same : {"question", "parts", "top", "misses", "version"})
      if (piece.head.value(same, Json()) != pieces.front().head.value(same, Json()))
        return Problem{
            piece.file,
            fmt::format("it belongs to another search than {} ({} differs).", pieces.front().file, same),
            "Merge only shards of one search."};
    const auto part = piece.head.value("part", std::size_t{0});
    const auto [first, fresh] = seen.emplace(part, piece.file);
    if (!fresh)
      return Problem{piece.file, fmt::format("shard {} was given already by {}.", part, first->second),
                     "Give each once."};
  }
  for (std::size_t part = 0; part < parts; ++part)
    if (!seen.contains(part)) missing.push_back(part);
  if (missing.empty() || partial) return std::nullopt;
  return Problem{"merge", fmt::format("shard {} of {} is missing.", missing.front(), parts),
                 "Add it, or say --partial to merge what is there."};
}

using Order = std::tuple<int, double, std::vector<std::uint32_t>>;
Order order_of(const Json& row) {
  const Json& order = row.at("order");
  return {order.at("missing").get<int>(), order.at("sum").get<double>(),
          order.at("place").get<std::vector<std::uint32_t>>()};
}

/// Shares without end are written as nothing.
double used_of(const Json& row) {
  return row.at("used").is_null() ? std::numeric_limits<double>::infinity() : row.at("used").get<double>();
}

Json merged(const std::vector<Piece>& pieces) {
  Json out;
  for (const char* sum : {"tried", "cannot_be_fed"}) {
    double all = 0.0;
    for (const Piece& piece : pieces) all += piece.answer.at(sum).get<double>();
    out[sum] = all;
  }
  for (const char* sum : {"fit", "listed"}) {
    std::size_t all = 0;
    for (const Piece& piece : pieces) all += piece.answer.at(sum).get<std::size_t>();
    out[sum] = all;
  }
  const auto gather = [&](const char* list, std::size_t most, const auto& before) {
    std::vector<Json> rows;
    for (const Piece& piece : pieces)
      for (const Json& row : piece.answer.at(list)) rows.push_back(row);
    std::stable_sort(rows.begin(), rows.end(), before);
    if (rows.size() > most) rows.resize(most);
    for (Json& row : rows) row.erase("smaller_does_better"); // the motor may be in another shard
    return Json(rows);
  };
  const Json& head = pieces.front().head;
  out["top"] = gather("top", head.at("top").get<std::size_t>(),
                      [](const Json& a, const Json& b) { return order_of(a) < order_of(b); });
  out["near_misses"] =
      gather("near_misses", head.at("misses").get<std::size_t>(), [](const Json& a, const Json& b) {
        const double x = used_of(a), y = used_of(b);
        return x != y ? x < y : std::get<2>(order_of(a)) < std::get<2>(order_of(b));
      });
  std::map<std::string, double> killers;
  for (const Piece& piece : pieces)
    for (const Json& killer : piece.answer.at("ruled_out_by"))
      killers[killer.at("limit").get<std::string>()] += killer.at("combinations").get<double>();
  std::vector<Json> ruled_out;
  ruled_out.reserve(killers.size());
  for (const auto& [limit, number] : killers)
    ruled_out.push_back({{"limit", limit}, {"combinations", number}});
  std::stable_sort(ruled_out.begin(), ruled_out.end(), [](const Json& a, const Json& b) {
    return a.at("combinations").get<double>() > b.at("combinations").get<double>();
  });
  out["ruled_out_by"] = ruled_out;
  out["unusable"] = pieces.front().answer.at("unusable");
  Json counts;
  for (const Facet& facet : facets()) {
    std::map<std::string, std::size_t> values;
    for (const Piece& piece : pieces)
      if (const Json& all = piece.answer.at("counts"); all.contains(facet.id))
        for (const auto& [value, number] : all.at(std::string(facet.id)).items())
          values[value] += number.get<std::size_t>();
    for (const auto& [value, number] : values) counts[std::string(facet.id)][value] = number;
  }
  out["counts"] = counts;
  return out;
}

} // namespace

Expected<Shard> read_shard(const std::string& text) {
  const auto slash = text.find('/');
  const auto part = read_number(text.substr(0, slash));
  const auto parts = slash == std::string::npos ? std::nullopt : read_number(text.substr(slash + 1));
  constexpr double most = 1e6;
  const bool sound = part && parts && *part >= 0.0 && *part < *parts && *parts <= most &&
                     *part == std::floor(*part) && *parts == std::floor(*parts);
  if (!sound)
    return Problem{"--shard", "'" + text + "' is no part of a search.",
                   "Write i/n with i from 0 to n − 1, like 3/64."};
  return Shard{static_cast<std::size_t>(*part), static_cast<std::size_t>(*parts)};
}

std::string question_of(const Axis& axis, const Section& house_rules, const MatchSpace& space,
                        const MatchOptions& options) {
  Digest digest;
  Document alone;
  alone.house_rules = house_rules;
  alone.axes = {axis};
  digest.add(to_json(alone));
  for (const auto* choices : {&space.motors, &space.heads, &space.drives, &space.brakes, &space.couplings})
    for (const PartChoice& choice : *choices) add(digest, choice.section);
  for (const auto* texts : {&options.weights, &options.filters})
    for (const std::string& text : *texts) digest.add(text);
  return digest.text();
}

std::string shard_text(const ShardTask& task, const MatchAnswer& answer) {
  const Json head{{"format", format},        {"version", FULMOX_VERSION}, {"question", task.question},
                  {"part", task.shard.part}, {"parts", task.shard.parts}, {"top", task.top},
                  {"misses", task.misses}};
  return head.dump() + "\n" + answer_json(answer, task.top).dump() + "\n" + Json{{"done", true}}.dump() +
         "\n";
}

CLI::App* merge_options(CLI::App& app, MergeOptions& o) {
  auto* command = app.add_subcommand("merge", "One answer from the shards of a search, as JSON");
  command->add_option("SHARD", o.files, "What fulmox-cli match --shard printed, a file each")->required();
  command->add_flag("--partial", o.partial, "Merge although some are missing");
  command->add_flag("--json", o.json, "Print JSON, as it does anyway");
  return command;
}

int merge_command(const MergeOptions& o) {
  std::vector<Piece> pieces;
  for (const std::string& file : o.files) {
    auto piece = read_piece(file);
    if (!piece) return fail(piece.problem());
    pieces.push_back(std::move(*piece));
  }
  std::vector<std::size_t> missing;
  if (const auto problem = misfit(pieces, o.partial, missing)) return fail(*problem);
  // whatever order they are given in
  std::stable_sort(pieces.begin(), pieces.end(), [](const Piece& a, const Piece& b) {
    return a.head.value("part", std::size_t{0}) < b.head.value("part", std::size_t{0});
  });
  try {
    Json out = merged(pieces);
    if (!missing.empty()) out["missing_shards"] = missing;
    std::cout << out.dump(2) << "\n";
  } catch (const Json::exception& error) {
    return fail({o.files.front(),
                 std::string("these shards do not hold what they should (") + error.what() + ").",
                 "Run fulmox-cli match with --shard again."});
  }
  return good;
}

} // namespace fulmox::cli
