// CSV in and out of the window: recorded profiles, pieces of a load, the worked-out cycle.

#include "app/main_window.hpp"
#include "app/session/session.hpp"
#include "core/load/piece_csv.hpp"
#include "core/motion/profile.hpp"
#include "core/report/trace_csv.hpp"
#include "core/support/text_file.hpp"

#include <QFileDialog>
#include <QInputDialog>

namespace fulmox::app {
namespace {
constexpr std::uintmax_t csv_limit = 32U * 1024U * 1024U;
constexpr const char* csv_filter = "CSV (*.csv *.txt *.tsv);;All files (*)";
} // namespace

bool MainWindow::import_points(int segment, const std::string& field, QString path) {
  if (!session_.has_axis()) return false;
  if (path.isEmpty()) path = QFileDialog::getOpenFileName(this, "Points from a CSV file", {}, csv_filter);
  if (path.isEmpty()) return false;
  const MotionKinds kinds = motion_of(session_.axis());
  const auto text = read_text_file(path.toStdString(), csv_limit);
  const auto points =
      text ? points_from_csv(*text, field == "points" ? profile_columns(kinds) : process_columns(kinds))
           : Expected<std::string>(text.problem());
  if (!points) {
    tell("This file cannot be read", qt(points.problem().text()));
    return false;
  }
  session_.edit("Read points", "", [&](Document& document) {
    Section& section = document.axes[session_.axis_index()].cycle[static_cast<std::size_t>(segment)];
    section.type(field, *points, Origin::measured);
  });
  return true;
}

bool MainWindow::import_pieces(QString path) {
  if (!session_.has_axis()) return false;
  if (path.isEmpty()) path = QFileDialog::getOpenFileName(this, "Pieces of the load", {}, csv_filter);
  if (path.isEmpty()) return false;
  const auto text = read_text_file(path.toStdString(), csv_limit);
  const auto pieces = text ? pieces_from_csv(*text) : Expected<std::vector<Section>>(text.problem());
  if (!pieces) {
    tell("This file cannot be read", qt(pieces.problem().text()));
    return false;
  }
  session_.edit("Read pieces", "", [&](Document& document) {
    auto& all = document.axes[session_.axis_index()].pieces;
    all.insert(all.end(), pieces->begin(), pieces->end());
  });
  return true;
}

bool MainWindow::export_trace(double step, QString path) {
  const Evaluation* e = session_.evaluation();
  if (e == nullptr) return false;
  if (step <= 0.0) {
    bool accepted = false;
    step = 1e-3 * QInputDialog::getDouble(this, "Save the cycle as CSV", "Time between rows, ms", 1.0, 0.001,
                                          1e6, 3, &accepted);
    if (!accepted) return false;
  }
  constexpr double most_rows = 5e6;
  if (e->model->cycle.duration / step > most_rows) {
    tell("Too many rows", "This step gives more than five million rows. Take a longer one.");
    return false;
  }
  if (path.isEmpty())
    path = QFileDialog::getSaveFileName(this, "Save the cycle as CSV", "cycle.csv", csv_filter);
  if (path.isEmpty()) return false;
  if (const auto problem = write_text_file(path.toStdString(), trace_csv(*e, step))) {
    tell("This file cannot be written", qt(problem->text()));
    return false;
  }
  return true;
}

} // namespace fulmox::app
