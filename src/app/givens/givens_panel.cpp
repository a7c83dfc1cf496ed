#include "app/givens/givens_panel.hpp"

#include "app/givens/house_rules_form.hpp"
#include "app/givens/list_form.hpp"
#include "app/session/session.hpp"

#include <QTimer>

namespace fulmox::app {

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
  const auto add = [&](Given given) {
    auto* form = new SectionForm(session, number++, given);
    forms_.push_back(form);
    layout->addWidget(form);
  };
  const auto add_list = [&](std::string_view id, const QString& title,
                            const std::vector<std::string_view>& common) {
    auto* form = new ListForm(session, number++, *find_list(id), title, common);
    connect(form, &ListForm::tool_wanted, this, &GivensPanel::tool_wanted);
    lists_.push_back(form);
    layout->addWidget(form);
  };
  add(Given::load);
  add_list("pieces", "Load pieces", {"cylinder", "cuboid"});
  add(Given::mechanism);
  add_list("cycle", "Move", {"move", "dwell"});
  add(Given::surroundings);
  add(Given::gearhead);
  add_list("stages", "Further stages", {"gear_pair", "belt_stage"});
  for (const Given given : {Given::motor, Given::coupling, Given::brake, Given::drive}) add(given);
  rules_ = new HouseRulesForm(session, number++);
  layout->addWidget(rules_);
  layout->addStretch();
  setWidget(content);
  connect(&session, &Session::changed, this, &GivensPanel::refresh);
  refresh();
  forms_[0]->set_open(true);
  forms_[1]->set_open(true);
  lists_[1]->set_open(true);
}

void GivensPanel::refresh() {
  widget()->setEnabled(session_.has_axis());
  for (SectionForm* form : forms_) form->refresh();
  for (ListForm* list : lists_) list->refresh();
  rules_->refresh();
}

void GivensPanel::go_to(const QString& path) {
  if (!session_.has_axis()) return;
  const std::string text = path.toStdString();
  const auto dot = text.rfind('.');
  const std::string section = text.substr(0, dot);
  const std::string field = dot == std::string::npos ? "" : text.substr(dot + 1);
  FieldRow* row = nullptr;
  if (section == "house_rules") {
    row = rules_->reveal(field);
  } else {
    for (SectionForm* form : forms_)
      if (form->path() == section) row = form->reveal(field);
    for (ListForm* list : lists_)
      if (section.substr(0, section.find('[')) == list->id())
        row = list->reveal(section == list->id() ? "" : section, field);
  }
  if (row == nullptr) return;
  row->take_focus();
  // rows that were just made get their place in the next turn of the event loop
  QTimer::singleShot(0, row, [this, row] { ensureWidgetVisible(row, 0, 60); });
}

} // namespace fulmox::app
