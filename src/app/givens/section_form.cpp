#include "app/givens/section_form.hpp"

#include "app/parts/part_picker.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/mechanism/mechanism.hpp"

#include <QComboBox>
#include <QFontMetrics>
#include <QResizeEvent>

#include <algorithm>
#include <set>

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

namespace {

QString joined(std::initializer_list<QString> parts) {
  QStringList list;
  for (const QString& part : parts)
    if (!part.isEmpty()) list << part;
  return list.join(" · ");
}

QString text_of(const Section& section, std::string_view field) {
  return QString::fromStdString(section.text(field));
}

} // namespace

QString summarize(const Axis& axis, Given given) {
  const Section& s = axis[given];
  switch (given) {
  case Given::load:
    if (!s.spec().index_of("moved_mass"))
      return joined({text_of(s, "inertia"), text_of(s, "friction_torque")});
    return joined({text_of(s, "moved_mass"), text_of(s, "angle") == "0 °" ? QString() : text_of(s, "angle")});
  case Given::mechanism:
    // its name and its first size say most
    return joined({qt(s.spec().title), QString::fromStdString(s.entry(0).text)});
  case Given::surroundings:
    return joined({text_of(s, "bus"), text_of(s, "ambient")});
  case Given::gearhead:
    return text_of(s, "ratio") == "1" && s.blank("part_number")
               ? QString("none")
               : joined({text_of(s, "ratio") + " : 1", text_of(s, "part_number")});
  case Given::motor:
  case Given::coupling:
  case Given::drive:
    return s.blank("part_number") ? (s.all_blank() ? QString("not chosen") : QString("own data"))
                                  : text_of(s, "part_number");
  case Given::brake:
    return s.text("fitted") == "yes" ? "fitted" : "none";
  case Given::count_:
    break;
  }
  return {};
}

/// Fields worth seeing at once. Of a part, the rest of the data sheet waits behind "more".
static bool prominent(Given given, std::string_view field) {
  static const std::set<std::pair<Given, std::string_view>> list{
      {Given::gearhead, "ratio"},        {Given::gearhead, "efficiency"},
      {Given::motor, "inertia"},         {Given::motor, "kt"},
      {Given::motor, "kt_per"},          {Given::coupling, "inertia"},
      {Given::coupling, "rated_torque"}, {Given::drive, "continuous_current"},
      {Given::drive, "peak_current"},    {Given::load, "moved_mass"},
      {Given::load, "inertia"}};
  return list.contains({given, field});
}

SectionForm::SectionForm(Session& session, int number, Given given, QWidget* parent)
    : Fold(QString::number(number) + "  " +
               (given == Given::mechanism ? QString("Mechanism") : qt(new_axis("")[given].spec().title)),
           parent),
      session_(session), given_(given) {
  connect(this, &Fold::opened, this, &SectionForm::build);
}

std::optional<PartKind> SectionForm::part_kind() const {
  for (const PartKind kind : part_kinds)
    if (given_of(kind) == given_) return kind;
  return std::nullopt;
}

std::string SectionForm::path() const { return session_.axis()[given_].path; }

void SectionForm::build() {
  if (fields_ != nullptr || !session_.has_axis()) return;
  const Section& section = session_.axis()[given_];
  const bool part = part_kind().has_value();
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
    part_->setObjectName("choose_" + qt(section.spec().id));
    part_->setAccessibleName("Choose " + qt(section.spec().title).toLower());
    connect(part_, &QToolButton::clicked, this, &SectionForm::pick_part);
    add_line(part_);
  }
  if (given_ == Given::mechanism) {
    kind_ = new QComboBox;
    kind_->setObjectName("mechanism_kind");
    kind_->setAccessibleName("Kind of mechanism");
    for (const MechanismSpec* spec : mechanism_specs())
      kind_->addItem(qt(spec->section.title), qt(spec->section.id));
    connect(kind_, &QComboBox::activated, this, [this](int index) {
      const MechanismSpec* spec = find_mechanism(kind_->itemData(index).toString().toStdString());
      session_.edit("Mechanism " + qt(spec->section.title).toLower(), "",
                    [&](Document& d) { choose_mechanism(d.axes[session_.axis_index()], *spec); });
    });
    add_line(kind_);
  }
  fields_ = new FieldList(session_, [this, part](const Section& shown, const FieldSpec& field) {
    if (part) return prominent(given_, field.id);
    return field.required || !shown.blank(field.id) || prominent(given_, field.id);
  });
  body()->addWidget(fields_);
  refresh();
}

void SectionForm::refresh() {
  if (!session_.has_axis()) return;
  set_summary(summary());
  if (!is_open()) return;
  if (fields_ == nullptr) return build();
  const Section& section = session_.axis()[given_];
  fields_->show_section(section);
  if (part_ != nullptr) {
    const QString number = text_of(section, "part_number");
    const QString text = number.isEmpty() ? "Choose from the library…" : number + "  ▾";
    if (part_->text() != text) part_->setText(text);
  }
  if (kind_ != nullptr) {
    kind_->setCurrentIndex(kind_->findData(qt(section.spec().id)));
    kind_->setToolTip(qt(find_mechanism(section.spec().id)->help));
  }
}

QString SectionForm::summary() const { return summarize(session_.axis(), given_); }

FieldRow* SectionForm::reveal(std::string_view field) {
  set_open(true);
  return fields_ != nullptr ? fields_->reveal(field) : nullptr;
}

void SectionForm::pick_part() {
  PartPicker picker(session_, *part_kind(), window());
  picker.exec();
}

} // namespace fulmox::app
