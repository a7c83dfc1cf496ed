// CSV in and out of the window: recorded profiles, pieces of a load, the worked-out cycle.

#include "app/main_window.hpp"
#include "app/session/session.hpp"
#include "core/motion/segments.hpp"
#include "core/project/import_csv.hpp"
#include "core/report/trace_csv.hpp"
#include "core/support/text_file.hpp"

#include <QFileDialog>
#include <QFileInfo>
#include <QInputDialog>

namespace fulmox::app {
namespace {
constexpr std::uintmax_t csv_limit = 32U * 1024U * 1024U;
constexpr const char* csv_filter = "CSV (*.csv *.txt *.tsv);;All files (*)";
} // namespace

bool MainWindow::import_csv(const QString& title, QString path, const CsvImport& import) {
  if (!session_.has_axis()) return false;
  if (path.isEmpty()) path = QFileDialog::getOpenFileName(this, title, {}, csv_filter);
  if (path.isEmpty()) return false;
  Axis changed = session_.axis();
  const auto text = read_text_file(path.toStdString(), csv_limit);
  const auto problem = text ? import(changed, *text) : text.problem();
  if (problem) {
    tell("This file cannot be read", qt(problem->text()));
    return false;
  }
  session_.edit(title, "", [&](Document& document) { document.axes[session_.axis_index()] = changed; });
  return true;
}

bool MainWindow::import_points(int segment, const std::string& field, const QString& path) {
  const auto index = static_cast<std::size_t>(segment);
  if (field == "points")
    return import_csv("Read a recorded motion", path, [index](Axis& axis, std::string_view text) {
      return import_profile(axis, index, text);
    });
  return import_csv("Read a process curve", path,
                    [index](Axis& axis, std::string_view text) { return import_process(axis, index, text); });
}

bool MainWindow::is_csv(const QString& path) {
  return QStringList{"csv", "txt", "tsv"}.contains(QFileInfo(path).suffix().toLower());
}

void MainWindow::import_dropped(const QString& path) {
  if (!session_.has_axis()) return tell("No axis yet", "Add an axis first: the file becomes part of it.");
  const auto text = read_text_file(path.toStdString(), csv_limit);
  const QString titles = text ? qt(*text).section('\n', 0, 0).toLower() : QString();
  if (titles.contains("mass")) {
    ask_and_import_pieces(path);
    return;
  }
  import_csv("Read a recorded motion", path, [](Axis& axis, std::string_view content) {
    axis.cycle.emplace_back(*find_segment_spec("profile", motion_of(axis)));
    number_sections(axis);
    return import_profile(axis, axis.cycle.size() - 1, content);
  });
}

bool MainWindow::ask_and_import_pieces(const QString& path) {
  if (!session_.has_axis()) return false;
  if (!motion_of(session_.axis()).rotary()) return import_pieces(RotationAxis::z, path);
  const QStringList axes{"x", "y", "z"};
  bool accepted = false;
  const QString about =
      QInputDialog::getItem(this, "Read pieces of the load", "Axis of the file about which the load turns",
                            axes, 2, false, &accepted);
  return accepted && import_pieces(static_cast<RotationAxis>(axes.indexOf(about)), path);
}

bool MainWindow::import_pieces(RotationAxis about, const QString& path) {
  QStringList remarks;
  const bool read = import_csv("Read pieces of the load", path, [&](Axis& axis, std::string_view text) {
    for (const std::string& remark : import_remarks(axis, text, about)) remarks << qt(remark);
    return fulmox::import_pieces(axis, text, about);
  });
  if (read && !remarks.isEmpty()) tell("The pieces were read", remarks.join("\n\n"));
  return read;
}

bool MainWindow::export_trace(double step, QString path) {
  session_.catch_up();
  const Evaluation* e = session_.evaluation();
  if (e == nullptr || session_.stale()) {
    tell("There is no cycle to save",
         session_.has_axis() ? session_.problem_told() : QString("Add an axis and describe it first."));
    return false;
  }
  if (step <= 0.0) {
    bool accepted = false;
    step = 1e-3 * QInputDialog::getDouble(this, "Save the cycle as CSV", "Time between rows, ms", 1.0, 0.001,
                                          1e6, 3, &accepted);
    if (!accepted) return false;
  }
  const auto refused = [&](const Problem& problem) {
    tell("This file cannot be written", qt(problem.text()));
    return false;
  };
  if (const auto problem = refuses_step(*e, step)) return refused(*problem);
  if (path.isEmpty())
    path = QFileDialog::getSaveFileName(this, "Save the cycle as CSV", "cycle.csv", csv_filter);
  if (path.isEmpty()) return false;
  const auto trace = [&](const TextSink& sink) { write_trace(*e, step, sink); };
  if (const auto problem = write_text_file(path.toStdString(), trace)) return refused(*problem);
  return true;
}

} // namespace fulmox::app
