#pragma once
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace fulmox::app {

/// A field for one number, named for tests and screen readers, with a hint of how to write it.
QLineEdit* number_line(const char* name, const char* what, const QString& hint, int width);
QComboBox* choice_box(const char* name, const char* what, const QStringList& entries);
/// A text of several lines in a role of the style sheet ("soft", "fault").
QLabel* wrapped_label(const char* name, const char* role);
QPushButton* outlined_button(const char* name, const QString& text);
QLabel* heading(const QString& text);

} // namespace fulmox::app
