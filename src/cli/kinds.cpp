#include "cli/kinds.hpp"

#include "cli/input.hpp"
#include "cli/match_input.hpp"
#include "core/match/kinds.hpp"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <cmath>
#include <iostream>
#include <thread>

namespace fulmox::cli {
namespace {

using Json = nlohmann::ordered_json;

constexpr std::array<std::string_view, 4> sides{"excludes", "for", "against", "doubt"};
std::string_view side_of(const KindReason& reason) { return sides[static_cast<std::size_t>(reason.side)]; }

Json kind_json(const KindsCompared& all, std::size_t place, const Duty& duty, UnitSet units) {
  const KindCandidate& kind = all.kinds[place];
  Json out{{"kind", kind.kind->slot.form->id},
           {"title", kind.title},
           {"fits", kind.fits},
           {"fitting", kind.combinations}};
  if (kind.judged) {
    for (const KindFigureSpec& spec : kind_figures()) {
      const KindFigure figure = spec.figure(kind, duty, units);
      out["figures"][std::string(spec.id)] = {
          {"text", figure.text},
          {"value", std::isfinite(figure.value) ? Json(figure.value) : Json()},
          {"more", figure.more}};
    }
  }
  Json reasons = Json::array();
  for (const KindReason& reason : all.reasons)
    if (reason.kind == place) reasons.push_back({{"side", side_of(reason)}, {"text", reason.text}});
  out["reasons"] = reasons;
  return out;
}

std::string json_of(const KindsCompared& all, const Duty& duty, UnitSet units) {
  Json kinds = Json::array(), schools = Json::array();
  for (std::size_t i = 0; i < all.kinds.size(); ++i) kinds.push_back(kind_json(all, i, duty, units));
  for (const School& school : all.schools)
    schools.push_back({{"title", school.title}, {"one", school.one}, {"other", school.other}});
  const auto id = [&](const std::optional<std::size_t>& place) {
    return place ? Json(all.kinds[*place].kind->slot.form->id) : Json();
  };
  return Json{{"advice", all.advice},
              {"first", id(all.first)},
              {"as_good", id(all.second)},
              {"kinds", kinds},
              {"schools", schools}}
             .dump(2) +
         "\n";
}

std::string text_of(const KindsCompared& all, const Duty& duty, UnitSet units) {
  std::string out = all.advice + "\n";
  for (std::size_t i = 0; i < all.kinds.size(); ++i) {
    const KindCandidate& kind = all.kinds[i];
    out += "\n" + kind.title + "\n";
    if (kind.judged)
      for (const KindFigureSpec& spec : kind_figures())
        if (const KindFigure figure = spec.figure(kind, duty, units); !figure.text.empty())
          out += fmt::format("  {:<28}{}\n", spec.label, figure.text);
    for (const KindReason& reason : all.reasons)
      if (reason.kind == i) out += fmt::format("  {}: {}\n", side_of(reason), reason.text);
  }
  if (!all.schools.empty()) out += "\nWhere practitioners differ\n";
  for (const School& school : all.schools)
    out += fmt::format("  {}. {} {}\n", school.title, school.one, school.other);
  return out;
}

} // namespace

CLI::App* kinds_options(CLI::App& app, KindsOptions& o) {
  auto* command =
      app.add_subcommand("kinds", "Kinds of motor side by side on an axis, with a recommendation");
  command->add_option("FILE", o.file, "A .fulmox machine")->required();
  command->add_option("--axis", o.axis, "Name of the axis; the first without it");
  command->add_option("--library", o.libraries, "Folders of libraries; what is shipped without it");
  command->add_option("--weight", o.weights, "Such as price=2; price and used without it");
  command->add_flag("--brakes", o.brakes, "Try brakes as well");
  command->add_flag("--couplings", o.couplings, "Try couplings as well");
  command->add_flag("--json", o.json, "Print JSON");
  return command;
}

int kinds_command(const KindsOptions& o) {
  const auto document = load_document(o.file);
  if (!document) return fail(document.problem());
  const auto axis = chosen_axis(*document, o.axis);
  if (!axis) return fail(axis.problem());
  tell_unjudged(*document, *axis);
  const auto library = libraries_in(o.libraries);
  if (!library) return fail(library.problem());
  const auto weights = read_weights(o.weights);
  if (!weights) return fail(weights.problem());
  if (const auto wrong = machine_faults(*document); !wrong.empty()) return fail(wrong.front());
  KindsRun run;
  run.weights = *weights;
  run.units = document->units;
  run.also = {o.brakes, o.couplings};
  run.threads = std::max(1U, std::thread::hardware_concurrency());
  const KindsCompared all =
      compare_kinds(document->axes[*axis], document->house_rules, document->duty, *library, run);
  const Duty duty = Duty::from(document->duty);
  std::cout << (o.json ? json_of(all, duty, run.units) : text_of(all, duty, run.units));
  return good;
}

} // namespace fulmox::cli
