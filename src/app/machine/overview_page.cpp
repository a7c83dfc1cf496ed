#include "app/machine/overview_page.hpp"

#include "app/machine/machine_edits.hpp"
#include "app/session/axis_name.hpp"
#include "app/session/session.hpp"
#include "app/session/words.hpp"
#include "app/study/table.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"

#include "core/brake/brake.hpp"
#include "core/project/merging.hpp"
#include "core/project/names.hpp"
#include "core/quantity/format.hpp"
#include "core/requirements/duty.hpp"

#include <QFileDialog>
#include <QMessageBox>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

enum Column {
  name,
  bus,
  brake,
  load,
  mechanism,
  motor,
  inertia,
  worst,
  real,
  peak,
  rms,
  mean,
  energy,
  price
};

/// The sum of what is priced among an axis's parts; NaN where nothing is.
double price_of(const Axis& axis) {
  double sum = 0.0;
  bool any = false;
  for (const Section& section : axis.givens)
    if (const double price = section.term_if("price"); !std::isnan(price)) sum += price, any = true;
  const double brake = own_brake_price(axis["brake"], axis["motor"]);
  if (!std::isnan(brake)) sum += brake;
  return any ? sum : std::nan("");
}

} // namespace

OverviewPage::OverviewPage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("machine_overview");
  table_ = reading_table({"Axis", "Bus", "Brake on", "Load", "Mechanism", "Motor", "Inertia\nratio",
                          "Worst\nlimit", "… on its\nreal bus", "Peak\ncurrent", "Rms\ncurrent",
                          "Mean\npower", "Energy a\nyear, cost", "Price"});
  table_->setObjectName("overview_table");
  table_->setAccessibleName("All axes of the machine");
  table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  for (const int column : {mechanism, motor})
    table_->horizontalHeader()->setSectionResizeMode(column, QHeaderView::Fixed);
  table_->setWordWrap(false);
  table_->setFont(face(-1));
  table_->horizontalHeader()->setFont(face(-1));
  table_->verticalHeader()->setDefaultSectionSize(26);
  table_->setHorizontalScrollBarPolicy(Qt::ScrollBarAsNeeded);
  for (const int column : {load, mechanism, motor, bus, brake})
    table_->horizontalHeaderItem(column)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table_->horizontalHeaderItem(real)->setToolTip(
      "The axis judged at the lowest voltage its bus has while it moves, and the highest of the cycle.");
  connect(table_, &QTableWidget::cellDoubleClicked, this,
          [this](int row, int) { emit axis_wanted(static_cast<std::size_t>(row)); });
  connect(table_, &QTableWidget::cellActivated, this,
          [this](int row, int) { emit axis_wanted(static_cast<std::size_t>(row)); });
  auto* tools = new QHBoxLayout;
  const auto tool = [&](const char* id, const QString& text, auto act) {
    auto* button = new QToolButton;
    button->setObjectName(id);
    button->setText(text);
    button->setFont(face(-1));
    connect(button, &QToolButton::clicked, this, act);
    tools->addWidget(button);
    tools_.push_back(button);
  };
  tool("overview_open", "Open", [this] { emit axis_wanted(row()); });
  tool("overview_copy", "Copy", [this] { copy_axis(session_, row()); });
  tool("overview_up", "Up", [this] { move_axis(session_, row(), -1); });
  tool("overview_down", "Down", [this] { move_axis(session_, row(), 1); });
  tool("overview_rename", "Rename…", [this] { rename(); });
  tool("overview_delete", "Delete", [this] { remove(); });
  tool("overview_take", "Take axes from a file…", [this] { take_from_file(); });
  tool("overview_volts", "Take bus voltages", [this] {
    if (run_ != nullptr && run_->complete) take_bus_volts(session_, run_->fed);
  });
  tools_.back()->setToolTip(
      "Types into every axis the lowest voltage its bus has while it moves, and the highest: "
      "then its own limits are judged by them.");
  tools->addStretch();
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(8, 4, 8, 8);
  all->setSpacing(6);
  all->addLayout(tools);
  all->addWidget(table_, 1);
}

