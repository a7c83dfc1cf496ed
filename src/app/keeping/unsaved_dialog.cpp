#include "app/keeping/unsaved_dialog.hpp"

#include "app/keeping/questions.hpp"
#include "app/session/session.hpp"

#include <QDialogButtonBox>
#include <QFile>
#include <QHeaderView>
#include <QLabel>
#include <QMessageBox>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

namespace fulmox::app {

UnsavedDialog::UnsavedDialog(std::filesystem::path folder, QWidget* parent)
    : QDialog(parent), folder_(std::move(folder)) {
  setObjectName("unsaved");
  setWindowTitle("Unsaved work");
  resize(760, 380);
  auto* layout = new QVBoxLayout(this);
  auto* label =
      new QLabel("Work that was not taken up after a crash, or gave way to another version of its file. "
                 "It goes after a week.");
  label->setWordWrap(true);
  layout->addWidget(label);
  table_ = new QTableWidget(0, 4);
  table_->setObjectName("unsaved_list");
  table_->setHorizontalHeaderLabels({"Machine", "Kept", "Changes", "File"});
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->verticalHeader()->hide();
  table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  table_->horizontalHeader()->setStretchLastSection(true);
  layout->addWidget(table_, 1);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  open_ = buttons->addButton("Open", QDialogButtonBox::ActionRole);
  open_->setObjectName("open_unsaved");
  delete_ = buttons->addButton("Delete…", QDialogButtonBox::ActionRole);
  delete_->setObjectName("delete_unsaved");
  layout->addWidget(buttons);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(open_, &QPushButton::clicked, this, &UnsavedDialog::open_selected);
  connect(delete_, &QPushButton::clicked, this, &UnsavedDialog::remove);
  connect(table_, &QTableWidget::cellDoubleClicked, this, &UnsavedDialog::open_selected);
  connect(table_, &QTableWidget::itemSelectionChanged, this, [this] {
    const KeptWork* work = selected();
    open_->setEnabled(work != nullptr && !work->unreadable);
    delete_->setEnabled(work != nullptr);
  });
  fill();
}

void UnsavedDialog::fill() {
  all_ = kept_in(folder_);
  table_->setRowCount(static_cast<int>(all_.size()));
  for (int row = 0; row < table_->rowCount(); ++row) {
    const KeptWork& work = all_[static_cast<std::size_t>(row)];
    const QString machine = qt(work.machine.string());
    const QStringList texts{work.unreadable ? "cannot be read" : qt(work.name), when_told(work.when),
                            work.changes > 0 ? QString::number(work.changes) : QString("—"),
                            work.unreadable     ? qt(work.file.filename().string())
                            : machine.isEmpty() ? QString("never saved")
                                                : machine};
    for (int column = 0; column < texts.size(); ++column) {
      auto* item = new QTableWidgetItem(texts[column]);
      item->setToolTip(work.unreadable ? qt(work.unreadable->text()) : texts[column]);
      if (column == 2) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
      table_->setItem(row, column, item);
    }
  }
  table_->clearSelection();
  open_->setEnabled(false);
  delete_->setEnabled(false);
  if (!all_.empty()) table_->selectRow(0);
}

const KeptWork* UnsavedDialog::selected() const {
  const int row = table_->currentRow();
  const bool any = !table_->selectedItems().isEmpty() && row >= 0 && row < static_cast<int>(all_.size());
  return any ? &all_[static_cast<std::size_t>(row)] : nullptr;
}

void UnsavedDialog::open_selected() {
  const KeptWork* work = selected();
  if (work == nullptr || work->unreadable) return;
  wanted_ = *work;
  accept();
}

void UnsavedDialog::remove() {
  const KeptWork* work = selected();
  if (work == nullptr) return;
  const auto answer = QMessageBox::question(this, "Delete unsaved work",
                                            "Delete “" + qt(work->name) + "”, " + work_told(*work) +
                                                "? It cannot be brought back.",
                                            QMessageBox::Yes | QMessageBox::Cancel, QMessageBox::Cancel);
  if (answer != QMessageBox::Yes) return;
  QFile::remove(qt(work->file.string()));
  fill();
}

} // namespace fulmox::app
