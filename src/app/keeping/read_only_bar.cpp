#include "app/keeping/read_only_bar.hpp"

#include "app/keeping/questions.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace fulmox::app {

ReadOnlyBar::ReadOnlyBar(Session& session) : session_(session) {
  setObjectName("read_only_bar");
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(12, 2, 12, 2);
  label_ = new QLabel;
  label_->setObjectName("read_only_text");
  layout->addWidget(label_, 1);
  const auto add = [&](const QString& text, const char* name, auto act) {
    auto* button = new QPushButton(text);
    button->setObjectName(name);
    layout->addWidget(button);
    connect(button, &QPushButton::clicked, this, act);
  };
  add("Try again", "read_only_again", [this] { emit again_requested(); });
  add("Work on a copy", "read_only_copy", [this] { session_.work_on_copy(); });
  add("Edit here anyway", "read_only_anyway", [this] { session_.edit_anyway(); });
  connect(&session, &Session::changed, this, &ReadOnlyBar::refresh);
  connect(&session, &Session::edit_refused, this, &ReadOnlyBar::stress);
  refresh();
}

void ReadOnlyBar::refresh() {
  setVisible(session_.read_only());
  if (!session_.read_only()) return;
  QString told = "Read only: this machine is open in another window";
  if (const auto holder = holder_of(lock_of(side_file_of(session_.path().toStdString()))))
    told += QString(" (process %1, since %2)").arg(holder->process.id).arg(when_told(holder->since));
  label_->setText(told + ".");
  label_->setStyleSheet("");
}

/// What was typed just now is not taken: the reason comes to the eye.
void ReadOnlyBar::stress() {
  label_->setStyleSheet(QString("font-weight: 600; color: %1;").arg(theme().alarm.name()));
}

} // namespace fulmox::app
