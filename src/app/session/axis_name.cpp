#include "app/session/axis_name.hpp"

#include "app/session/session.hpp"
#include "core/project/names.hpp"

#include <QInputDialog>

namespace fulmox::app {

void ask_axis_name(Session& session, std::size_t axis, QWidget* parent) {
  const QString before = qt(session.document().axes[axis].name);
  QString question = "Name of the axis", name = before;
  for (;;) {
    bool accepted = false;
    name =
        QInputDialog::getText(parent, "Rename axis", question, QLineEdit::Normal, name, &accepted).trimmed();
    if (!accepted || name == before) return;
    if (name.isEmpty())
      question = "An axis needs a name";
    else if (another_axis_called(session.document(), axis, name.toStdString()))
      question = "Another axis is called “" + name + "”. Choose another name";
    else
      return session.edit("Rename axis", "", [&](Document& d) { rename_axis(d, axis, name.toStdString()); });
  }
}

} // namespace fulmox::app