void OverviewPage::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fit_columns();
}

/// The words of mechanism and motor give way, so that all numbers stay in sight; what is cut is in the tip.
void OverviewPage::fit_columns() {
  constexpr int least = 76;
  const QAbstractItemView& sizes = *table_; // a table tells them only as a view
  int others = 0;
  for (int column = 0; column < table_->columnCount(); ++column)
    if (column != mechanism && column != motor) others += table_->columnWidth(column);
  const int of_motor = sizes.sizeHintForColumn(motor) + 4;
  const int of_mechanism = sizes.sizeHintForColumn(mechanism) + 4;
  const int left = std::max(table_->viewport()->width() - others, 2 * least);
  const int share = std::max(least, std::min(of_mechanism, left * of_mechanism / (of_motor + of_mechanism)));
  table_->setColumnWidth(mechanism, of_motor + of_mechanism <= left ? of_mechanism : share);
  table_->setColumnWidth(motor, std::max(least, std::min(left - table_->columnWidth(mechanism), of_motor)));
}

std::size_t OverviewPage::row() const { return static_cast<std::size_t>(std::max(0, table_->currentRow())); }

void OverviewPage::rename() {
  const std::size_t axis = row();
  if (axis >= session_.document().axes.size()) return;
  ask_axis_name(session_, axis, this);
}

void OverviewPage::remove() {
  const std::size_t axis = row();
  if (axis >= session_.document().axes.size()) return;
  session_.edit("Remove axis", "", [&](Document& d) { remove_axis(d, axis); });
}

void OverviewPage::take_from_file() {
  const QString path = QFileDialog::getOpenFileName(this, "Take axes from a file", {}, "Machines (*.fulmox)");
  if (path.isEmpty()) return;
  const auto other = load_document(path.toStdString());
  if (!other) {
    QMessageBox::warning(this, "Take axes from a file", qt(other.problem().text()));
    return;
  }
  session_.edit("Take axes from a file", "", [&](Document& d) { take_axes(d, *other); });
}

/// The bus of an axis, to be chosen.
void OverviewPage::fill_bus(int row, int column, const char* field) {
  auto* box = qobject_cast<QComboBox*>(table_->cellWidget(row, column));
  if (box == nullptr) {
    box = new QComboBox;
    box->setFont(face(-1));
    box->setObjectName(QString(field) + "_" + QString::number(row));
    table_->setCellWidget(row, column, box);
    connect(box, &QComboBox::activated, this, [this, box, row, field = std::string(field)] {
      set_bus(session_, static_cast<std::size_t>(row), field, box->currentData().toString().toStdString());
    });
  }
  const Section& room = session_.document().axes[static_cast<std::size_t>(row)]["surroundings"];
  box->blockSignals(true);
  box->clear();
  box->addItem("–", QString());
  for (const Section& section : session_.document().lists.find("buses")->second)
    box->addItem(qt(section.text("name")), qt(section.text("name")));
  const QString now = qt(room.text(field));
  int place = box->findData(now);
  if (place < 0) { // it names a bus that is not there
    box->addItem(now + " ?", now);
    place = box->count() - 1;
  }
  box->setCurrentIndex(place);
  box->blockSignals(false);
}

/// What nothing judges may be worse than the worst that is known.
void OverviewPage::fill_worst(int row, const Evaluation* e) {
  const Limit* limit = e != nullptr ? worst_limit(*e) : nullptr;
  const Document& machine = session_.document();
  const QString open =
      e != nullptr ? qt(left_open(*e, machine.axes[static_cast<std::size_t>(row)], machine)) : QString();
  const QString share = limit != nullptr ? percent_used(limit->used) : QString("–");
  set_cell(table_, row, worst, limit != nullptr && !open.isEmpty() ? "≥ " + share : share);
  QStringList tip;
  if (limit != nullptr) tip << qt(limit->label);
  if (!open.isEmpty()) tip << open;
  table_->item(row, worst)->setToolTip(tip.join("\n"));
}

