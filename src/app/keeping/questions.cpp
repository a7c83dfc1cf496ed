#include "app/keeping/questions.hpp"

#include "app/session/session.hpp"

#include <QDateTime>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFileInfo>
#include <QHeaderView>
#include <QLabel>
#include <QMessageBox>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

namespace fulmox::app {

QString when_told(std::int64_t time) {
  return QDateTime::fromSecsSinceEpoch(time).toString("d MMM yyyy, HH:mm");
}

QString work_told(const KeptWork& work) {
  const QString changes = work.changes == 1  ? "1 change"
                          : work.changes > 1 ? QString("%1 changes").arg(work.changes)
                                             : QString("Changes");
  return changes + ", kept " + when_told(work.when);
}

bool ask_take_up(QWidget* parent, const KeptWork& work, const QString& path, const QString& damage) {
  QMessageBox box(parent);
  box.setIcon(QMessageBox::Question);
  box.setWindowTitle("Unsaved work was kept");
  box.setText("Fulmox ended without saving “" + qt(work.name) + "”.");
  QString told = "Unsaved: " + work_told(work) + ".\n";
  if (!damage.isEmpty()) {
    told += "The file itself cannot be read: " + damage + "\n";
  } else if (!path.isEmpty()) {
    const qint64 saved = QFileInfo(path).lastModified().toSecsSinceEpoch();
    told += "The file was saved " + when_told(saved) + " and is " + (saved > work.when ? "newer" : "older") +
            " than the unsaved work.\n";
  }
  told += "\nWhat you do not take up is kept for a week, under “Unsaved work” in the menu.";
  box.setInformativeText(told);
  QPushButton* take = box.addButton("Take up the unsaved work", QMessageBox::AcceptRole);
  take->setObjectName("take_up");
  QPushButton* leave = box.addButton(path.isEmpty()     ? "Start without it"
                                     : damage.isEmpty() ? "Open the file as saved"
                                                        : "Leave it",
                                     QMessageBox::RejectRole);
  leave->setObjectName("leave");
  box.setDefaultButton(take);
  box.setEscapeButton(leave);
  box.exec();
  return box.clickedButton() == take;
}

namespace {

QTableWidget* table_of(const std::vector<Difference>& all) {
  constexpr std::size_t most = 500;
  auto* table = new QTableWidget(static_cast<int>(std::min(all.size(), most)), 4);
  table->setObjectName("differences");
  table->setHorizontalHeaderLabels({"Axis", "Input", "In the file now", "Here"});
  table->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table->setSelectionMode(QAbstractItemView::NoSelection);
  table->verticalHeader()->hide();
  const auto shown = [](const std::string& text) {
    constexpr qsizetype longest = 200;
    const QString whole = text.empty() ? QString("—") : qt(text);
    return whole.size() > longest ? whole.left(longest) + "…" : whole;
  };
  for (int row = 0; row < table->rowCount(); ++row) {
    const Difference& d = all[static_cast<std::size_t>(row)];
    int column = 0;
    for (const std::string* text : {&d.axis, &d.input, &d.before, &d.after}) {
      auto* item = new QTableWidgetItem(shown(*text));
      item->setToolTip(item->text());
      table->setItem(row, column++, item);
    }
  }
  table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
  return table;
}

} // namespace

DiskAnswer ask_about_disk(QWidget* parent, const QString& path, const std::optional<Document>& theirs,
                          const Document& mine) {
  QDialog dialog(parent);
  dialog.setObjectName("disk_question");
  dialog.setWindowTitle("The file was changed by somebody else");
  dialog.resize(760, 420);
  auto* layout = new QVBoxLayout(&dialog);
  auto* label =
      new QLabel(QFileInfo(path).fileName() +
                 (theirs ? " holds something else than when it was opened or saved here. What differs:"
                         : " holds something else than when it was opened or saved here, and cannot be "
                           "read as a machine."));
  label->setWordWrap(true);
  layout->addWidget(label);
  const auto all = theirs ? differences(*theirs, mine) : std::vector<Difference>();
  if (theirs && all.empty()) label->setText(label->text() + " nothing that counts.");
  layout->addWidget(table_of(all), 1);
  auto* note =
      new QLabel("With “Take theirs” your version is kept for a week, under “Unsaved work” in the menu.");
  note->setWordWrap(true);
  layout->addWidget(note);
  auto* buttons = new QDialogButtonBox;
  DiskAnswer answer = DiskAnswer::cancel;
  const auto add = [&](const QString& text, const char* name, DiskAnswer meaning) {
    QPushButton* button = buttons->addButton(text, QDialogButtonBox::ActionRole);
    button->setObjectName(name);
    button->setAutoDefault(false);
    QObject::connect(button, &QPushButton::clicked, &dialog, [&, meaning] {
      answer = meaning;
      dialog.accept();
    });
    return button;
  };
  add("Take theirs", "take_theirs", DiskAnswer::take_theirs)->setEnabled(theirs.has_value());
  add("Keep mine", "keep_mine", DiskAnswer::keep_mine);
  add("Save as…", "save_as", DiskAnswer::save_as)->setDefault(true);
  add("Cancel", "cancel", DiskAnswer::cancel);
  layout->addWidget(buttons);
  dialog.exec();
  return answer;
}

} // namespace fulmox::app
