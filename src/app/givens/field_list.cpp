#include "app/givens/field_list.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"

namespace fulmox::app {

FieldList::FieldList(Session& session, Wanted wanted, QWidget* parent)
    : QWidget(parent), session_(session), wanted_(std::move(wanted)) {
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(1);
  more_ = new QToolButton;
  more_->setText("more…");
  more_->setFont(face(-1));
  connect(more_, &QToolButton::clicked, this, [this] {
    all_ = !all_;
    if (const Section* section = session_.section(path_)) show_rows(*section);
  });
  layout->addWidget(more_);
}

void FieldList::rebuild(const Section& section) {
  if (host_ != nullptr) retired_.retire(host_);
  rows_.clear();
  shown_.reset();
  spec_ = &section.spec();
  path_ = section.path;
  host_ = new QWidget(this);
  auto* rows = new QVBoxLayout(host_);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(1);
  for (std::size_t i = 0; i < section.size(); ++i) {
    rows_.push_back(new FieldRow(session_, section.path, section.field(i), host_));
    rows->addWidget(rows_.back());
  }
  static_cast<QVBoxLayout*>(layout())->insertWidget(0, host_);
}

void FieldList::show_rows(const Section& section) {
  bool hidden = false;
  for (std::size_t i = 0; i < rows_.size(); ++i) {
    const Entry& entry = section.entry(i);
    const bool wanted = wanted_(section, section.field(i));
    const bool show = all_ || wanted || entry.faulty() || rows_[i]->isAncestorOf(focusWidget());
    hidden |= !wanted;
    // a row that was never shown counts as hidden to Qt although its parent would show it
    const bool decided = rows_[i]->testAttribute(Qt::WA_WState_ExplicitShowHide);
    if (!decided || rows_[i]->isHidden() == show) rows_[i]->setVisible(show);
  }
  more_->setVisible(hidden);
  more_->setText(all_ ? "fewer" : "more…");
}

void FieldList::show_section(const Section& section) {
  if (spec_ != &section.spec() || path_ != section.path) rebuild(section);
  // most edits leave most sections as they are; a row that is typed in may say something else than its
  // section
  const bool typed_in = focusWidget() != nullptr && isAncestorOf(focusWidget());
  if (!typed_in && shown_ == section) return;
  if (typed_in)
    shown_.reset();
  else
    shown_ = section;
  for (std::size_t i = 0; i < rows_.size(); ++i) rows_[i]->show_entry(section.entry(i));
  show_rows(section);
}

FieldRow* FieldList::reveal(std::string_view field) {
  for (FieldRow* row : rows_) {
    if (row->field() != field) continue;
    if (row->isHidden()) {
      all_ = true;
      if (const Section* section = session_.section(path_)) show_rows(*section);
    }
    return row;
  }
  return nullptr;
}

void FieldList::show_hint(std::string_view field, const QString& hint) {
  for (FieldRow* row : rows_)
    if (row->field() == field) row->show_hint(hint);
}

} // namespace fulmox::app
