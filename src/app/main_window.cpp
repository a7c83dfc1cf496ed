#include "app/main_window.hpp"

#include "app/givens/givens_panel.hpp"
#include "app/header/header_bar.hpp"
#include "app/keeping/read_only_bar.hpp"
#include "app/keeping/unread_bar.hpp"
#include "app/ladder/ladder_panel.hpp"
#include "app/machine/machine_view.hpp"
#include "app/parts/parts_view.hpp"
#include "app/ribbon/ribbon.hpp"
#include "app/session/examples.hpp"
#include "app/session/session.hpp"
#include "app/sheet/axis_view.hpp"
#include "app/sheet/numbers.hpp"
#include "app/sheet/welcome.hpp"
#include "app/sheet/worksheet_pdf.hpp"
#include "app/theme/theme.hpp"
#include "app/views/sheet.hpp"
#include "core/project/names.hpp"
#include "core/support/data_folder.hpp"

#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QMimeData>
#include <QSettings>
#include <QShortcut>
#include <QSplitter>
#include <QVBoxLayout>

namespace fulmox::app {

/// Pages that are hidden while the window goes may end a trial: its news must not reach what is half gone.
MainWindow::~MainWindow() { disconnect(&session_, nullptr, this, nullptr); }

MainWindow::MainWindow(Session& session) : session_(session) {
  setObjectName("main_window");
  setAcceptDrops(true);
  resize(1280, 800);
  setMinimumSize(1000, 640);
  build_menu();
  // each is made where it belongs: one that is moved there is styled a second time, with all it holds
  auto* central = new QWidget(this);
  auto* layout = new QVBoxLayout(central);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  header_ = new HeaderBar(session, menu_, central);
  layout->addWidget(header_);
  auto* read_only = new ReadOnlyBar(session);
  connect(read_only, &ReadOnlyBar::again_requested, this, [this] { open(QString(session_.path())); });
  layout->addWidget(read_only);
  layout->addWidget(new UnreadBar(session, central));
  auto* middle = new QSplitter(Qt::Horizontal, central);
  middle->setHandleWidth(1);
  middle->setChildrenCollapsible(false);
  givens_ = new GivensPanel(session, middle);
  sheet_ = new Sheet(session, middle);
  axis_view_ = qobject_cast<AxisView*>(sheet_->view("axis"));
  ladder_ = new LadderPanel(session, middle);
  givens_->setMinimumWidth(284);
  ladder_->setMinimumWidth(220);
  middle->setStretchFactor(1, 1);
  middle->setSizes({336, 688, 256});
  layout->addWidget(middle, 1);
  ribbon_ = new Ribbon(session, central);
  layout->addWidget(ribbon_);
  setCentralWidget(central);

  connect(header_, &HeaderBar::find_requested, this, &MainWindow::find);
  connect(header_, &HeaderBar::add_axis_requested, this, &MainWindow::add_axis);
  connect(sheet_->welcome(), &Welcome::example_requested, this, &MainWindow::add_example);
  connect(sheet_->welcome(), &Welcome::demo_requested, this, [this] {
    if (may_leave()) open_demo();
  });
  connect(sheet_->welcome(), &Welcome::open_requested, this, [this](const QString& path) {
    if (may_leave()) open(path);
  });
  connect(&session, &Session::working_requested, this, [this](const QString& result) {
    sheet_->show_view("axis");
    axis_view_->show_working(result);
  });
  connect(&session, &Session::parts_requested, this, &MainWindow::choose_part_for);
  connect(&session, &Session::input_requested, givens_, &GivensPanel::go_to);
  connect(&session, &Session::view_requested, this,
          [this](const QString& id) { sheet_->show_view(id.toStdString()); });
  connect(givens_, &GivensPanel::tool_requested, this, [this](const QString& tool, int index) {
    if (tool == "import_profile") import_points(index, "points");
    if (tool == "import_process") import_points(index, "process_curve");
    if (tool == "import_pieces") ask_and_import_pieces();
  });
  connect(sheet_, &Sheet::switched, this, &MainWindow::follow_view);
  connect(&session, &Session::changed, this, &MainWindow::follow_view);
  follow_view();
  connect(&session, &Session::changed, this, [this](Changes what) {
    if (what.testFlag(Change::machine)) refresh_title();
  });
  connect(&session, &Session::autosave_failed, this, [this](const QString& text) { tell("Autosave", text); });
  connect(new QShortcut(QKeySequence(Qt::Key_F2), this), &QShortcut::activated, this,
          &MainWindow::show_working);
  connect(new QShortcut(QKeySequence(Qt::Key_Escape), this), &QShortcut::activated, this, [this] {
    if (MachineView* machine = machine_view())
      machine->close_working();
    else
      axis_view_->close_working();
  });
  refresh_title();
  axis_view_->numbers()->setFocus();
}

void MainWindow::build_menu() {
  menu_ = new QMenu(this);
  const auto add = [&](const QString& text, const QKeySequence& keys, auto act) {
    QAction* action = menu_->addAction(text);
    action->setShortcut(keys);
    addAction(action);
    connect(action, &QAction::triggered, this, act);
  };
  add("New machine", QKeySequence::New, [this] {
    if (may_leave()) session_.new_document();
  });
  add("Open…", QKeySequence::Open, [this] { ask_open(); });
  recent_ = menu_->addMenu("Open recent");
  connect(recent_, &QMenu::aboutToShow, this, &MainWindow::fill_recent);
  add("Open the demo machine", {}, [this] {
    if (may_leave()) open_demo();
  });
  menu_->addSeparator();
  add("Save", QKeySequence::Save, [this] { save(); });
  add("Save as…", QKeySequence("Ctrl+Shift+S"), [this] { save_as(); });
  add("Unsaved work…", {}, [this] { show_unsaved(); });
  add("Save worksheet as PDF…", QKeySequence::Print, [this] { save_worksheet(); });
  add("Save the cycle as CSV…", {}, [this] { export_trace(); });
  menu_->addSeparator();
  add("Undo", QKeySequence::Undo, [this] { session_.undo(); });
  add("Redo", QKeySequence("Ctrl+Shift+Z"), [this] { session_.redo(); });
  add("Find…", QKeySequence("Ctrl+K"), [this] { find(); });
  add("Light or dark", QKeySequence("Ctrl+L"), [this] { set_dark(!theme().dark); });
  menu_->addSeparator();
  add("Quit", QKeySequence::Quit, [this] { close(); });
}

/// What stays beside the view in use; without an axis there is no cycle, and the start page takes its room.
void MainWindow::follow_view() {
  const ViewSpec& view = sheet_->shown();
  const bool any = session_.evaluation() != nullptr;
  givens_->setVisible(!any || view.with_givens);
  ladder_->setVisible(!any || view.with_ladder);
  ribbon_->setVisible(session_.has_axis() && (!any || view.with_ribbon));
}

void MainWindow::choose_part_for(const QString& slot) {
  const bool first = parts_ == nullptr;
  parts_ = qobject_cast<PartsView*>(sheet_->view("parts"));
  if (first)
    connect(parts_, &PartsView::done, this, [this](const QString& view) {
      if (!view.isEmpty()) sheet_->show_view(view.toStdString());
    });
  const QString here = qt(sheet_->shown().id);
  sheet_->show_view("parts");
  parts_->choose_for(slot.toStdString(), here == "parts" ? QString() : here);
}

void MainWindow::refresh_title() {
  const QString file = session_.path().isEmpty() ? QString() : QFileInfo(session_.path()).fileName() + " — ";
  setWindowTitle((session_.dirty() ? "• " : "") + QString(session_.read_only() ? "(read only) " : "") + file +
                 QString::fromStdString(session_.document().name) + " — Fulmox");
}

void MainWindow::set_dark(bool dark) {
  apply_theme(dark);
  QSettings().setValue("dark", dark);
  emit session_.changed(Change::theme);
}

void MainWindow::tell(const QString& title, const QString& text) { QMessageBox::warning(this, title, text); }

void MainWindow::open_demo() {
  auto demo = load_document(data_folder() / "demo" / "transplanter.fulmox");
  if (!demo) return tell("The demo machine is missing", qt(demo.problem().text()));
  session_.adopt(std::move(*demo));
}

void MainWindow::ask_open() {
  if (!may_leave()) return;
  const QString path = QFileDialog::getOpenFileName(this, "Open a machine", QString(),
                                                    "Fulmox machines (*.fulmox);;All files (*)");
  if (!path.isEmpty()) open(path);
}

void MainWindow::save_worksheet() {
  QString path = QFileDialog::getSaveFileName(
      this, "Save the worksheet", QString::fromStdString(session_.document().name) + ".pdf", "PDF (*.pdf)");
  if (path.isEmpty()) return;
  if (QFileInfo(path).suffix().isEmpty()) path += ".pdf";
  if (!write_worksheet_pdf(session_.document(), path))
    tell("The worksheet could not be saved", "Save it under another name or in another folder: " + path);
}

void MainWindow::remember(const QString& path) {
  QSettings settings;
  QStringList files = settings.value("recent").toStringList();
  const QString full = QFileInfo(path).absoluteFilePath();
  files.removeAll(full);
  files.prepend(full);
  constexpr qsizetype most = 8;
  settings.setValue("recent", QStringList(files.mid(0, most)));
}

void MainWindow::fill_recent() {
  recent_->clear();
  for (const QString& path : QSettings().value("recent").toStringList())
    recent_->addAction(path, this, [this, path] {
      if (may_leave()) open(path);
    });
  if (recent_->isEmpty()) recent_->addAction("None yet")->setEnabled(false);
}

void MainWindow::add_axis() {
  session_.edit("Add axis", "", [](Document& d) {
    const std::string next = "Axis " + std::to_string(d.axes.size() + 1);
    d.axes.push_back(new_axis(fresh_axis_name(d, next)));
  });
  session_.select_axis(session_.document().axes.size() - 1);
  givens_->go_to("load.moved_mass");
}

void MainWindow::add_example(const QString& name) {
  session_.edit("Add example", "", [&](Document& d) {
    Axis axis = example_axis(name, session_.library());
    // an axis that holds nothing yet is replaced, not left behind
    const std::size_t here = session_.axis_index();
    const bool replaced = here < d.axes.size() && d.axes[here].cycle.empty() &&
                          d.axes[here]["load"].blank(main_load_input(d.axes[here]));
    axis.name = fresh_name(axis.name, [&](const std::string& taken) {
      return another_axis_called(d, replaced ? here : d.axes.size(), taken);
    });
    // the demo's buses stay in the demo: on one that is not here nothing would judge its supply
    for (const std::string_view field : {"shared_bus", "brake_bus"})
      if (Section& room = axis["surroundings"]; !bus_exists(d, room.text(field))) room.type(field, "");
    if (replaced)
      d.axes[here] = std::move(axis);
    else
      d.axes.push_back(std::move(axis));
  });
  if (session_.evaluation() == nullptr) session_.select_axis(session_.document().axes.size() - 1);
}

/// The machine's view while it is the one in use.
MachineView* MainWindow::machine_view() {
  return sheet_->shown().id == "machine" ? qobject_cast<MachineView*>(sheet_->view("machine")) : nullptr;
}

void MainWindow::show_working() {
  if (MachineView* machine = machine_view()) return machine->show_working();
  Numbers* numbers = axis_view_->numbers();
  if (session_.evaluation() == nullptr) return;
  sheet_->show_view("axis");
  if (numbers->current_result().isEmpty()) numbers->select("demand.peak_torque");
  emit session_.working_requested(numbers->current_result());
}

std::vector<Finding> MainWindow::findings() {
  std::vector<Finding> all;
  if (session_.has_axis()) {
    const auto add_section = [&](const Section& section, const QString& title) {
      for (std::size_t i = 0; i < section.size(); ++i) {
        const QString path = QString::fromStdString(section.path + ".") + qt(section.field(i).id);
        all.push_back(
            {"input, " + title, qt(section.field(i).label), [this, path] { givens_->go_to(path); }});
      }
    };
    for (const Section& section : session_.axis().givens)
      add_section(section, qt(section.spec().title).toLower());
    for (std::size_t i = 0; i < session_.axis().cycle.size(); ++i)
      add_section(session_.axis().cycle[i],
                  qt(session_.axis().cycle[i].spec().title).toLower() + " " + QString::number(i + 1));
  }
  if (const Evaluation* e = session_.evaluation()) {
    for (const ResultValue& result : e->results) {
      const QString id = qt(result.id);
      all.push_back({"result", qt(result.label), [this, id] {
                       sheet_->show_view("axis");
                       axis_view_->numbers()->select(id);
                       axis_view_->show_working(id);
                     }});
    }
    for (const Limit& limit : e->limits) {
      const QString step = qt(limit.step);
      if (!step.isEmpty())
        all.push_back({"limit", qt(limit.label), [this, step] { emit session_.working_requested(step); }});
    }
    for (const SlotSpec* slot : axis_part_slots())
      for (const Section& part : session_.library().of(slot->id))
        all.push_back({"choose this " + qt(part.spec().title).toLower(),
                       QString::fromStdString(part.text("part_number")), [this, slot, &part] {
                         session_.edit("Choose " + QString::fromStdString(part.text("part_number")), "",
                                       [&](Document& d) {
                                         choose_part(d.axes[session_.axis_index()], slot->id, part);
                                       });
                       }});
  }
  for (QAction* action : menu_->actions())
    if (!action->text().isEmpty() && action->menu() == nullptr)
      all.push_back({"command", action->text(), [action] { action->trigger(); }});
  all.push_back({"command", "Add axis", [this] { add_axis(); }});
  for (const ViewSpec& view : view_specs())
    all.push_back({"view", view.title + " view", [this, id = view.id] { sheet_->show_view(id); }});
  return all;
}

void MainWindow::find() {
  FindPalette palette(findings(), this);
  palette.exec();
}

void MainWindow::closeEvent(QCloseEvent* event) {
  if (!may_leave()) return event->ignore();
  session_.drop_autosave();
  event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls() && event->mimeData()->urls().size() == 1) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
  const QString path = event->mimeData()->urls().front().toLocalFile();
  if (path.isEmpty()) return;
  if (is_csv(path))
    import_dropped(path);
  else if (may_leave())
    open(path);
}

} // namespace fulmox::app
