#include "app/givens/house_rules_form.hpp"

#include "app/session/session.hpp"

namespace fulmox::app {

HouseRulesForm::HouseRulesForm(Session& session, int number, QWidget* parent)
    : Fold(QString::number(number) + "  House rules", parent), session_(session) {
  connect(this, &Fold::opened, this, &HouseRulesForm::build_rows);
}

void HouseRulesForm::build_rows() {
  if (!rows_.empty()) return;
  const Section& rules = session_.document().house_rules;
  for (std::size_t i = 0; i < rules.size(); ++i) {
    rows_.push_back(new FieldRow(session_, rules.path, rules.field(i)));
    body()->addWidget(rows_.back());
  }
  refresh();
}

void HouseRulesForm::refresh() {
  const Section& rules = session_.document().house_rules;
  set_summary(QString::fromStdString(rules.text("name")));
  for (std::size_t i = 0; i < rows_.size(); ++i) rows_[i]->show_entry(rules.entry(i));
}

FieldRow* HouseRulesForm::reveal(std::string_view field) {
  set_open(true);
  for (FieldRow* row : rows_)
    if (row->field() == field) return row;
  return nullptr;
}

} // namespace fulmox::app
