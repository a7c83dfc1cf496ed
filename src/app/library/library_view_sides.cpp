// How the library view is laid out: libraries at the left, parts in the middle, the sheet of one at the
// right.

#include "app/library/library_view.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/list_table.hpp"
#include "app/widgets/plain_widgets.hpp"

#include <QFileDialog>
#include <QHeaderView>
#include <QVBoxLayout>

namespace fulmox::app {
namespace {

QHBoxLayout* in_a_row(std::initializer_list<QWidget*> widgets) {
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  for (QWidget* widget : widgets) row->addWidget(widget);
  return row;
}

QPushButton* button(const char* name, const QString& text, const QString& tip) {
  QPushButton* made = outlined_button(name, text);
  made->setToolTip(tip);
  return made;
}

} // namespace

QWidget* LibraryView::left_side() {
  auto* side = new QWidget;
  auto* column = new QVBoxLayout(side);
  column->setContentsMargins(0, 0, 6, 0);
  column->addWidget(heading("Libraries"));
  sources_ = new QListWidget;
  sources_->setObjectName("library_sources");
  sources_->setAccessibleName("Libraries in the order in which they count");
  sources_->setToolTip("Of the same part in two of them the lower one counts");
  sources_->setFont(face(-1));
  sources_->setMinimumHeight(96);
  sources_->setMinimumWidth(190);
  column->addWidget(sources_, 2);
  auto* folder = button("library_add_folder", "Add a folder…", "A folder with motors.csv, gearheads.csv …");
  auto* file = button("library_add_file", "Add a file…", "One file, named motors.csv or the like");
  remove_source_ = button("library_remove_source", "Off the list", "Nothing on disk is touched");
  up_ = button("library_up", "↑", "Others count before it");
  down_ = button("library_down", "↓", "It counts before others");
  for (QPushButton* arrow : {up_, down_}) arrow->setMaximumWidth(34);
  column->addLayout(in_a_row({folder, file}));
  column->addLayout(in_a_row({remove_source_, up_, down_}));
  column->addWidget(heading("Could not be read"));
  troubles_ = new QListWidget;
  troubles_->setObjectName("library_troubles");
  troubles_->setAccessibleName("What could not be read");
  troubles_->setWordWrap(true);
  troubles_->setFont(face(-1));
  column->addWidget(troubles_, 3);
  connect(folder, &QPushButton::clicked, this,
          [this] { add_source(QFileDialog::getExistingDirectory(this, "A folder with libraries")); });
  connect(file, &QPushButton::clicked, this,
          [this] { add_source(QFileDialog::getOpenFileName(this, "A library", {}, "CSV (*.csv)")); });
  PartSources& known = session_.part_sources();
  const auto on_chosen = [this](auto how) {
    return [this, how] {
      if (sources_->currentRow() < 0) return;
      how(static_cast<std::size_t>(sources_->currentRow()));
      session_.read_libraries();
    };
  };
  connect(remove_source_, &QPushButton::clicked, this,
          on_chosen([&known](std::size_t i) { known.remove(i); }));
  connect(up_, &QPushButton::clicked, this, on_chosen([&known](std::size_t i) { known.move(i, -1); }));
  connect(down_, &QPushButton::clicked, this, on_chosen([&known](std::size_t i) { known.move(i, 1); }));
  connect(sources_, &QListWidget::currentRowChanged, this, [this] { tell(); });
  connect(sources_, &QListWidget::itemChanged, this, [this](QListWidgetItem* item) {
    if (filling_) return;
    session_.part_sources().turn(static_cast<std::size_t>(sources_->row(item)),
                                 item->checkState() == Qt::Checked);
    session_.read_libraries();
  });
  return side;
}

/// In a narrow window the kinds of part stand in two rows: the sheet beside the list keeps room for its
/// values.
void LibraryView::place_words() {
  constexpr int narrow = 1150;
  const std::size_t in_first = width() < narrow ? (words_.size() + 1) / 2 : words_.size();
  if (rows_of_words_[0]->count() == static_cast<int>(in_first)) return;
  for (std::size_t i = 0; i < words_.size(); ++i) {
    for (QHBoxLayout* row : rows_of_words_) row->removeWidget(words_[i]);
    rows_of_words_[i < in_first ? 0 : 1]->addWidget(words_[i]);
  }
}

QWidget* LibraryView::middle() {
  auto* side = new QWidget;
  auto* column = new QVBoxLayout(side);
  column->setContentsMargins(6, 0, 6, 0);
  for (QHBoxLayout*& row : rows_of_words_) {
    row = new QHBoxLayout;
    row->setSpacing(4);
    row->setAlignment(Qt::AlignLeft);
    column->addLayout(row);
  }
  for (const SlotSpec* slot : part_slots()) {
    auto* word = new QToolButton;
    word->setText(qt(slot->part_title()));
    word->setObjectName("library_" + qt(slot->id));
    word->setCheckable(true);
    word->setProperty("role", "chip");
    connect(word, &QToolButton::clicked, this, [this, slot] {
      if (may_leave()) show_slot(std::string(slot->id));
      tell();
    });
    words_.push_back(word);
  }
  place_words();
  search_ = new QLineEdit;
  search_->setObjectName("library_search");
  search_->setAccessibleName("Search the parts");
  search_->setPlaceholderText("Part number, maker, kind, library…");
  search_->setClearButtonEnabled(true);
  connect(search_, &QLineEdit::textChanged, this, [this](const QString& words) {
    model_->search(words);
    tell();
  });
  column->addWidget(search_);
  constexpr int row_height = 22;
  table_ = list_table("library_parts", row_height);
  table_->setAccessibleName("Parts of all libraries");
  table_->setModel(model_);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->horizontalHeader()->setStretchLastSection(true);
  connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
          [this](const QModelIndex& now) { follow_row(now.row()); });
  column->addWidget(table_, 1);
  note_ = wrapped_label("library_note", "soft");
  note_->setFont(face(-1));
  column->addWidget(note_);
  auto* import =
      button("library_import", "Import a list…", "A CSV of any layout: you say what its columns mean");
  auto* write = button("library_export", "Export the list…", "Writes the parts that are listed as a library");
  connect(import, &QPushButton::clicked, this, [this] {
    const QString path = QFileDialog::getOpenFileName(this, "A list of parts", {}, "CSV (*.csv *.txt *.tsv)");
    if (!path.isEmpty()) import_list(path);
  });
  connect(write, &QPushButton::clicked, this, [this] {
    const QString path =
        QFileDialog::getSaveFileName(this, "Export the parts that are listed", "parts.csv", "CSV (*.csv)");
    if (!path.isEmpty()) told_problem(export_list(path));
  });
  auto* bottom = in_a_row({import, write});
  bottom->addStretch();
  column->addLayout(bottom);
  return side;
}

