#include "app/givens/section_form.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"

#include <QComboBox>
#include <QFontMetrics>
#include <QResizeEvent>

#include <algorithm>

namespace fulmox::app {

Fold::Fold(const QString& title, QWidget* parent) : QWidget(parent), title_(title) {
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  header_ = new QPushButton;
  header_->setProperty("role", "section");
  header_->setFont(face(0, true));
  header_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
  header_->setAccessibleName(title);
  connect(header_, &QPushButton::clicked, this, [this] { set_open(!open_); });
  body_ = new QWidget;
  body_layout_ = new QVBoxLayout(body_);
  body_layout_->setContentsMargins(0, 2, 0, 8);
  body_layout_->setSpacing(1);
  body_->setVisible(false);
  layout->addWidget(header_);
  layout->addWidget(body_);
  show_header();
}

void Fold::set_title(const QString& title) {
  if (title == title_) return;
  title_ = title;
  show_header();
}

void Fold::set_summary(const QString& summary) {
  if (summary == summary_) return;
  summary_ = summary;
  show_header();
}

void Fold::set_open(bool open) {
  if (open == open_) return;
  open_ = open;
  if (open) emit opened();
  body_->setVisible(open);
  show_header();
}

void Fold::show_header() {
  const QString mark = open_ ? "▾  " : "▸  ";
  QString text = mark + title_;
  if (!open_ && !summary_.isEmpty()) {
    const QFontMetrics metrics(header_->font());
    const int room = width() - metrics.horizontalAdvance(text) - 28;
    text += "   " + metrics.elidedText(summary_, Qt::ElideRight, std::max(room, 40));
  }
  header_->setText(text.replace("&", "&&"));
  header_->setToolTip(summary_);
}

void Fold::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  show_header();
}

SectionForm::SectionForm(Session& session, int number, const SlotSpec& slot, QWidget* parent)
    : Fold(QString::number(number) + "  " + qt(slot.title), parent), session_(session), slot_(slot) {
  connect(this, &Fold::opened, this, &SectionForm::build);
}

std::string SectionForm::path() const { return std::string(slot_.id); }

void SectionForm::build() {
  if (fields_ != nullptr || !session_.has_axis()) return;
  const Section& section = session_.axis()[slot_.id];
  const bool part = !kind_in(slot_, section).library.empty();
  const auto add_line = [&](QWidget* widget) {
    widget->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    auto* line = new QVBoxLayout;
    line->setContentsMargins(10, 2, 26, 4);
    line->addWidget(widget);
    body()->addLayout(line);
  };
  if (part) {
    part_ = new QToolButton;
    part_->setProperty("role", "part");
    part_->setObjectName("choose_" + qt(slot_.id));
    part_->setAccessibleName("Choose " + qt(slot_.title).toLower());
    connect(part_, &QToolButton::clicked, this, &SectionForm::pick_part);
    add_line(part_);
  }
  if (slot_.chosen_by != ChosenBy::mechanism && slot_.kinds().size() > 1) {
    kind_ = new QComboBox;
    kind_->setObjectName(qt(slot_.id) + "_kind");
    kind_->setAccessibleName("Kind of " + qt(slot_.title).toLower());
    for (const SlotKind& kind : slot_.kinds()) kind_->addItem(qt(kind.called()), qt(kind.form->id));
    connect(kind_, &QComboBox::activated, this, &SectionForm::choose_from_list);
    add_line(kind_);
  }
  fields_ = new FieldList(session_, [this, part](const Section& shown, const FieldSpec& field) {
    const auto seen = kind_in(slot_, shown).prominent;
    const bool prominent = std::find(seen.begin(), seen.end(), field.id) != seen.end();
    return prominent || (!part && (field.required || !shown.blank(field.id)));
  });
  body()->addWidget(fields_);
  refresh();
}

void SectionForm::choose_from_list(int index) {
  const std::string id = kind_->itemData(index).toString().toStdString();
  for (const SlotKind& kind : slot_.kinds())
    if (kind.form->id == id)
      session_.edit(qt(slot_.title) + " " + qt(kind.called()).toLower(), "",
                    [&](Document& d) { choose_kind(d.axes[session_.axis_index()], slot_, *kind.form); });
}

void SectionForm::refresh() {
  if (!session_.has_axis()) return;
  const SlotKind now = kind_in(slot_, session_.axis()[slot_.id]);
  set_summary(QString::fromStdString(now.summary(session_.axis()[slot_.id])));
  if (!is_open()) return;
  if (fields_ == nullptr) return build();
  const Section& section = session_.axis()[slot_.id];
  fields_->show_section(section);
  if (part_ != nullptr) {
    const QString number = QString::fromStdString(section.text("part_number"));
    const QString text = number.isEmpty() ? "Choose from the library…" : number + "  ▾";
    if (part_->text() != text) part_->setText(text);
  }
  if (kind_ != nullptr) {
    kind_->setCurrentIndex(kind_->findData(qt(section.spec().id)));
    kind_->setToolTip(qt(now.help));
  }
}

FieldRow* SectionForm::reveal(std::string_view field) {
  set_open(true);
  return fields_ != nullptr ? fields_->reveal(field) : nullptr;
}

void SectionForm::pick_part() { emit session_.parts_requested(qt(slot_.id)); }

} // namespace fulmox::app
