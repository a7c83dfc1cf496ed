#include "app/widgets/plain_widgets.hpp"

#include "app/theme/theme.hpp"

namespace fulmox::app {

QLineEdit* number_line(const char* name, const char* what, const QString& hint, int width) {
  auto* edit = new QLineEdit;
  edit->setObjectName(name);
  edit->setAccessibleName(what);
  edit->setPlaceholderText(hint);
  edit->setFixedWidth(width);
  edit->setAlignment(Qt::AlignRight);
  return edit;
}

QComboBox* choice_box(const char* name, const char* what, const QStringList& entries) {
  auto* box = new QComboBox;
  box->setObjectName(name);
  box->setAccessibleName(what);
  box->addItems(entries);
  return box;
}

QLabel* wrapped_label(const char* name, const char* role) {
  auto* label = new QLabel;
  label->setObjectName(name);
  label->setProperty("role", role);
  label->setWordWrap(true);
  return label;
}

QPushButton* outlined_button(const char* name, const QString& text) {
  auto* button = new QPushButton(text);
  button->setObjectName(name);
  button->setProperty("role", "outlined");
  return button;
}

QLabel* heading(const QString& text) {
  auto* label = new QLabel(text);
  label->setFont(face(0, true));
  return label;
}

} // namespace fulmox::app
