#include "app/find/find_palette.hpp"

#include <QCoreApplication>
#include <QKeyEvent>
#include <QVBoxLayout>

namespace fulmox::app {

FindPalette::FindPalette(std::vector<Finding> findings, QWidget* parent)
    : QDialog(parent), findings_(std::move(findings)) {
  setObjectName("find_palette");
  setWindowTitle("Find");
  resize(480, 360);
  auto* layout = new QVBoxLayout(this);
  line_ = new QLineEdit;
  line_->setObjectName("find_line");
  line_->setPlaceholderText("Input, result, limit, part or command");
  line_->installEventFilter(this);
  layout->addWidget(line_);
  list_ = new QListWidget;
  list_->setObjectName("find_list");
  layout->addWidget(list_);
  connect(line_, &QLineEdit::textChanged, this, &FindPalette::filter);
  connect(line_, &QLineEdit::returnPressed, this, &FindPalette::take);
  connect(list_, &QListWidget::itemActivated, this, &FindPalette::take);
  filter("");
  line_->setFocus();
}

void FindPalette::filter(const QString& text) {
  list_->clear();
  const QStringList words = text.split(' ', Qt::SkipEmptyParts);
  constexpr int most = 60;
  for (std::size_t i = 0; i < findings_.size() && list_->count() < most; ++i) {
    const QString all = findings_[i].kind + "   " + findings_[i].text;
    bool match = true;
    for (const QString& word : words) match &= all.contains(word, Qt::CaseInsensitive);
    if (!match) continue;
    auto* item = new QListWidgetItem(findings_[i].text + "    —  " + findings_[i].kind, list_);
    item->setData(Qt::UserRole, static_cast<int>(i));
  }
  list_->setCurrentRow(0);
}

void FindPalette::take() {
  const QListWidgetItem* item = list_->currentItem();
  accept();
  if (item != nullptr) findings_[static_cast<std::size_t>(item->data(Qt::UserRole).toInt())].act();
}

bool FindPalette::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() == QEvent::KeyPress) {
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Down || key == Qt::Key_Up) {
      QCoreApplication::sendEvent(list_, event);
      return true;
    }
  }
  return QDialog::eventFilter(watched, event);
}

} // namespace fulmox::app
