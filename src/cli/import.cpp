#include "cli/import.hpp"

#include "cli/input.hpp"
#include "core/project/import_csv.hpp"
#include "core/support/text_file.hpp"

#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

#include <iostream>

namespace fulmox::cli {
namespace {

constexpr std::uintmax_t csv_limit = 32U * 1024U * 1024U;

std::optional<Problem> import_all(Axis& axis, const ImportOptions& o, std::vector<std::string>& remarks) {
  const auto segment = static_cast<std::size_t>(o.segment - 1);
  const RotationAxis about = o.about == "x"   ? RotationAxis::x
                             : o.about == "y" ? RotationAxis::y
                                              : RotationAxis::z;
  const auto read = [](const std::string& path, auto import) -> std::optional<Problem> {
    if (path.empty()) return std::nullopt;
    const auto text = read_text_file(path, csv_limit);
    if (!text) return text.problem();
    auto problem = import(*text);
    if (problem) problem->where = path + (problem->where.empty() ? "" : ", " + problem->where);
    return problem;
  };
  const auto pieces = [&](const auto& text) {
    remarks = import_remarks(axis, text, about);
    return import_pieces(axis, text, about);
  };
  if (auto problem = read(o.pieces, pieces)) return problem;
  if (auto problem = read(o.profile, [&](const auto& text) { return import_profile(axis, segment, text); }))
    return problem;
  return read(o.process, [&](const auto& text) { return import_process(axis, segment, text); });
}

} // namespace

CLI::App* import_options(CLI::App& app, ImportOptions& o) {
  auto* command = app.add_subcommand("import", "Read CSV files into an axis");
  command->add_option("FILE", o.file, "A .fulmox machine")->required();
  command->add_option("--axis", o.axis, "Name of the axis; the first without it");
  command->add_option("--pieces", o.pieces, "Pieces of the load: part, mass, x, y, z, Ixx, Iyy, Izz");
  command->add_option("--about", o.about, "Axis of that file about which the load turns; z without it")
      ->check(CLI::IsMember({"x", "y", "z"}));
  command->add_option("--segment", o.segment, "Which segment of the cycle, from 1")
      ->check(CLI::PositiveNumber);
  command->add_option("--profile", o.profile, "Time and position, into a profile segment");
  command->add_option("--process", o.process, "Process force or torque over position, into a segment");
  command->add_option("--out", o.out, "Where to save; over FILE without it");
  command->add_flag("--json", o.json, "Print JSON");
  return command;
}

int import_command(const ImportOptions& o) {
  if (o.pieces.empty() && o.profile.empty() && o.process.empty()) {
    std::cerr << "fulmox-cli: import needs --pieces, --profile or --process with a CSV file.\n";
    return wrong_usage;
  }
  const auto loaded = load_document(o.file);
  if (!loaded) return fail(loaded.problem());
  Document document = *loaded;
  const auto axis = chosen_axis(document, o.axis);
  if (!axis) return fail(axis.problem());
  std::vector<std::string> remarks;
  if (const auto problem = import_all(document.axes[*axis], o, remarks)) return fail(*problem);
  const std::string& target = o.out.empty() ? o.file : o.out;
  if (const auto problem = save_document(document, target)) return fail(*problem);
  if (o.json)
    std::cout << nlohmann::ordered_json{{"saved", target},
                                        {"axis", document.axes[*axis].name},
                                        {"remarks", remarks}}
                     .dump(2)
              << "\n";
  else
    std::cout << target << ": saved\n";
  if (!o.json)
    for (const std::string& remark : remarks)
      std::cerr << "fulmox-cli: " << o.pieces << ": " << remark << "\n";
  return good;
}

} // namespace fulmox::cli
