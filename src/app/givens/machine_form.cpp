#include "app/givens/machine_form.hpp"

#include "app/session/session.hpp"

namespace fulmox::app {

MachineForm::MachineForm(Session& session, int number, const Section& section,
                         std::vector<std::string_view> told, QWidget* parent)
    : Fold(QString::number(number) + "  " + qt(section.spec().title), parent), session_(session),
      path_(section.path), told_(std::move(told)) {
  connect(this, &Fold::opened, this, &MachineForm::build_rows);
}

void MachineForm::build_rows() {
  if (!rows_.empty()) return;
  const Section& section = *session_.section(path_);
  for (std::size_t i = 0; i < section.size(); ++i) {
    rows_.push_back(new FieldRow(session_, section.path, section.field(i)));
    body()->addWidget(rows_.back());
  }
  refresh();
}

void MachineForm::refresh() {
  const Section& section = *session_.section(path_);
  set_summary(QString::fromStdString(summary_of_fields(section, told_)));
  for (std::size_t i = 0; i < rows_.size(); ++i) rows_[i]->show_entry(section.entry(i));
}

FieldRow* MachineForm::reveal(std::string_view field) {
  set_open(true);
  for (FieldRow* row : rows_)
    if (row->field() == field) return row;
  return nullptr;
}

} // namespace fulmox::app
