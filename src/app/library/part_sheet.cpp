#include "app/library/part_sheet.hpp"

#include "app/library/curve_dialog.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/motor/typed_steps.hpp"

#include <cmath>

#include <QEvent>
#include <QHeaderView>
#include <QScopedValueRollback>
#include <QToolButton>
#include <QVBoxLayout>

namespace fulmox::app {
namespace {

/// Line edits and boxes of other rows than the one that is typed into keep what they show.
QString told(const FieldSpec& field, const Entry& entry) {
  if (entry.faulty()) return qt(entry.fault.what + " " + entry.fault.remedy);
  return qt(field.help);
}

} // namespace

PartSheet::PartSheet(QWidget* parent) : QWidget(parent) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(4);
  table_ = new QTableWidget(0, 3);
  table_->setObjectName("sheet_fields");
  table_->setAccessibleName("Data sheet");
  table_->setHorizontalHeaderLabels({"Field", "Value", ""});
  table_->setShowGrid(false);
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(23);
  table_->horizontalHeader()->setHighlightSections(false);
  table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
  table_->horizontalHeader()->setSectionResizeMode(1, QHeaderView::Stretch);
  table_->horizontalHeader()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
  table_->horizontalHeader()->setMinimumSectionSize(24);
  table_->setFont(face(-1));
  all->addWidget(table_, 1);
  remarks_ = wrapped_label("sheet_remarks", "soft");
  remarks_->setFont(face(-1));
  all->addWidget(remarks_);
  connect(table_, &QTableWidget::cellChanged, this, [this](int row, int column) {
    if (filling_ || column != 1 || !part_) return;
    type(std::string(part_->field(static_cast<std::size_t>(row)).id), table_->item(row, 1)->text());
  });
}

void PartSheet::show(const std::string& slot, const Section& part, bool editable, UnitSet units) {
  slot_ = slot;
  part_ = part;
  editable_ = editable;
  units_ = units;
  fill();
}

void PartSheet::clear() {
  part_.reset();
  table_->setRowCount(0);
  remarks_->clear();
}

void PartSheet::type(const std::string& field, const QString& text) {
  const FieldSpec& spec = part_->spec().fields[*part_->spec().index_of(field)];
  const std::string unit = text.trimmed().isEmpty() ? "" : usual_unit(spec, part_->entry(field));
  std::string typed = text.trimmed().toStdString();
  const Kind kind = spec.type == FieldType::curve ? spec.curve_kind : spec.kind;
  if (kind == Kind::angular_speed) typed = steps_as_turns(typed, full_steps_of(*part_), std::nan(""));
  Entry entry = make_entry(spec, typed, unit);
  entry.origin = Origin::data_sheet;
  part_->put(field, std::move(entry));
  show_field(*part_->spec().index_of(field));
  remark();
  emit edited();
}

void PartSheet::fill() {
  {
    const QScopedValueRollback quiet(filling_, true);
    table_->setRowCount(0); // boxes of the part before go with their rows
    table_->setRowCount(static_cast<int>(part_->size()));
  }
  for (std::size_t i = 0; i < part_->size(); ++i) show_field(i);
  remark();
}

void PartSheet::show_field(std::size_t field) {
  const QScopedValueRollback quiet(filling_, true);
  const FieldSpec& spec = part_->field(field);
  const Entry& entry = part_->entry(field);
  const int row = static_cast<int>(field);
  table_->setRowHidden(row, spec.setting || (!editable_ && entry.blank()));
  auto* name = new QTableWidgetItem(qt(spec.label) + (spec.symbol.empty() ? "" : "  " + qt(spec.symbol)));
  name->setFlags(Qt::ItemIsEnabled);
  name->setToolTip(qt(spec.help));
  table_->setItem(row, 0, name);
  auto* value = new QTableWidgetItem(QString::fromStdString(entry.text));
  value->setToolTip(told(spec, entry));
  value->setFlags(editable_ && spec.type != FieldType::choice
                      ? Qt::ItemIsEnabled | Qt::ItemIsEditable | Qt::ItemIsSelectable
                      : Qt::ItemIsEnabled | Qt::ItemIsSelectable);
  table_->setItem(row, 1, value);
  colour(row);
  if (spec.type == FieldType::choice) put_choice(row, spec, entry);
  if (spec.type == FieldType::curve && editable_) put_curve(row, spec, entry);
}

void PartSheet::colour(int row) {
  table_->item(row, 0)->setForeground(theme().soft);
  if (part_->entry(static_cast<std::size_t>(row)).faulty())
    table_->item(row, 1)->setForeground(theme().alarm);
  if (editable_) table_->item(row, 1)->setBackground(theme().field);
}

/// Colours of cells do not follow the look by themselves.
void PartSheet::changeEvent(QEvent* event) {
  QWidget::changeEvent(event);
  if (event->type() != QEvent::StyleChange || !part_) return;
  const QScopedValueRollback quiet(filling_, true);
  for (int row = 0; row < table_->rowCount(); ++row) colour(row);
}

void PartSheet::put_choice(int row, const FieldSpec& field, const Entry& entry) {
  if (!editable_) return table_->item(row, 1)->setText(qt(words_of(field, entry.text)));
  if (auto* box = qobject_cast<QComboBox*>(table_->cellWidget(row, 1))) {
    box->setToolTip(told(field, entry));
    return;
  }
  auto* box = new QComboBox;
  box->setObjectName("sheet_" + qt(field.id));
  box->setAccessibleName(qt(field.label));
  box->setToolTip(qt(field.help));
  box->addItem(field.required ? "choose" : "not told", "");
  for (const Choice& choice : field.choices) box->addItem(qt(choice.label), qt(choice.id));
  const int now = box->findData(QString::fromStdString(entry.text));
  box->setCurrentIndex(std::max(0, now));
  connect(box, &QComboBox::activated, this,
          [this, box, id = std::string(field.id)](int index) { type(id, box->itemData(index).toString()); });
  table_->setCellWidget(row, 1, box);
}

void PartSheet::put_curve(int row, const FieldSpec& field, const Entry&) {
  if (table_->cellWidget(row, 2) != nullptr) return;
  auto* button = new QToolButton;
  button->setText("points…");
  button->setObjectName("sheet_points_" + qt(field.id));
  button->setProperty("role", "part");
  button->setToolTip("Type the points, or click them off a picture of the curve");
  connect(button, &QToolButton::clicked, this, [this, &field] {
    CurveDialog dialog(field, QString::fromStdString(part_->text(field.id)), this);
    if (dialog.exec() == QDialog::Accepted) type(std::string(field.id), dialog.text());
  });
  table_->setCellWidget(row, 2, button);
}

void PartSheet::remark() {
  QStringList all;
  for (const PartRemark& remark : check_part(slot_, *part_, units_))
    all << qt(word(remark.grade)) + ": " + QString::fromStdString(remark.text);
  constexpr int most = 6;
  const auto more = all.size() - most;
  if (more > 0) all = all.mid(0, most) << QString("and %1 more").arg(more);
  remarks_->setText(all.isEmpty() ? "Nothing to remark on this sheet." : all.join('\n'));
}

} // namespace fulmox::app
