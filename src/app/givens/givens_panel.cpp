#include "app/givens/givens_panel.hpp"

#include "app/givens/list_form.hpp"
#include "app/givens/machine_form.hpp"
#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/field_row.hpp"

#include <QTimer>

namespace fulmox::app {

static constexpr int legend_height = 18;

GivensPanel::GivensPanel(Session& session, QWidget* parent) : QScrollArea(parent), session_(session) {
  setObjectName("givens");
  setAccessibleName("Givens");
  setWidgetResizable(true);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setFrameShape(QFrame::NoFrame);
  auto* content = new QWidget;
  auto* layout = new QVBoxLayout(content);
  layout->setContentsMargins(8, 4, 4, 8);
  layout->setSpacing(0);
  int number = 1;
  for (const SlotSpec* slot : axis_slots()) {
    auto* form = new SectionForm(session, number++, *slot);
    forms_.push_back(form);
    layout->addWidget(form);
    for (const ListInfo& info : section_lists()) {
      if (info.after != slot->id) continue;
      auto* list = new ListForm(session, number++, info);
      connect(list, &ListForm::tool_requested, this, &GivensPanel::tool_requested);
      lists_.push_back(list);
      layout->addWidget(list);
    }
  }
  const Document& machine = session.document();
  machine_ = {new MachineForm(session, number++, machine.duty, {"hours", "days"}),
              new MachineForm(session, number++, machine.house_rules, {"name"})};
  for (MachineForm* form : machine_) layout->addWidget(form);
  layout->addStretch();
  setWidget(content);
  legend_ = new QLabel(origin_legend(), this);
  legend_->setObjectName("origin_legend");
  legend_->setProperty("role", "soft");
  legend_->setFont(face(-2));
  legend_->setContentsMargins(10, 0, 4, 0);
  legend_->setToolTip("What the mark at the right of a field says; click a mark to change it.");
  setViewportMargins(0, 0, 0, legend_height);
  // an edit that was refused puts back what was typed: that is told as a change of everything
  new Refresher(session, this, results_changed, [this](Changes) { refresh(); });
  forms_[0]->set_open(true);
  forms_[1]->set_open(true);
  lists_[1]->set_open(true);
}

void GivensPanel::resizeEvent(QResizeEvent* event) {
  QScrollArea::resizeEvent(event);
  legend_->setGeometry(0, height() - legend_height, width(), legend_height);
}

void GivensPanel::refresh() {
  widget()->setEnabled(session_.has_axis());
  for (SectionForm* form : forms_) form->refresh();
  for (ListForm* list : lists_) list->refresh();
  for (MachineForm* form : machine_) form->refresh();
}

void GivensPanel::go_to(const QString& path) {
  if (!session_.has_axis()) return;
  const std::string text = path.toStdString();
  const auto dot = text.rfind('.');
  const std::string section = text.substr(0, dot);
  const std::string field = dot == std::string::npos ? "" : text.substr(dot + 1);
  FieldRow* row = nullptr;
  for (MachineForm* form : machine_)
    if (form->path() == section) row = form->reveal(field);
  for (SectionForm* form : forms_)
    if (form->path() == section) row = form->reveal(field);
  for (ListForm* list : lists_)
    if (section.substr(0, section.find('[')) == list->id())
      row = list->reveal(section == list->id() ? "" : section, field);
  if (row == nullptr) return;
  row->take_focus();
  // rows that were just made get their place in the next turn of the event loop
  QTimer::singleShot(0, row, [this, row] { ensureWidgetVisible(row, 0, 60); });
}

} // namespace fulmox::app
