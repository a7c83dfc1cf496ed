#include "cli/bench_readings.hpp"
#include "cli/capability.hpp"
#include "cli/constants.hpp"
#include "cli/csv_json.hpp"
#include "cli/formulas.hpp"
#include "cli/import.hpp"
#include "cli/input.hpp"
#include "cli/kinds.hpp"
#include "cli/library.hpp"
#include "cli/machine.hpp"
#include "cli/match.hpp"
#include "cli/match_shards.hpp"
#include "cli/number_option.hpp"
#include "cli/parts.hpp"
#include "cli/report.hpp"
#include "cli/safety.hpp"
#include "cli/studies.hpp"
#include "cli/validate.hpp"
#include "cli/ways.hpp"
#include "core/evaluation/book.hpp"
#include "core/evaluation/guarded.hpp"
#include "core/evaluation/machine.hpp"
#include "core/project/names.hpp"
#include "core/report/trace_csv.hpp"
#include "core/report/worksheet.hpp"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <cmath>
#include <csignal>
#include <cstdio>
#include <fcntl.h>
#include <iostream>
#include <tuple>

namespace {

using namespace fulmox;
using cli::bad_input, cli::chosen_axis, cli::fail, cli::good, cli::number_from, cli::wrong_usage;

/// Every axis of a file worked out, or why it cannot be; the problem names the axis.
std::vector<AxisResult> evaluate_all(const Document& document) {
  std::vector<AxisResult> all;
  const MachineResult machine = evaluate(document);
  for (std::size_t i = 0; i < machine.size(); ++i) {
    all.push_back(*machine[i]);
    if (all.back().evaluation == nullptr)
      all.back().problem.where = "axes[" + std::to_string(i) + "]." + all.back().problem.where;
  }
  return all;
}

/// Tells the problems of all axes. True when there is none.
bool all_good(const std::vector<AxisResult>& results) {
  bool every = true;
  for (const AxisResult& one : results) {
    if (one.evaluation != nullptr) continue;
    fail(one.problem);
    every = false;
  }
  return every;
}

const Problem no_axis{"axes", "the machine has no axis.", "Add one in the window."};

struct StudyOptions {
  std::string file, axis, slot = "motor", limit;
  int segment = 1;
  std::string most_speed, most_acceleration;
  double step = 1e-3, from = 0.5, to = 100.0;
  bool json = false;
};

int size_command(const StudyOptions& options) {
  const auto document = load_document(options.file);
  if (!document) return fail(document.problem());
  if (document->axes.empty()) return fail(no_axis);
  Document shown = *document;
  auto evaluations = evaluate_all(shown);
  if (!options.axis.empty()) {
    const auto wanted = chosen_axis(shown, options.axis);
    if (!wanted) return fail(wanted.problem());
    shown.axes = {document->axes[*wanted]};
    evaluations = {evaluations[*wanted]};
  }
  std::cout << (options.json ? cli::size_json(shown, evaluations) : cli::size_text(shown, evaluations));
  for (const Problem& fault : name_faults(*document)) fail(fault); // what nothing judges for that
  return all_good(evaluations) ? good : bad_input;
}

int explain_command(const StudyOptions& options, const std::string& name) {
  const auto document = load_document(options.file);
  if (!document) return fail(document.problem());
  const auto wanted = chosen_axis(*document, options.axis);
  if (!options.axis.empty() && !wanted) return fail(wanted.problem());
  if (document->axes.empty()) return fail(no_axis);
  const auto evaluations = evaluate_all(*document);
  std::vector<cli::Explained> all;
  bool every = true;
  for (std::size_t i = 0; i < evaluations.size(); ++i) {
    if (!options.axis.empty() && i != *wanted) continue;
    if (evaluations[i].evaluation == nullptr) {
      fail(evaluations[i].problem);
      every = false;
    } else if (auto one = cli::explained(document->axes[i].name, *evaluations[i].evaluation, name);
               one.found()) {
      all.push_back(std::move(one));
    }
  }
  if (all.empty() && !every) return bad_input;
  if (all.empty())
    return fail({name, "there is no such result, limit or warning here.",
                 "fulmox-cli size lists the ids; write \"limit motor.peak\" for a limit."});
  std::cout << (options.json ? cli::explain_json(name, all) : cli::explain_text(all, document->units));
  return every ? good : bad_input;
}

template <class Work> int study_command(const StudyOptions& options, Work work) {
  const auto document = load_document(options.file);
  if (!document) return fail(document.problem());
  const auto axis = chosen_axis(*document, options.axis);
  if (!axis) return fail(axis.problem());
  cli::tell_unjudged(*document, *axis);
  const Axis& one = document->axes[*axis];
  const Expected<std::string> text = guarded(one, [&] { return work(*document, one); });
  if (!text) return fail(text.problem());
  std::cout << *text;
  return good;
}

Expected<std::string> laws_text(const StudyOptions& options, const Axis& axis) {
  const MotionKinds kinds = motion_of(axis);
  MoveLimits limits;
  for (const auto& [text, kind, limit, option] :
       {std::tuple{&options.most_speed, kinds.speed, &limits.speed, "--max-speed"},
        {&options.most_acceleration, kinds.acceleration, &limits.acceleration, "--max-acceleration"}}) {
    if (text->empty()) continue;
    const auto value = parse_quantity(*text, kind, cli::bare_unit(kind));
    if (!value) return Problem{option, value.problem().what, value.problem().remedy};
    *limit = value->value;
  }
  const auto choices = compare_laws(axis, static_cast<std::size_t>(std::max(options.segment, 1) - 1), limits);
  if (!choices) return choices.problem();
  return cli::laws_report(*choices, options.json);
}

Expected<std::string> ratio_text(const StudyOptions& options, const Axis& axis) {
  const auto sweep = sweep_ratio(axis, options.from, options.to, 40);
  if (!sweep) return sweep.problem();
  return cli::ratio_report(*sweep, options.json);
}

Expected<std::string> sensitivity_text(const StudyOptions& options, const Axis& axis) {
  const auto found = sensitivities(axis);
  if (!found) return found.problem();
  return cli::sensitivities_report(*found, options.json);
}

/// Written as it is made: nothing but the text is left to return.
Expected<std::string> trace_text(const StudyOptions& options, const Document& document, const Axis& axis) {
  const auto evaluation = evaluate(axis, document.house_rules, document.units);
  if (!evaluation) return evaluation.problem();
  if (const auto problem = refuses_step(*evaluation, options.step)) return *problem;
  cli::print_table([&](const TextSink& to) { write_trace(*evaluation, options.step, to); }, options.json);
  return std::string();
}

int report_command(const std::string& file, bool json) {
  const auto document = load_document(file);
  if (!document) return fail(document.problem());
  std::cout << (json ? cli::worksheet_json(*document) : worksheet(*document));
  return good;
}

int run(int argc, char** argv) {
  CLI::App app{"Fulmox without its window: sizes the axes of a machine and shows the working."};
  app.require_subcommand(1);
  app.set_version_flag("--version", "fulmox-cli " FULMOX_VERSION);
  std::string file;
  std::string name;
  std::vector<std::string> values;
  bool json = false;
  const auto with_json = [&](CLI::App* command) { command->add_flag("--json", json, "Print JSON"); };

  StudyOptions study;
  auto* size = app.add_subcommand("size", "All results and limits of every axis");
  size->add_option("FILE", study.file, "A .fulmox machine")->required();
  size->add_option("--axis", study.axis, "Name of the axis; all without it");
  size->add_flag("--json", study.json, "Print JSON");
  std::vector<std::string> words;
  auto* explain = app.add_subcommand("explain", "How a result, limit or warning came about");
  explain->add_option("FILE", study.file, "A .fulmox machine")->required();
  explain->add_option("NAME", words, "Such as demand.peak_torque, limit motor.peak, warning friction_zero")
      ->required();
  explain->add_option("--axis", study.axis, "Name of the axis; all without it");
  explain->add_flag("--json", study.json, "Print JSON");
  auto* report = app.add_subcommand("report", "The worksheet as Markdown");
  report->add_option("FILE", file, "A .fulmox machine")->required();
  with_json(report);
  auto* validate = app.add_subcommand("validate", "Check a file and name everything wrong in it");
  validate->add_option("FILE", file, "A .fulmox machine")->required();
  with_json(validate);
  auto* book = app.add_subcommand("book", "All formulas with symbols, units and source");
  with_json(book);
  auto* eval = app.add_subcommand("eval", "One formula alone, as JSON");
  eval->add_option("FORMULA-ID", name, "Such as inertia.screw")->required();
  eval->add_option("name=value", values, "Values; bare numbers are SI");
  with_json(eval);
  const auto study_of = [&](const char* command, const char* about) {
    auto* sub = app.add_subcommand(command, about);
    sub->add_option("FILE", study.file, "A .fulmox machine")->required();
    sub->add_option("--axis", study.axis, "Name of the axis; the first without it");
    return sub;
  };
  auto* laws = study_of("laws", "A move under every law of motion");
  laws->add_option("--segment", study.segment, "Which segment of the cycle, from 1")
      ->check(number_from(1, 1e6));
  laws->add_option("--max-speed", study.most_speed, "At the load, like '0.8 m/s'");
  laws->add_option("--max-acceleration", study.most_acceleration, "At the load, like '6 m/s2'");
  laws->add_flag("--json", study.json, "Print JSON");
  auto* ratio = study_of("ratio", "What other gear ratios would do");
  ratio->add_option("--from", study.from, "Lowest ratio")->check(number_from(1e-3, 1e6));
  ratio->add_option("--to", study.to, "Highest ratio")->check(number_from(1e-3, 1e6));
  ratio->add_flag("--json", study.json, "Print JSON");
  auto* sensitivity = study_of("sensitivity", "Which input moves the demand most");
  sensitivity->add_flag("--json", study.json, "Print JSON");
  auto* corner = study_of("corners", "Every limit at the corners of the typed spreads");
  corner->add_flag("--json", study.json, "Print JSON");
  auto* forgotten = study_of("forgotten", "What is often forgotten and still open");
  forgotten->add_flag("--json", study.json, "Print JSON");
  auto* heat = study_of("heat", "Temperatures over the cycle and from cold");
  heat->add_flag("--json", study.json, "Print JSON");
  auto* parts = study_of("parts", "Every part of the library tried in the axis, the best first");
  parts->add_option(
      "--slot", study.slot,
      "motor, gearhead, drive, brake, coupling or surroundings, which holds the supply; motor without it");
  parts->add_flag("--json", study.json, "Print JSON");
  auto* ways = study_of("ways-out", "The smallest changes that clear a red or tight limit");
  ways->add_option("--limit", study.limit, "Its id, such as motor.peak; every red and tight one without it");
  ways->add_flag("--json", study.json, "Print JSON");
  auto* room = study_of("headroom", "How far each input may go until the first limit is reached");
  room->add_flag("--json", study.json, "Print JSON");
  auto* capability = study_of("capability", "What the axis can press with over its speed");
  std::string at_speed, shaft_torque;
  capability->add_option("--speed", at_speed, "At one speed of the load, like '20 mm/s'");
  capability->add_flag("--json", study.json, "Print JSON");
  auto* bench = study_of("bench", "Supply current and efficiency of the motor over speed");
  bench->add_option("--torque", shaft_torque, "At its shaft, like '0.2 N.m'; none without it");
  bench->add_flag("--json", study.json, "Print JSON");
  auto* trace = study_of("trace", "Everything over the cycle, as CSV");
  trace->add_option("--step", study.step, "Seconds between rows, 0.001 without it")
      ->check(number_from(1e-6, 1e6));
  trace->add_flag("--json", study.json, "Print JSON");
  cli::ImportOptions imports;
  const auto* import = cli::import_options(app, imports);
  auto* constants = app.add_subcommand("constants", "A motor constant in every reading");
  std::string pole_pairs;
  constants->add_option("READING=VALUE", name, "Such as kt_rms=0.5 or 'ke_line_rms=4.3 V/krpm'")->required();
  constants->add_option("--pole-pairs", pole_pairs, "For flux linkages");
  with_json(constants);
  cli::MatchOptions matching;
  const auto* match = cli::match_options(app, matching);
  cli::KindsOptions comparing;
  const auto* kinds = cli::kinds_options(app, comparing);
  cli::LibraryOptions looking;
  const auto* library = cli::library_options(app, looking);
  cli::ImportPartsOptions importing;
  const auto* import_parts = cli::import_parts_options(app, importing);
  cli::MergeOptions merging;
  const auto* merge = cli::merge_options(app, merging);
  cli::MachineOptions together;
  const auto* machine = cli::machine_options(app, together);
  cli::BusOptions on_bus;
  const auto* bus = cli::bus_options(app, on_bus);
  cli::BenchReadings readings;
  const cli::BenchCommands on_bench = cli::bench_readings_options(app, readings);
  auto* schema = app.add_subcommand("schema", "The JSON Schema of .fulmox files");
  with_json(schema); // as it is anyway

  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& error) {
    const int code = app.exit(error);
    return code == 0 ? good : wrong_usage;
  }
  if (size->parsed()) return size_command(study);
  if (explain->parsed()) return explain_command(study, fmt::format("{}", fmt::join(words, " ")));
  if (report->parsed()) return report_command(file, json);
  if (validate->parsed()) return cli::validate_command(file, json);
  if (book->parsed()) std::cout << (json ? cli::book_json() : cli::book_text());
  if (schema->parsed()) std::cout << document_schema();
  if (eval->parsed()) return cli::eval_command(name, values);
  if (constants->parsed()) {
    const auto told = cli::constants_report(name, pole_pairs, json);
    if (!told) return fail(told.problem());
    std::cout << *told;
  }
  for (const auto& [command, report_of] :
       {std::pair{on_bench.spin, &cli::spin_report}, {on_bench.winding, &cli::winding_report}}) {
    if (!command->parsed()) continue;
    const auto told = report_of(readings);
    if (!told) return fail(told.problem());
    std::cout << *told;
  }
  if (import->parsed()) return cli::import_command(imports);
  if (match->parsed()) return cli::match_command(matching);
  if (kinds->parsed()) return cli::kinds_command(comparing);
  if (library->parsed()) return cli::library_command(looking);
  if (import_parts->parsed()) return cli::import_parts_command(importing);
  if (merge->parsed()) return cli::merge_command(merging);
  if (machine->parsed()) return cli::machine_command(together);
  if (bus->parsed()) return cli::bus_command(on_bus);
  if (laws->parsed())
    return study_command(study, [&](const Document&, const Axis& axis) { return laws_text(study, axis); });
  if (ratio->parsed())
    return study_command(study, [&](const Document&, const Axis& axis) { return ratio_text(study, axis); });
  if (sensitivity->parsed())
    return study_command(study,
                         [&](const Document&, const Axis& axis) { return sensitivity_text(study, axis); });
  for (const auto& one : {std::pair{corner, &cli::corners_report},
                          {forgotten, &cli::forgotten_report},
                          {heat, &cli::heat_report},
                          {room, &cli::headroom_report}})
    if (one.first->parsed())
      return study_command(
          study, [&](const Document& d, const Axis& axis) { return one.second(d, axis, study.json); });
  if (parts->parsed())
    return study_command(study, [&](const Document& d, const Axis& axis) {
      return cli::parts_report(d, axis, study.slot, study.json);
    });
  if (ways->parsed())
    return study_command(study, [&](const Document& d, const Axis& axis) {
      return cli::ways_report(d, axis, study.limit, study.json);
    });
  if (capability->parsed())
    return study_command(study, [&](const Document& d, const Axis& axis) {
      return cli::capability_report(d, axis, at_speed, study.json);
    });
  if (bench->parsed())
    return study_command(study, [&](const Document& d, const Axis& axis) {
      return cli::bench_report(d, axis, shaft_torque, study.json);
    });
  if (trace->parsed())
    return study_command(study,
                         [&](const Document& d, const Axis& axis) { return trace_text(study, d, axis); });
  return good;
}

/// A full disk or a closed output loses what was worked out: that is no success.
int finish(int code) {
  std::cout.flush();
  if (std::cout && std::fflush(stdout) == 0) return code;
  return fail(
      {"standard output", "the results could not be written.", "Is the disk full, or the output closed?"});
}

} // namespace

int main(int argc, char** argv) {
  // a file opened in the place of a closed output would take the results
  for (int standard = 0; standard <= 2; ++standard) {
    if (::fcntl(standard, F_GETFD) != -1) continue;
    if (standard == 1) return fail({"standard output", "it is closed.", "Leave it open."});
    if (::open("/dev/null", O_RDWR) != standard) return bad_input;
  }
  std::signal(SIGPIPE, SIG_IGN); // told by the failing write
  try {
    return finish(run(argc, argv));
  } catch (const std::exception& error) {
    return fail({"", std::string("this could not be worked out: ") + error.what() + ".",
                 "It is a fault of the program; the file is as it was."});
  }
}
