#include "app/library/library_view.hpp"

#include "app/library/import_dialog.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/list_table.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/support/text_file.hpp"

#include <QDragEnterEvent>
#include <QElapsedTimer>
#include <QFileDialog>
#include <QFileInfo>
#include <QHeaderView>
#include <QMessageBox>
#include <QMimeData>
#include <QScopedValueRollback>
#include <QSplitter>
#include <QTimer>
#include <QVBoxLayout>

namespace fulmox::app {
namespace {

const QString job = "part checks";
constexpr std::uintmax_t list_limit = 64U * 1024U * 1024U;

} // namespace

LibraryView::LibraryView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), model_(new StoredModel(this)) {
  setObjectName("library_view");
  setAccessibleName("Libraries of parts");
  setAcceptDrops(true);
  auto* halves = new QSplitter;
  halves->setHandleWidth(1);
  halves->setChildrenCollapsible(false);
  for (QWidget* side : {left_side(), middle(), right_side()}) halves->addWidget(side);
  halves->setStretchFactor(1, 2);
  halves->setStretchFactor(2, 1);
  halves->setSizes({230, 560, 400});
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(8, 6, 8, 6);
  all->addWidget(halves);
  connect(&session, &Session::libraries_changed, this, [this] {
    show_sources();
    show_slot(slot_);
  });
}

void LibraryView::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  place_words();
  QTimer::singleShot(0, this, &LibraryView::fit_kind); // once the table has its room
}

void LibraryView::add_source(const QString& path) {
  if (path.isEmpty()) return;
  if (!session_.part_sources().add(path))
    return told_problem(Problem{path.toStdString(), "it is on the list already.", ""});
  session_.read_libraries();
}

void LibraryView::show_sources() {
  const QScopedValueRollback quiet(filling_, true);
  const int current = sources_->currentRow();
  sources_->clear();
  const Catalogue& catalogue = session_.catalogue();
  const auto& all = session_.part_sources().all();
  for (std::size_t i = 0; i < all.size(); ++i) {
    const bool read = i < catalogue.sources().size() && catalogue.sources()[i] == all[i];
    auto* item =
        new QListWidgetItem(QString::fromStdString(all[i].name) +
                            (read && all[i].on ? QString("  %1").arg(catalogue.size_of(i)) : QString()));
    item->setToolTip(QString::fromStdString(all[i].path.string()));
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
    item->setCheckState(all[i].on ? Qt::Checked : Qt::Unchecked);
    sources_->addItem(item);
  }
  sources_->setCurrentRow(std::clamp(current, 0, sources_->count() - 1));
  troubles_->clear();
  for (const Catalogue::Trouble& trouble : catalogue.troubles())
    troubles_->addItem(QString::fromStdString(catalogue.sources()[trouble.source].name) + ": " +
                       qt(trouble.problem.text()));
  if (catalogue.troubles().empty()) troubles_->addItem("Everything was read.");
}

void LibraryView::show_slot(const std::string& slot) {
  slot_ = slot;
  const auto all = part_slots();
  for (std::size_t i = 0; i < words_.size(); ++i) words_[i]->setChecked(all[i]->id == slot);
  {
    const QScopedValueRollback quiet(filling_, true);
    new_kind_->clear();
    for (const SlotKind& kind : find_part_slot(slot)->kinds())
      if (!kind.library.empty()) new_kind_->addItem(qt(kind.called()));
    model_->show(session_.catalogue(), slot);
  }
  typed_ = false;
  was_.reset();
  sheet_->clear();
  for (const auto& [column, width] : {std::pair{0, 132}, {1, 124}, {3, 46}, {4, 66}})
    table_->setColumnWidth(column, width);
  fit_kind();
  if (wanted_)
    select(*std::exchange(wanted_, std::nullopt));
  else if (model_->rowCount() > 0)
    table_->selectRow(0);
  check_all();
  tell();
}