QWidget* LibraryView::right_side() {
  auto* side = new QWidget;
  auto* column = new QVBoxLayout(side);
  column->setContentsMargins(6, 0, 0, 0);
  head_ = heading("Data sheet");
  head_->setObjectName("sheet_head");
  column->addWidget(head_);
  sheet_ = new PartSheet;
  column->addWidget(sheet_, 1);
  new_kind_ = new QComboBox;
  new_kind_->setObjectName("sheet_new_kind");
  new_kind_->setAccessibleName("Kind of the new part");
  new_kind_->setMinimumWidth(80);
  auto* fresh = button("sheet_new", "New part", "Type its data sheet; kept in your own library");
  copy_ = button("sheet_copy", "Copy to change", "A copy in your own library counts before this one");
  keep_ = button("sheet_keep", "Keep", "Writes it into your own library");
  delete_ = button("sheet_delete", "Delete", "Takes it out of your own library");
  column->addLayout(in_a_row({new_kind_, fresh}));
  column->addLayout(in_a_row({copy_, keep_, delete_}));
  connect(fresh, &QPushButton::clicked, this, &LibraryView::start_new);
  connect(copy_, &QPushButton::clicked, this, &LibraryView::copy);
  connect(keep_, &QPushButton::clicked, this, &LibraryView::keep);
  connect(delete_, &QPushButton::clicked, this, &LibraryView::remove);
  connect(sheet_, &PartSheet::edited, this, [this] {
    typed_ = true;
    tell();
  });
  return side;
}

} // namespace fulmox::app
