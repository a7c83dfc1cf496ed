#include "cli/match.hpp"

#include "cli/limit_json.hpp"

#include "cli/input.hpp"
#include "cli/match_answer.hpp"
#include "cli/match_input.hpp"
#include "cli/match_shards.hpp"
#include "core/match/rejected_parts.hpp"
#include "core/match/remarks.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/number_text.hpp"
#include "core/support/data_folder.hpp"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <cmath>
#include <iostream>
#include <thread>

namespace fulmox::cli {
namespace {

std::string parts_text(const MatchSpace& space, const Combination& parts) {
  const auto name = [](const PartChoice& choice, const char* none) {
    return choice.none() ? none : choice.name();
  };
  return fmt::format("{:<28}{:<14}{:<14}", name(space.motors[parts.motor], "–"),
                     name(space.heads[parts.head], "direct"), name(space.drives[parts.drive], "–"));
}

std::string row_text(const MatchSpace& space, const Trial& trial) {
  const auto number = [&](std::string_view id) {
    const double value = find_yardstick(id)->value(space, trial);
    return std::isfinite(value) ? fmt::format("{:.4g}", value) : std::string("–");
  };
  return fmt::format("{}{:>9}{:>8}{:>9}{:>9}  {}", parts_text(space, trial.parts), percent_used(trial.used),
                     number("price"), number("mass"), number("ratio"), trial.worst);
}

std::string answer_text(const MatchAnswer& a, std::size_t top) {
  std::string out =
      fmt::format("{:.0f} combinations, {} fit, {} listed\n", a.result.tried, a.result.fits.size(), a.listed);
  const std::string head = fmt::format("{:<28}{:<14}{:<14}{:>9}{:>8}{:>9}{:>9}  {}\n", "motor", "gearhead",
                                       "drive", "used", "price", "mass kg", "inertia", "worst limit");
  out += head;
  for (std::size_t i = 0; i < std::min(top, a.order.size()); ++i)
    out += row_text(a.space, a.result.fits[a.order[i]]) + "\n";
  if (!a.result.misses.empty()) out += "\nNearest misses\n" + head;
  for (const Miss& miss : a.result.misses) out += row_text(a.space, miss.trial) + "\n";
  out += "\nRuled out by\n";
  for (const Killer& killer : ruled_out(a.result))
    out += fmt::format("{:<32}{:>12.0f}\n", killer.limit, killer.combinations);
  for (const Unusable& part : a.result.unusable) out += part.name + ": " + part.problem.text() + "\n";
  return out;
}

unsigned threads_of(const MatchOptions& o) {
  return o.threads > 0 ? static_cast<unsigned>(o.threads) : std::max(1U, std::thread::hardware_concurrency());
}

Expected<MatchAnswer> answer_of(const MatchOptions& o, const Document& document, const Axis& axis) {
  const auto library = libraries_in(o.libraries);
  if (!library) return library.problem();
  const auto weights = read_weights(o.weights);
  if (!weights) return weights.problem();
  const auto filter = read_filter(o.filters);
  if (!filter) return filter.problem();
  MatchRun run;
  run.threads = threads_of(o);
  MatchAnswer answer{
      match_space(axis, *library, {o.brakes, o.couplings}, run.threads), {}, nullptr, *weights, {}, 0, {}};
  if (auto nothing = filters_nothing(*filter, answer.space)) return *nothing;
  run.misses = static_cast<std::size_t>(o.misses);
  run.settle = 0; // only what is listed
  if (!o.shard.empty()) {
    const auto shard = read_shard(o.shard);
    if (!shard) return shard.problem();
    run.part = shard->part;
    run.parts = shard->parts;
  }
  answer.result = search(axis, document.house_rules, answer.space, run);
  if (!answer.result.problem.what.empty()) return answer.result.problem;
  answer.settle = std::make_shared<Settler>(axis, document.house_rules, answer.space);
  Ranked found = ranked(answer.space, answer.result.fits, *weights, *filter, *answer.settle,
                        static_cast<std::size_t>(o.top));
  answer.order = std::move(found.order);
  answer.listed = found.passing;
  answer.counts = facet_counts(answer.space, answer.result.fits, *filter);
  return answer;
}

/// How near the parts of one number come, in each slot and each way of using them.
Expected<std::string> why_not(const MatchOptions& o, const Document& document, const Axis& axis) {
  const auto library = libraries_in(o.libraries);
  if (!library) return library.problem();
  MatchRun run;
  run.threads = threads_of(o);
  const MatchSpace space = match_space(axis, *library, {o.brakes, o.couplings}, run.threads);
  nlohmann::ordered_json all = nlohmann::ordered_json::array();
  std::string text;
  for (const std::string_view slot : searched_slots(space)) {
    const auto& choices = choices_of(space, slot);
    for (std::uint32_t place = 0; place < choices.size(); ++place) {
      if (choices[place].number != o.why) continue;
      const PartOutlook outlook = outlook_of(axis, document.house_rules, space, {slot, place}, run);
      all.push_back(outlook_json(space, slot, choices[place], outlook));
      text += fmt::format("{}: ", choices[place].name());
      text += outlook.fits > 0 ? fmt::format("fits in {} combinations\n", outlook.fits) : "fits nowhere\n";
      if (!outlook.why.empty()) text += "  " + outlook.why + "\n";
      if (!outlook.nearest) continue;
      text += "  nearest that does not fit: " + name_of(space, outlook.nearest->trial.parts) + "\n";
      for (const auto& over : outlook.nearest->over)
        text += fmt::format("  {:>9}  {}\n", percent_used(over.used), over.label);
    }
  }
  if (text.empty())
    return Problem{"--why", "no part that is tried has the number '" + o.why + "'.",
                   "fulmox-cli library --json lists what the libraries hold."};
  return o.json ? all.dump(2) + "\n" : text;
}

} // namespace

CLI::App* match_options(CLI::App& app, MatchOptions& o) {
  auto* command = app.add_subcommand("match", "Every motor, gearhead and drive of the libraries on an axis");
  command->add_option("FILE", o.file, "A .fulmox machine")->required();
  command->add_option("--axis", o.axis, "Name of the axis; the first without it");
  command->add_option("--library", o.libraries, "Folders of libraries; what is shipped without it");
  command->add_option("--weight", o.weights, "Such as price=2; price and used without it");
  command->add_option("--only", o.filters, "Such as drive.bus_max='60 V' or price=500");
  command->add_option("--top", o.top, "How many are listed")->check(CLI::Range(0, 1000000));
  command->add_option("--misses", o.misses, "How many near misses are listed")->check(CLI::Range(0, 100000));
  command->add_option("--threads", o.threads, "As many as the machine has without it")
      ->check(CLI::Range(1, 256));
  command->add_flag("--brakes", o.brakes, "Try brakes as well");
  command->add_flag("--couplings", o.couplings, "Try couplings as well");
  command->add_option("--shard", o.shard, "Part i of n of the search, like 3/64, counted from 0; for merge");
  command->add_option("--why", o.why, "A part number: instead of the list, how near this part comes");
  command->add_flag("--json", o.json, "Print JSON");
  return command;
}

int match_command(const MatchOptions& o) {
  const auto document = load_document(o.file);
  if (!document) return fail(document.problem());
  const auto axis = chosen_axis(*document, o.axis);
  if (!axis) return fail(axis.problem());
  tell_unjudged(*document, *axis);
  if (!o.why.empty()) {
    const auto told = why_not(o, *document, document->axes[*axis]);
    if (!told) return fail(told.problem());
    std::cout << *told;
    return good;
  }
  const auto top = static_cast<std::size_t>(o.top);
  const auto answer = answer_of(o, *document, document->axes[*axis]);
  if (!answer) return fail(answer.problem());
  if (o.shard.empty()) {
    std::cout << (o.json ? answer_json(*answer, top).dump(2) + "\n" : answer_text(*answer, top));
    return good;
  }
  const ShardTask task{*read_shard(o.shard), top, static_cast<std::size_t>(o.misses),
                       question_of(document->axes[*axis], document->house_rules, answer->space, o)};
  std::cout << shard_text(task, *answer);
  return good;
}

} // namespace fulmox::cli