/// Its words are long and tell apart what looks alike: they get what the others leave.
void LibraryView::fit_kind() {
  constexpr int least = 128, most = 216;
  int left = table_->viewport()->width() - 56; // for what is to be remarked
  for (const int column : {StoredModel::number, StoredModel::maker, StoredModel::price, StoredModel::from})
    left -= table_->columnWidth(column);
  table_->setColumnWidth(StoredModel::kind, std::clamp(left, least, most));
}

/// Every sheet is checked beside the window.
void LibraryView::check_all() {
  if (!open_) return;
  std::vector<StoredPart> parts = session_.catalogue().of(slot_);
  session_.jobs().start(job, [this, parts = std::move(parts), slot = slot_,
                              units = session_.document().units](const JobLink& link) {
    constexpr qint64 frame = 60; // ms
    QElapsedTimer since;
    since.start();
    StoredModel::Checked checked;
    for (std::size_t i = 0; i < parts.size() && link.wanted(); ++i) {
      checked.emplace_back(i, check_part(slot, parts[i].part, units));
      if (since.elapsed() < frame && i + 1 < parts.size()) continue;
      link.deliver([this, checked] { model_->take(checked); });
      link.progress(static_cast<double>(i + 1) / static_cast<double>(parts.size()));
      checked.clear();
      since.restart();
    }
  });
}

bool LibraryView::may_leave() {
  if (!typed_) return true;
  QMessageBox box(QMessageBox::Question, "The sheet is not kept",
                  "What was typed into the data sheet is not kept yet.", QMessageBox::Cancel, this);
  auto* drop = box.addButton("Drop it", QMessageBox::DestructiveRole);
  drop->setObjectName("sheet_drop");
  box.exec();
  if (box.clickedButton() != drop) return false;
  typed_ = false;
  return true;
}

void LibraryView::follow_row(int row) {
  if (filling_ || row < 0) return;
  const StoredPart& stored = model_->part(model_->place(row));
  if (sheet_->any() && typed_ && !may_leave()) return;
  const bool own = session_.catalogue().sources()[stored.source].own;
  typed_ = false;
  was_ = own ? std::optional(name_of(stored.part)) : std::nullopt;
  sheet_->show(slot_, stored.part, own, session_.document().units);
  tell();
}

void LibraryView::select(const PartName& name) {
  const int row = model_->row_of(name);
  if (row < 0) return;
  table_->selectRow(row);
  table_->scrollTo(model_->index(row, 0));
}

void LibraryView::start_new() {
  if (!may_leave()) return;
  std::vector<SlotKind> kinds;
  for (SlotKind& kind : find_part_slot(slot_)->kinds())
    if (!kind.library.empty()) kinds.push_back(std::move(kind));
  Section part(*kinds[static_cast<std::size_t>(std::max(0, new_kind_->currentIndex()))].form);
  for (std::size_t i = 0; i < part.size(); ++i)
    if (!part.field(i).required) part.put(i, make_entry(part.field(i), ""));
  if (part.has("fitted")) part.type("fitted", "yes", Origin::data_sheet);
  was_.reset();
  typed_ = false;
  sheet_->show(slot_, part, true, session_.document().units);
  tell();
}

void LibraryView::copy() {
  if (!sheet_->any()) return;
  Section part = sheet_->part();
  was_.reset();
  sheet_->show(slot_, part, true, session_.document().units);
  typed_ = true;
  tell();
}

void LibraryView::keep() {
  if (!sheet_->any() || !sheet_->editable()) return;
  if (const auto problem = keep_part(session_.part_sources().own(), slot_, sheet_->part(), was_))
    return told_problem(problem);
  typed_ = false;
  wanted_ = name_of(sheet_->part());
  session_.read_libraries();
}

void LibraryView::remove() {
  if (!was_) return;
  const QString name = QString::fromStdString(was_->number);
  if (QMessageBox::question(this, "Delete a part", "Take " + name + " out of your own library?") !=
      QMessageBox::Yes)
    return;
  Section part = sheet_->part();
  part.type("maker", was_->maker);
  part.type("part_number", was_->number);
  typed_ = false;
  told_problem(remove_part(session_.part_sources().own(), slot_, part));
  session_.read_libraries();
}

