#pragma once
#include "app/find/find_palette.hpp"
#include "core/project/document.hpp"
#include "core/project/import_csv.hpp"

#include <QMainWindow>
#include <QMenu>

#include <functional>
#include <optional>

namespace fulmox::app {

class AxisView;
class MachineView;
class GivensPanel;
class HeaderBar;
class LadderPanel;
class PartsView;
class Ribbon;
class Session;
class Sheet;

/// The one window.
class MainWindow : public QMainWindow {
  Q_OBJECT

public:
  explicit MainWindow(Session& session);
  ~MainWindow() override;

  /// Opens a file, telling what keeps it from being opened and offering unsaved work of it first. True when
  /// it is open.
  bool open(const QString& path);
  /// Offers work that never had a file and was not saved. True when it was taken up.
  bool offer_unnamed();
  void set_dark(bool dark);
  AxisView* axis_view() { return axis_view_; }
  Sheet* sheet() { return sheet_; }
  Ribbon* ribbon() { return ribbon_; }

public slots:
  void add_axis();
  void add_example(const QString& name);
  void find();
  void open_demo();
  /// Reads a recorded profile ("points") or a process force over position ("process_curve") from a CSV file
  /// into a segment; asks for the file when the path is empty.
  bool import_points(int segment, const std::string& field, const QString& path = {});
  /// Adds the pieces of a CSV file to the load, which turns about the named axis of that file; asks for the
  /// file when the path is empty.
  bool import_pieces(RotationAxis about, const QString& path = {});
  /// Writes everything over the cycle as CSV; asks for step and file when they are not given.
  bool export_trace(double step = 0.0, QString path = {});
  /// Opens the working of what is selected; without a selection, of the peak torque.
  void show_working();
  MachineView* machine_view();
  /// Opens the list of parts for a slot.
  void choose_part_for(const QString& slot);

protected:
  void closeEvent(QCloseEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

private:
  void build_menu();
  void follow_view();
  void refresh_title();
  void ask_open();
  bool save();
  bool save_as();
  /// Asks when somebody else changed the file meanwhile; true when the save may go on, `done` when it was
  /// all.
  bool settle_with_disk(bool& done);
  /// Offers unsaved work of a file ("" for none); what is declined is put by. True when it was taken up.
  bool offer_kept(const QString& path, const Expected<Document>& saved);
  void show_unsaved();
  void save_worksheet();
  /// Asks what to do with unsaved changes; false means stay.
  bool may_leave();
  void remember(const QString& path);
  void fill_recent();
  void tell(const QString& title, const QString& text);
  using CsvImport = std::function<std::optional<Problem>(Axis&, std::string_view)>;
  bool import_csv(const QString& title, QString path, const CsvImport& import);
  static bool is_csv(const QString& path);
  /// A table of parts becomes pieces of the load, anything else a recorded motion at the end of the cycle.
  void import_dropped(const QString& path);
  bool ask_and_import_pieces(const QString& path = {});
  std::vector<Finding> findings();

  Session& session_;
  QMenu* menu_;
  QMenu* recent_;
  HeaderBar* header_;
  GivensPanel* givens_;
  Sheet* sheet_;
  AxisView* axis_view_;
  PartsView* parts_ = nullptr; ///< made when it is asked for first
  LadderPanel* ladder_;
  Ribbon* ribbon_;
};

} // namespace fulmox::app
