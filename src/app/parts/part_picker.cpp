#include "app/parts/part_picker.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <QApplication>
#include <QDialogButtonBox>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

/// Sorts by the number behind the text.
class NumberItem : public QTableWidgetItem {
public:
  NumberItem(const QString& text, double value) : QTableWidgetItem(text), value_(value) {
    setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
  }
  bool operator<(const QTableWidgetItem& other) const override {
    const auto* number = dynamic_cast<const NumberItem*>(&other);
    return number != nullptr ? value_ < number->value_ : QTableWidgetItem::operator<(other);
  }

private:
  double value_;
};

/// The number a part is compared by; of a curve, its first point.
double figure(const Entry& entry) { return entry.curve.empty() ? entry.value : entry.curve.front()[1]; }

double largest(const Parts& parts, std::string_view field) {
  double most = 0.0;
  for (const Section& part : parts)
    if (const double value = figure(part.entry(field)); value > most) most = value;
  return most;
}

constexpr int index_role = Qt::UserRole;

/// How a part would do in the axis.
struct Fit {
  QString told, reason;
  double order; ///< those that fit come first, the tightest at the top; then those that do not, the nearest
                ///< first
};

Fit fit_of(const AxisResult& result) {
  constexpr double last = 1e9;
  if (result.evaluation == nullptr) return {"–", qt(result.problem.text()), last};
  const double used = result.worst_used();
  if (std::isnan(used)) return {"–", "No limit can be judged.", last};
  const Limit& worst = result.evaluation->limits.front();
  const QString share = used <= 9.995 ? QString::number(100.0 * used, 'f', 0) + " %" : QString();
  const QString reason =
      "Worst limit: " + qt(worst.label) + (share.isEmpty() ? ", none left." : ", " + share + ".");
  if (used <= 1.0) return {share, reason, 1.0 - used};
  return {"✕ " + (share.isEmpty() ? qt(worst.label) : share), reason, std::min(1.0 + used, last)};
}

} // namespace

PartPicker::PartPicker(Session& session, const SlotSpec& slot, QWidget* parent)
    : QDialog(parent), session_(session), slot_(slot), before_(session.axis()[slot.id]) {
  setObjectName("part_picker");
  setWindowTitle("Choose " + qt(before_.spec().title).toLower());
  resize(900, 480);
  auto* layout = new QVBoxLayout(this);
  search_ = new QLineEdit;
  search_->setObjectName("part_search");
  search_->setPlaceholderText("Part number, maker or size");
  search_->setClearButtonEnabled(true);
  layout->addWidget(search_);
  table_ = new QTableWidget;
  table_->setObjectName("part_table");
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setShowGrid(false);
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(24);
  layout->addWidget(table_);
  auto* hint =
      new QLabel("Going through the list tries each part at once; “used” is the worst limit of the "
                 "axis with it: what fits stands first, the tightest at the top. All parts are invented.");
  hint->setProperty("role", "soft");
  hint->setFont(face(-1));
  layout->addWidget(hint);
  auto* buttons = new QDialogButtonBox;
  auto* none = buttons->addButton("None", QDialogButtonBox::ResetRole);
  auto* take = buttons->addButton("Take it", QDialogButtonBox::AcceptRole);
  auto* back = buttons->addButton("Back to the old one", QDialogButtonBox::RejectRole);
  for (QPushButton* button : {none, take, back}) button->setProperty("role", "outlined");
  layout->addWidget(buttons);
  fill();
  search_->installEventFilter(this); // the arrow keys walk through the list while one types
  connect(search_, &QLineEdit::textChanged, this, &PartPicker::filter);
  // which rows are hidden does not move with what is sorted
  connect(table_->horizontalHeader(), &QHeaderView::sortIndicatorChanged, this,
          [this] { filter(search_->text()); });
  connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) { try_row(row); });
  connect(table_, &QTableWidget::cellDoubleClicked, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &PartPicker::reject);
  connect(none, &QPushButton::clicked, this, [this] {
    session_.edit("Remove " + qt(before_.spec().title).toLower(), "", [&](Document& document) {
      choose_part(document.axes[session_.axis_index()], slot_.id, Section(before_.spec()));
    });
    accept();
  });
  connect(this, &QDialog::finished, this, [this] { session_.seal(); });
  search_->setFocus();
}