void LibraryView::import_list(const QString& path) {
  const auto text = read_text_file(path.toStdString(), list_limit);
  if (!text) return told_problem(text.problem());
  if (const auto table = look_into(*text, 1); !table) return told_problem(table.problem());
  ImportDialog dialog(session_.part_sources(), *text, QFileInfo(path).fileName(), slot_, this);
  if (dialog.exec() != QDialog::Accepted) return;
  if (const auto problem = keep_parts(session_.part_sources().own(), dialog.slot(), dialog.parts()))
    return told_problem(problem);
  told_problem(session_.part_sources().remember(dialog.mapping()));
  slot_ = dialog.slot();
  wanted_ = name_of(dialog.parts().front());
  session_.read_libraries();
}

std::optional<Problem> LibraryView::export_list(const QString& path) const {
  Parts parts;
  for (int row = 0; row < model_->rowCount(); ++row) {
    const StoredPart& stored = model_->part(model_->place(row));
    if (stored.hidden_by) continue;
    if (!parts.empty() && &parts.front().spec() != &stored.part.spec())
      return Problem{path.toStdString(),
                     "the list holds parts of several kinds, which have different columns.",
                     "Search for one kind first, such as " +
                         model_->index(0, StoredModel::kind).data().toString().toStdString() + "."};
    parts.push_back(stored.part);
  }
  if (parts.empty()) return Problem{path.toStdString(), "no part is listed.", "Change the search."};
  return write_text_file(
      path.toStdString(),
      write_parts(parts, columns_for(parts), "Exported by Fulmox; columns as in docs/libraries.md."));
}

void LibraryView::told_problem(const std::optional<Problem>& problem) {
  if (!problem) return;
  QMessageBox box(QMessageBox::Information, "Libraries", qt(problem->text()), QMessageBox::Ok, this);
  box.setObjectName("library_problem");
  box.exec();
}

void LibraryView::tell() {
  const auto chosen = static_cast<std::size_t>(std::max(0, sources_->currentRow()));
  const PartSources& known = session_.part_sources();
  const bool movable = sources_->currentRow() >= 0 && known.movable(chosen);
  remove_source_->setEnabled(movable);
  up_->setEnabled(movable && known.movable(chosen - 1));
  down_->setEnabled(movable && known.movable(chosen + 1));
  note_->setText(
      QString("%1 of %2 listed. What is shipped is invented; the source of each part is on its sheet.")
          .arg(model_->rowCount())
          .arg(model_->size()));
  const bool any = sheet_->any(), editable = any && sheet_->editable();
  const QString name = any ? QString::fromStdString(sheet_->part().text("part_number")) : QString();
  head_->setText(!any ? "Data sheet"
                      : (name.isEmpty() ? "New part" : name) + (typed_ ? "  not kept yet" : ""));
  copy_->setEnabled(any && !editable);
  keep_->setEnabled(editable && (typed_ || !was_));
  delete_->setEnabled(editable && was_.has_value());
  for (std::size_t i = 0; i < words_.size(); ++i) words_[i]->setChecked(part_slots()[i]->id == slot_);
}

void LibraryView::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  open_ = true;
  show_sources();
  if (!typed_) show_slot(slot_); // a sheet that is being typed stays
}

void LibraryView::hideEvent(QHideEvent* event) {
  open_ = false;
  session_.jobs().cancel(job);
  QWidget::hideEvent(event);
}

void LibraryView::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

/// A folder or a file of a known name is added, any other list is imported.
void LibraryView::dropEvent(QDropEvent* event) {
  const auto urls = event->mimeData()->urls();
  const QString path = urls.isEmpty() ? QString() : urls.front().toLocalFile();
  if (path.isEmpty()) return;
  const QFileInfo file(path);
  bool known = file.isDir();
  for (const SlotSpec* slot : part_slots())
    for (const SlotKind& kind : slot->kinds()) known = known || qt(kind.library) == file.fileName();
  known ? add_source(path) : import_list(path);
}

} // namespace fulmox::app
