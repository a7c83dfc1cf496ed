#include "cli/library.hpp"

#include "cli/input.hpp"
#include "core/library/catalogue.hpp"
#include "core/library/foreign_csv.hpp"
#include "core/sheets/part_checks.hpp"
#include "core/support/data_folder.hpp"
#include "core/support/text_file.hpp"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <iostream>

namespace fulmox::cli {
namespace {

using Json = nlohmann::ordered_json;

Json part_json(const Catalogue& catalogue, const SlotSpec& slot, const StoredPart& stored) {
  Json remarks = Json::array();
  for (const PartRemark& remark : check_part(slot.id, stored.part))
    remarks.push_back({{"grade", word(remark.grade)}, {"field", remark.field}, {"text", remark.text}});
  Json out{{"slot", slot.id},
           {"kind", stored.part.spec().id},
           {"maker", stored.part.text("maker")},
           {"part_number", stored.part.text("part_number")},
           {"library", catalogue.sources()[stored.source].name},
           {"file", stored.file},
           {"line", stored.line},
           {"counts", !stored.hidden_by.has_value()},
           {"remarks", remarks}};
  if (stored.hidden_by) {
    const StoredPart& other = catalogue.of(slot.id)[*stored.hidden_by];
    out["hidden_by"] = {
        {"library", catalogue.sources()[other.source].name}, {"file", other.file}, {"line", other.line}};
  }
  return out;
}

std::string text_of(const Json& all) {
  std::string out;
  for (const Json& trouble : all["troubles"])
    out += fmt::format("not read: {}\n", trouble["text"].get<std::string>());
  std::size_t sound = 0, hidden = 0;
  for (const Json& part : all["parts"]) {
    const std::string name =
        fmt::format("{}, {} line {}: {}", part["library"].get<std::string>(), part["file"].get<std::string>(),
                    part["line"].get<int>(), part["part_number"].get<std::string>());
    if (!part["counts"].get<bool>()) {
      ++hidden;
      out += fmt::format("hidden: {}, by {} line {}\n", name, part["hidden_by"]["library"].get<std::string>(),
                         part["hidden_by"]["line"].get<int>());
    }
    if (part["remarks"].empty()) ++sound;
    for (const Json& remark : part["remarks"])
      out += fmt::format("{}: {}: {}\n", remark["grade"].get<std::string>(), name,
                         remark["text"].get<std::string>());
  }
  return out + fmt::format("{} parts, {} hidden, {} with nothing to remark, {} lines or files not read\n",
                           all["parts"].size(), hidden, sound, all["troubles"].size());
}

/// The kind whose library file is named so: "motors" or "motors.csv".
struct KindFound {
  const SlotSpec* slot;
  SlotKind kind;
};
Expected<KindFound> kind_named(const std::string& name) {
  std::string known;
  for (const SlotSpec* slot : part_slots())
    for (SlotKind& kind : slot->kinds()) {
      if (kind.library.empty()) continue;
      const std::string file(kind.library.substr(0, kind.library.find('.')));
      if (name == file || name == kind.library) return KindFound{slot, std::move(kind)};
      known += (known.empty() ? "" : ", ") + file;
    }
  return Problem{"--kind", "'" + name + "' is no kind of library.", "Known are " + known + "."};
}

/// "Order number=part_number" or "Bore=bore_max mm" into the mapping.
std::optional<Problem> set_column(CsvMapping& mapping, const std::string& text) {
  const auto equals = text.rfind('=');
  if (equals == std::string::npos)
    return Problem{"--column", "'" + text + "' names no field.", "Write TITLE=field or TITLE=field unit."};
  const std::string title = text.substr(0, equals), meaning = text.substr(equals + 1);
  const auto space = meaning.find(' ');
  for (MappedColumn& column : mapping.columns) {
    if (column.title != title) continue;
    column.field = meaning.substr(0, space);
    column.unit = space == std::string::npos ? "" : meaning.substr(space + 1);
    return std::nullopt;
  }
  return Problem{"--column", "the list has no column '" + title + "'.", "Titles count with all their signs."};
}

/// What the columns were taken for, and how many parts were read.
std::string imported_text(const CsvMapping& mapping, const PartsRead& read, const std::string& into) {
  std::string out;
  for (const MappedColumn& column : mapping.columns)
    out += fmt::format("{} = {}{}\n", column.title, column.field.empty() ? "passed over" : column.field,
                       column.unit.empty() ? "" : " in " + column.unit);
  return out + fmt::format("{} parts into {}\n", read.parts.size(), into);
}

std::string imported_json(const CsvMapping& mapping, const PartsRead& read, const std::string& into) {
  Json columns = Json::array(), troubles = Json::array();
  for (const MappedColumn& column : mapping.columns)
    columns.push_back({{"title", column.title}, {"field", column.field}, {"unit", column.unit}});
  for (const Problem& problem : read.problems) troubles.push_back(problem.text());
  return Json{{"columns", columns}, {"parts", read.parts.size()}, {"into", into}, {"troubles", troubles}}
             .dump(2) +
         "\n";
}

} // namespace

CLI::App* library_options(CLI::App& app, LibraryOptions& o) {
  auto* command =
      app.add_subcommand("library", "What libraries hold, and what is to be remarked on their sheets");
  command->add_option("SOURCE", o.sources,
                      "Folders or files, the later ones count; what is shipped without them");
  command->add_flag("--json", o.json, "Print JSON");
  return command;
}

int library_command(const LibraryOptions& o) {
  std::vector<PartSource> sources;
  for (const std::string& source : o.sources) sources.push_back({source, source});
  if (sources.empty()) sources.push_back({data_folder() / "library", "shipped"});
  const Catalogue catalogue = Catalogue::load(std::move(sources));
  Json all{{"parts", Json::array()}, {"troubles", Json::array()}};
  for (const SlotSpec* slot : part_slots())
    for (const StoredPart& stored : catalogue.of(slot->id))
      all["parts"].push_back(part_json(catalogue, *slot, stored));
  for (const Catalogue::Trouble& trouble : catalogue.troubles())
    all["troubles"].push_back({{"library", catalogue.sources()[trouble.source].name},
                               {"where", trouble.problem.where},
                               {"text", trouble.problem.text()}});
  std::cout << (o.json ? all.dump(2, ' ', false, Json::error_handler_t::replace) + "\n" : text_of(all));
  return catalogue.troubles().empty() ? good : bad_input;
}

CLI::App* import_parts_options(CLI::App& app, ImportPartsOptions& o) {
  auto* command = app.add_subcommand("import-parts", "Read a list of parts of another layout into a library");
  command->add_option("FILE", o.file, "A CSV: commas, semicolons or tabs")->required();
  command->add_option("--kind", o.kind, "Such as motors, gearheads, couplings")->required();
  command->add_option("--into", o.into, "Folder of the library that takes them")->required();
  command->add_option("--maker", o.maker, "Of all parts, where no column tells it");
  command->add_option("--column", o.columns,
                      "What a column means, like 'Order number=part_number' or "
                      "'Bore=bore_max mm'; the others are guessed by their titles");
  command->add_flag("--decimal-comma", o.decimal_comma, "1,25 is one and a quarter; guessed without it");
  command->add_flag("--json", o.json, "Print JSON");
  return command;
}

int import_parts_command(const ImportPartsOptions& o) {
  constexpr std::uintmax_t limit = 64U * 1024U * 1024U;
  const auto kind = kind_named(o.kind);
  if (!kind) return fail(kind.problem());
  const auto text = read_text_file(o.file, limit);
  if (!text) return fail(text.problem());
  const auto table = look_into(*text, 50);
  if (!table) return fail(Problem{o.file, table.problem().what, table.problem().remedy});
  CsvMapping mapping = guess_mapping(*table, *kind->kind.form);
  mapping.maker = o.maker;
  mapping.decimal_comma = mapping.decimal_comma || o.decimal_comma;
  for (const std::string& column : o.columns)
    if (const auto wrong = set_column(mapping, column)) return fail(*wrong);
  const std::string name = std::filesystem::path(o.file).filename().string();
  const PartsRead read = read_foreign(*text, mapping, *kind->kind.form, name);
  for (const Problem& problem : read.problems) std::cerr << "fulmox-cli: " << problem.text() << "\n";
  if (const auto wrong = keep_parts({o.into, o.into, true}, kind->slot->id, read.parts)) return fail(*wrong);
  const std::string into = (std::filesystem::path(o.into) / kind->kind.library).string();
  std::cout << (o.json ? imported_json(mapping, read, into) : imported_text(mapping, read, into));
  return read.problems.empty() ? good : bad_input;
}

} // namespace fulmox::cli
