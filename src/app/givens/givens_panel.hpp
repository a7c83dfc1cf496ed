#pragma once
#include "app/givens/section_form.hpp"

#include <QLabel>
#include <QScrollArea>

#include <vector>

namespace fulmox::app {

class MachineForm;
class ListForm;
class Session;

/// The inputs of the axis in the order of the work, one folding section each.
class GivensPanel : public QScrollArea {
  Q_OBJECT

public:
  explicit GivensPanel(Session& session, QWidget* parent = nullptr);

  /// Unfolds what is needed and puts the keyboard into an input ("load.moved_mass", "cycle[1].time",
  /// "cycle").
  void go_to(const QString& path);

signals:
  /// A list asks for more than a form: see ListForm::tool_requested.
  void tool_requested(const QString& tool, int index);

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void refresh();

  Session& session_;
  std::vector<SectionForm*> forms_;
  std::vector<ListForm*> lists_;
  std::vector<MachineForm*> machine_;
  QLabel* legend_;
};

} // namespace fulmox::app