void OverviewPage::fill_row(int row, const MachineResult& results) {
  const auto i = static_cast<std::size_t>(row);
  const Document& machine = session_.document();
  const Axis& axis = machine.axes[i];
  const UnitSet units = machine.units;
  const auto put = [&](Column column, const QString& text) { set_cell(table_, row, column, text); };
  const auto show = [&](double value, Kind kind) {
    return std::isnan(value) ? QString("–") : qt(format(value, kind, units).text());
  };
  const Evaluation* e = i < results.size() && results[i] != nullptr ? results[i]->evaluation.get() : nullptr;
  put(name, qt(axis.name));
  const auto main = axis["load"].spec().index_of(main_load_input(axis));
  put(load, main && !axis["load"].entry(*main).blank() ? qt(axis["load"].entry(*main).text) : QString("–"));
  put(mechanism, qt(axis["mechanism"].spec().title));
  put(motor,
      axis["motor"].text("part_number").empty()
          ? QString("–")
          : qt(axis["motor"].text("part_number")) + ", " +
                (axis["motor"].is("motor") ? QString("servo") : qt(axis["motor"].spec().title).toLower()));
  for (const Column column : {load, mechanism, motor})
    table_->item(row, column)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  for (const Column column : {mechanism, motor})
    table_->item(row, column)->setToolTip(table_->item(row, column)->text());
  put(inertia, e != nullptr ? show(e->demand.inertia_ratio, Kind::number) : QString("–"));
  fill_worst(row, e);
  put(peak, e != nullptr ? show(e->demand.peak_current, Kind::current) : QString("–"));
  put(rms, e != nullptr ? show(e->demand.rms_current, Kind::current) : QString("–"));
  const bool placed =
      run_ != nullptr && i < run_->power.axes.size() && !run_->power.axes[i].placed.pieces.empty();
  const double watts = placed ? mean_power(run_->power.axes[i].placed) : std::nan("");
  put(mean, show(watts, Kind::power));
  const Duty duty = Duty::from(machine.duty);
  const double kwh = watts * duty.hours / 1000.0;
  put(energy, placed ? qt(significant(kwh, 2)) + " kWh, " + qt(significant(kwh * duty.energy_price, 2))
                     : QString("–"));
  const double money = price_of(axis);
  put(price, std::isnan(money) ? QString("–") : qt(significant(money, 4)));
  put(real, "–");
  if (run_ != nullptr && i < run_->fed.size() && !std::isnan(run_->fed[i].low)) {
    const SharedResult fed = i < fed_.size() ? fed_[i] : nullptr;
    put(real, fed != nullptr ? percent_used(fed->worst_used()) : QString("…"));
    QString tip = "From " + show(run_->fed[i].low, Kind::voltage) + " while it moves to " +
                  show(run_->fed[i].high, Kind::voltage) + ".";
    const Limit* limit =
        fed != nullptr && fed->evaluation != nullptr ? worst_limit(*fed->evaluation) : nullptr;
    if (limit != nullptr) tip += "\nWorst: " + qt(limit->label);
    table_->item(row, real)->setToolTip(tip);
  }
  fill_bus(row, bus, "shared_bus");
  fill_bus(row, brake, "brake_bus");
}

void OverviewPage::show_machine(std::shared_ptr<const MachineRun> run, const MachineResult& results,
                                const MachineResult& fed) {
  run_ = std::move(run);
  fed_ = fed;
  const auto count = static_cast<int>(session_.document().axes.size());
  if (table_->rowCount() != count) table_->setRowCount(count);
  for (int row = 0; row < count; ++row) fill_row(row, results);
  fit_columns();
  if (table_->currentRow() < 0 && count > 0) table_->selectRow(static_cast<int>(session_.axis_index()));
  for (QToolButton* button : tools_)
    if (button->objectName() != "overview_take") button->setEnabled(count > 0);
}

} // namespace fulmox::app