std::vector<std::string_view> PartPicker::columns() const { return kind_in(slot_, before_).columns; }

void PartPicker::fill() {
  const Parts& parts = session_.library().of(slot_.id);
  const UnitSet units = session_.document().units;
  QStringList header{"Part", "used"};
  // one unit a column, so that its figures compare at a glance
  for (const std::string_view id : columns()) {
    const FieldSpec& spec = before_.spec().fields[*before_.spec().index_of(id)];
    const std::string unit(display_unit(largest(parts, id), spec.kind, units).symbol);
    header << qt(spec.label) + (unit.empty() ? QString() : "\n" + qt(unit));
  }
  table_->setColumnCount(static_cast<int>(header.size()));
  table_->setHorizontalHeaderLabels(header);
  table_->setRowCount(static_cast<int>(parts.size()));
  int current = -1;
  for (std::size_t i = 0; i < parts.size(); ++i) {
    const int row = static_cast<int>(i);
    auto* name = new QTableWidgetItem(QString::fromStdString(parts[i].text("part_number")));
    name->setData(index_role, row);
    name->setToolTip(QString::fromStdString(parts[i].text("maker")));
    table_->setItem(row, 0, name);
    Axis trial = session_.axis();
    choose_part(trial, slot_.id, parts[i]);
    const Fit fit = fit_of(*work_out(trial, session_.document().house_rules, units));
    table_->setItem(row, 1, new NumberItem(fit.told, fit.order));
    table_->item(row, 1)->setToolTip(fit.reason);
    int column = 2;
    for (const std::string_view id : columns()) {
      const Entry& entry = parts[i].entry(id);
      const FieldSpec& spec = parts[i].spec().fields[*parts[i].spec().index_of(id)];
      const DisplayUnit& unit = display_unit(largest(parts, id), spec.kind, units);
      const double value = figure(entry);
      table_->setItem(row, column++,
                      new NumberItem(qt(significant(value / unit.factor - unit.offset)), value));
    }
    if (parts[i].text("part_number") == before_.text("part_number")) current = row;
  }
  table_->setSortingEnabled(true);
  table_->sortByColumn(1, Qt::AscendingOrder);
  table_->resizeColumnsToContents();
  table_->horizontalHeader()->setStretchLastSection(true);
  for (int row = 0; row < table_->rowCount() && current >= 0; ++row)
    if (table_->item(row, 0)->data(index_role).toInt() == current) {
      table_->setCurrentCell(row, 0);
      table_->scrollToItem(table_->item(row, 0), QAbstractItemView::PositionAtCenter);
      break;
    }
}

bool PartPicker::eventFilter(QObject* watched, QEvent* event) {
  if (watched == search_ && event->type() == QEvent::KeyPress) {
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Up || key == Qt::Key_Down || key == Qt::Key_PageUp || key == Qt::Key_PageDown) {
      QApplication::sendEvent(table_, event);
      return true;
    }
  }
  return QDialog::eventFilter(watched, event);
}

void PartPicker::filter(const QString& text) {
  const QStringList words = text.split(' ', Qt::SkipEmptyParts);
  for (int row = 0; row < table_->rowCount(); ++row) {
    QString all = table_->item(row, 0)->toolTip();
    for (int column = 0; column < table_->columnCount(); ++column)
      all += " " + table_->item(row, column)->text();
    bool match = true;
    for (const QString& word : words) match &= all.contains(word, Qt::CaseInsensitive);
    table_->setRowHidden(row, !match);
  }
}

void PartPicker::try_row(int row) {
  if (row < 0) return;
  const Section& part = session_.library().of(
      slot_.id)[static_cast<std::size_t>(table_->item(row, 0)->data(index_role).toInt())];
  const QString title = qt(before_.spec().title).toLower();
  session_.edit(
      "Choose " + title + " " + QString::fromStdString(part.text("part_number")), "choose " + title,
      [&](Document& document) { choose_part(document.axes[session_.axis_index()], slot_.id, part); });
  tried_ = true;
}

void PartPicker::reject() {
  if (tried_)
    session_.edit(
        "Keep " + qt(before_.spec().title).toLower(), "choose " + qt(before_.spec().title).toLower(),
        [&](Document& document) { choose_part(document.axes[session_.axis_index()], slot_.id, before_); });
  QDialog::reject();
}

} // namespace fulmox::app
